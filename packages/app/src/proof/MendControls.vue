<script setup lang="ts">
import type { Mend, MethodName, Place, Source, Verdict } from '@fennip/core';
import { sourceOf, sourcePlace, wearOf } from '@fennip/core';
import { computed } from 'vue';
import { ARMED_METHODS } from '../stores/hand.ts';
import { usePicture } from '../stores/picture.ts';
import { useMending } from '../work/useMending.ts';
import { figuresOf, reasonLine } from '../words/mendWords.ts';

/** All that can be changed about one live mend, with its reason and its figures. */
const props = defineProps<{ mend: Mend; verdict: Verdict | null }>();
const emit = defineEmits<{ fit: [] }>();
const picture = usePicture();
const { change, changeMethod, lockAll, removeAll, switchAll } = useMending();

const method = computed({
  get: (): MethodName => props.mend.method,
  set: (wanted) => void changeMethod(props.mend, wanted),
});
const source = computed(() => sourceOf(props.mend));
const isLocked = computed(() => props.mend.locked === true);

const wear = computed((): number | null => {
  const place = sourcePlace(props.mend);
  if (!place) return null;
  const others = picture.mends.filter(({ id }) => id !== props.mend.id).map(sourcePlace);
  return (
    Math.round(
      wearOf(
        place,
        others.filter((one): one is Place => one !== null),
      ) * 10,
    ) / 10
  );
});
const figures = computed(() => (props.verdict ? figuresOf(props.verdict.measure, wear.value) : []));

interface Field {
  readonly name: string;
  readonly unit: string;
  readonly value: number;
  readonly least: number;
  readonly most: number;
  readonly step: number;
  readonly changed: (value: number) => Mend;
  readonly words: string;
}

/** A mend with something about its source changed; one without a source stays as it is. */
const withSource = (mend: Mend, changed: Partial<Source>): Mend =>
  mend.method === 'bridge' || !mend.source ? mend : { ...mend, source: { ...mend.source, ...changed } };
const degrees = (radians: number): number => Math.round((radians * 180) / Math.PI);

const fields = computed((): Field[] => {
  const { mend } = props;
  const own: Field[] = [
    {
      ...{ name: 'Share', unit: '%', least: 0, most: 100, step: 5, words: 'Changed the share of a mend' },
      value: Math.round(mend.share * 100),
      changed: (value) => ({ ...mend, share: value / 100 }),
    },
  ];
  if (mend.method !== 'recover')
    own.push(
      {
        ...{
          name: 'Margin',
          unit: 'px',
          least: 0,
          most: 200,
          step: 0.5,
          words: 'Changed the margin of a mend',
        },
        value: Number(mend.margin.toFixed(1)),
        changed: (margin) => ({ ...mend, margin }),
      },
      {
        ...{ name: 'Edge', unit: 'px', least: 0, most: 200, step: 0.5, words: 'Changed the edge of a mend' },
        value: Number(mend.edge.toFixed(1)),
        changed: (edge) => ({ ...mend, edge }),
      },
    );
  const from = source.value;
  if (from && mend.method !== 'recover')
    own.push(
      {
        ...{ name: 'Turn', unit: '°', least: -180, most: 180, step: 1, words: 'Turned a source' },
        value: degrees(from.turn ?? 0),
        changed: (value) => withSource(mend, { turn: (value * Math.PI) / 180 }),
      },
      {
        ...{ name: 'Scale', unit: '%', least: 10, most: 400, step: 1, words: 'Scaled a source' },
        value: Math.round(100 * (from.scale ?? 1)),
        changed: (value) => withSource(mend, { scale: value / 100 }),
      },
    );
  return own;
});

function set(field: Field, value: number | undefined): void {
  if (value !== undefined && value !== field.value) change(field.changed(value), field.words);
}
</script>

<template>
  <div class="controls">
    <p class="reason" data-testid="reason">{{ reasonLine(mend) }}</p>
    <div class="row">
      <el-select v-model="method" size="small" :disabled="isLocked" aria-label="Method of this mend">
        <el-option v-for="name in ARMED_METHODS" :key="name" :value="name" :label="name" />
      </el-select>
      <el-button size="small" @click="switchAll([mend], !mend.on)">{{ mend.on ? 'Off' : 'On' }}</el-button>
      <el-button size="small" :aria-pressed="isLocked" @click="lockAll([mend], !isLocked)">{{
        isLocked ? 'Unlock' : 'Lock'
      }}</el-button>
      <el-button size="small" :disabled="isLocked" @click="removeAll([mend])">Take away</el-button>
    </div>
    <div class="fields">
      <label v-for="field in fields" :key="field.name">
        <span>{{ field.name }}</span>
        <el-input-number
          :model-value="field.value"
          size="small"
          :min="field.least"
          :max="field.most"
          :step="field.step"
          :controls="false"
          :disabled="isLocked"
          :aria-label="`${field.name} of this mend in ${field.unit}`"
          @change="(value: number | undefined) => set(field, value)"
        />
        <span class="soft">{{ field.unit }}</span>
      </label>
      <template v-if="source && mend.method !== 'recover'">
        <el-button
          size="small"
          :disabled="isLocked"
          :aria-pressed="source.mirror === true"
          @click="change(withSource(mend, { mirror: source.mirror !== true }), 'Mirrored a source')"
          >Mirror</el-button
        >
        <el-tooltip content="Move the source by up to a few pixels so that edges meet (L)">
          <el-button size="small" :disabled="isLocked" @click="emit('fit')">Fit edges</el-button>
        </el-tooltip>
      </template>
    </div>
    <dl v-if="verdict" data-testid="verdict">
      <div>
        <dt>Verdict</dt>
        <dd>{{ verdict.verdict }}</dd>
      </div>
      <div v-for="{ name, value, meaning } in figures" :key="name">
        <dt>{{ name }}</dt>
        <dd>
          <span class="figures">{{ value }}</span> {{ meaning }}
        </dd>
      </div>
    </dl>
  </div>
</template>

<style scoped>
.controls {
  display: flex;
  flex: none;
  flex-direction: column;
  gap: 4px;
  width: 300px;
  padding-left: 8px;
  border-left: 1px solid var(--line);
  font-size: 13px;
}
.reason {
  margin: 0;
  line-height: 1.25;
}
.row,
.fields {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 2px 5px;
}
.row .el-select {
  width: 84px;
}
.row .el-button,
.fields .el-button {
  margin: 0;
  padding: 0 6px;
}
label {
  display: flex;
  align-items: center;
  gap: 3px;
}
label .el-input-number :deep(.el-input__wrapper) {
  padding: 1px 3px;
}
label .el-input-number {
  width: 40px;
}
dl {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0 10px;
  margin: 0;
  line-height: 1.2;
}
dl div {
  display: flex;
  gap: 5px;
}
dt {
  color: var(--text-soft);
}
dd {
  margin: 0;
  white-space: nowrap;
}
</style>
