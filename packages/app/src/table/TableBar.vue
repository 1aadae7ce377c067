<script setup lang="ts">
import { computed } from 'vue';
import HistoryList from '../history/HistoryList.vue';
import type { ArmedMethod, Pressure } from '../stores/hand.ts';
import { ARMED_METHODS, DRAWN_SHAPES, PRESSURES, SOURCE_WAYS, useHand } from '../stores/hand.ts';
import { usePicture } from '../stores/picture.ts';
import type { Marks } from '../stores/view.ts';
import { COMPARED, COMPARISONS, MARK_CHOICES, useView } from '../stores/view.ts';

defineProps<{ scale: number }>();
const emit = defineEmits<{ fit: []; whole: []; closer: []; farther: [] }>();

/** What each method does, and its key. */
const METHODS: Readonly<Record<ArmedMethod, string>> = {
  recover: 'Recover: undo a shadow or a lit veil and keep the detail under it (W)',
  heal: 'Heal: texture from a source, tone from around (E)',
  clone: 'Clone: a straight copy of a source (R)',
  bridge: 'Bridge: close a thin line from both of its sides (T)',
};

const view = useView();
const hand = useHand();
const picture = usePicture();
const nextUndo = computed(() => picture.done.at(-1)?.words);
const nextRedo = computed(() => picture.undone[0]?.words);
const capital = (word: string): string => word.charAt(0).toUpperCase() + word.slice(1);
const hasSource = computed(() => hand.method === 'heal' || hand.method === 'clone');

/** A setting of the method in hand, as the field shows it. */
const setting = (name: 'radius' | 'edge', digits: number) =>
  computed({
    get: () => Number(hand.current[name].toFixed(digits)),
    set: (value: number) => hand.set({ [name]: value }),
  });
const size = setting('radius', 1);
const edge = setting('edge', 1);
const share = computed({
  get: () => Math.round(hand.current.share * 100),
  set: (percent: number) => hand.set({ share: percent / 100 }),
});
</script>

<template>
  <div class="bars">
    <div class="bar" role="toolbar" aria-label="Table">
      <div class="group">
        <el-tooltip
          placement="top"
          :enterable="false"
          v-for="method in ARMED_METHODS"
          :key="method"
          :content="METHODS[method]"
        >
          <el-button
            size="small"
            :type="hand.method === method ? 'primary' : 'default'"
            :aria-pressed="hand.method === method"
            @click="hand.arm(method)"
            >{{ capital(method) }}</el-button
          >
        </el-tooltip>
      </div>
      <div class="group">
        <el-tooltip
          placement="top"
          :enterable="false"
          :content="nextUndo ? `Undo: ${nextUndo} (Ctrl Z)` : 'Nothing to undo'"
        >
          <el-button size="small" :disabled="!nextUndo" @click="picture.undo()">Undo</el-button>
        </el-tooltip>
        <el-tooltip
          placement="top"
          :enterable="false"
          :content="nextRedo ? `Redo: ${nextRedo} (Ctrl Shift Z)` : 'Nothing to redo'"
        >
          <el-button size="small" :disabled="!nextRedo" @click="picture.redo()">Redo</el-button>
        </el-tooltip>
        <el-popover trigger="click" :width="280" placement="bottom-start">
          <template #reference>
            <el-button size="small">History</el-button>
          </template>
          <HistoryList />
        </el-popover>
      </div>
      <div class="group">
        <el-tooltip placement="top" :enterable="false" content="Show the original while held (X)">
          <el-button
            size="small"
            @pointerdown="view.isOriginalHeld = true"
            @pointerup="view.isOriginalHeld = false"
            @pointerleave="view.isOriginalHeld = false"
            >Original</el-button
          >
        </el-tooltip>
        <el-popover trigger="click" :width="220" placement="bottom-start">
          <template #reference>
            <el-button size="small" :type="view.comparison === 'none' ? 'default' : 'primary'"
              >Compare</el-button
            >
          </template>
          <fieldset>
            <legend>Before and after</legend>
            <el-radio-group v-model="view.comparison" aria-label="How before and after are compared">
              <el-radio v-for="way in COMPARISONS" :key="way" :value="way">{{ way }}</el-radio>
            </el-radio-group>
          </fieldset>
          <fieldset>
            <legend>Of what</legend>
            <el-radio-group v-model="view.compared" aria-label="What is compared">
              <el-radio v-for="what in COMPARED" :key="what" :value="what">{{ what }}</el-radio>
            </el-radio-group>
          </fieldset>
          <label v-if="view.comparison === 'blinking'" class="field">
            <span>Each side for</span>
            <el-input-number
              v-model="view.blinkMs"
              size="small"
              :min="150"
              :max="4000"
              :step="50"
              :controls="false"
              aria-label="Milliseconds each side is shown"
            />
            <span class="soft">ms</span>
          </label>
        </el-popover>
      </div>
      <div class="group right">
        <label class="field">
          <span>Marks</span>
          <el-select
            :model-value="view.marks"
            size="small"
            style="width: 88px"
            aria-label="Which marks are shown (V)"
            @update:model-value="(marks: Marks) => (view.marks = marks)"
          >
            <el-option v-for="choice in MARK_CHOICES" :key="choice" :value="choice" :label="choice" />
          </el-select>
        </label>
        <el-tooltip placement="top" :enterable="false" content="Farther (−)">
          <el-button size="small" aria-label="Farther" @click="emit('farther')">−</el-button>
        </el-tooltip>
        <span class="figures zoom" data-testid="zoom"
          >{{ (scale * 100).toFixed(scale < 0.1 ? 1 : 0) }} %</span
        >
        <el-tooltip placement="top" :enterable="false" content="Closer (+)">
          <el-button size="small" aria-label="Closer" @click="emit('closer')">+</el-button>
        </el-tooltip>
        <el-tooltip placement="top" :enterable="false" content="Whole picture">
          <el-button size="small" @click="emit('whole')">Whole</el-button>
        </el-tooltip>
        <el-tooltip placement="top" :enterable="false" content="Whole picture or 1:1 at the pointer (F)">
          <el-button size="small" @click="emit('fit')">1:1</el-button>
        </el-tooltip>
      </div>
    </div>
    <div v-if="hand.method !== null" class="bar second" role="toolbar" aria-label="Method in hand">
      <el-radio-group v-model="hand.shape" size="small" aria-label="How the hand draws (O)">
        <el-radio-button v-for="shape in DRAWN_SHAPES" :key="shape" :value="shape">{{
          capital(shape)
        }}</el-radio-button>
      </el-radio-group>
      <label class="field">
        <span>Size</span>
        <el-input-number
          v-model="size"
          size="small"
          :min="0.5"
          :max="400"
          :controls="false"
          aria-label="Radius of the mark in pixels"
        />
        <span class="soft">px</span>
      </label>
      <label v-if="hasSource" class="field">
        <span>Edge</span>
        <el-input-number
          v-model="edge"
          size="small"
          :min="0"
          :max="100"
          :controls="false"
          aria-label="Width of the soft border in pixels"
        />
        <span class="soft">px</span>
      </label>
      <label class="field">
        <span>Share</span>
        <el-input-number
          v-model="share"
          size="small"
          :min="1"
          :max="100"
          :controls="false"
          aria-label="How much of the fault is taken away, in per cent"
        />
        <span class="soft">%</span>
      </label>
      <template v-if="hasSource">
        <el-tooltip
          placement="top"
          :enterable="false"
          content="Then click the place to take from (A held and a click)"
        >
          <el-button
            size="small"
            :type="hand.isSettingSource ? 'primary' : 'default'"
            :aria-pressed="hand.isSettingSource"
            @click="hand.isSettingSource = !hand.isSettingSource"
            >{{ hand.source ? 'Source set' : 'Set source' }}</el-button
          >
        </el-tooltip>
        <el-popover trigger="click" :width="240" placement="bottom-start">
          <template #reference>
            <el-button size="small">Source {{ hand.way }}</el-button>
          </template>
          <fieldset>
            <legend>From stroke to stroke the source</legend>
            <el-radio-group v-model="hand.way" aria-label="From stroke to stroke the source">
              <el-radio v-for="way in SOURCE_WAYS" :key="way" :value="way">{{ way }}</el-radio>
            </el-radio-group>
          </fieldset>
          <fieldset>
            <legend>Clone reads</legend>
            <el-radio-group v-model="hand.reads" aria-label="Clone reads">
              <el-radio value="mended">the picture as mended so far</el-radio>
              <el-radio value="original">the original</el-radio>
            </el-radio-group>
          </fieldset>
          <el-checkbox v-model="hand.isEdgeFitted">Move it so that edges meet</el-checkbox>
          <el-button v-if="hand.source" size="small" @click="hand.source = null"
            >Leave it to the program</el-button
          >
        </el-popover>
      </template>
      <label class="field">
        <span>Pressure</span>
        <el-select
          :model-value="hand.pressure"
          size="small"
          style="width: 92px"
          aria-label="What the pressure of a pen changes"
          @update:model-value="(what: Pressure) => (hand.pressure = what)"
        >
          <el-option v-for="what in PRESSURES" :key="what" :value="what" :label="what" />
        </el-select>
      </label>
      <el-tooltip placement="top" :enterable="false" content="Lay the method down (Esc)">
        <el-button size="small" class="right" @click="hand.layDown()">Lay down</el-button>
      </el-tooltip>
    </div>
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  align-items: center;
  gap: 14px;
  height: 38px;
  padding: 0 10px;
  overflow-x: auto;
  overflow-y: hidden;
  border-bottom: 1px solid var(--line);
  background: var(--panel);
}
.bars {
  position: relative;
}
/* Over the picture, not above it: what is looked at must not jump when a method is taken up. */
.second {
  position: absolute;
  z-index: 2;
  top: 100%;
  right: 0;
  left: 0;
  gap: 10px;
  box-shadow: 0 2px 6px rgb(0 0 0 / 20%);
  border-left: 4px solid var(--chosen);
  background: var(--raised);
}
.bar > * {
  flex: none;
}
.group {
  display: flex;
  align-items: center;
  gap: 5px;
}
.group .el-button + .el-button {
  margin-left: 0;
}
.right {
  margin-left: auto;
}
.field {
  display: flex;
  align-items: center;
  gap: 6px;
  font-size: 13px;
}
.field .el-input-number {
  width: 58px;
}
fieldset {
  margin: 0 0 8px;
  padding: 0;
  border: 0;
}
legend {
  padding: 0;
  color: var(--text-soft);
  font-size: 13px;
}
.zoom {
  width: 58px;
  text-align: right;
}
</style>
