<script setup lang="ts">
import type { Mend, MethodName, Source, Verdict } from '@fennip/core';
import { sourceOf, sourcePlace, placesUsedBy, wearOf } from '@fennip/core';
import { computed } from 'vue';
import { ARMED_METHODS } from '../stores/hand.ts';
import { usePicture } from '../stores/picture.ts';
import { useMending } from '../work/useMending.ts';
import { figuresOf, reasonLine } from '../words/mendWords.ts';

/** All that can be changed about one live mend, with its reason and its figures. */
const props = defineProps<{ mend: Mend | null; verdict: Verdict | null }>();
const emit = defineEmits<{ fit: [] }>();
const picture = usePicture();
const { change, changeMethod, lockAll, removeAll, switchAll } = useMending();

const method = computed({
  get: (): MethodName | null => props.mend?.method ?? null,
  set: (wanted) => {
    if (props.mend && wanted) void changeMethod(props.mend, wanted);
  },
});
const source = computed(() => props.mend && sourceOf(props.mend));
const isLocked = computed(() => props.mend?.locked === true);
const canTurn = computed(() => source.value !== null && props.mend?.method !== 'recover');

const wear = computed((): number | null => {
  const place = props.mend && sourcePlace(props.mend);
  if (!place) return null;
  const others = placesUsedBy(picture.mends.filter(({ id }) => id !== props.mend?.id));
  return Math.round(wearOf(place, others) * 10) / 10;
});
const figures = computed(() => (props.verdict ? figuresOf(props.verdict.measure, wear.value) : []));

/** One number of a mend that can be changed. */
interface Field {
  readonly name: string;
  readonly unit: string;
  readonly least: number;
  readonly most: number;
  readonly step: number;
  /** What changing it is called in the history. */
  readonly words: string;
  readonly isUsed: (mend: Mend) => boolean;
  readonly read: (mend: Mend) => number;
  readonly write: (mend: Mend, value: number) => Mend;
}

/** A mend with something about its source changed; one without a source stays as it is. */
const withSource = (mend: Mend, changed: Partial<Source>): Mend =>
  mend.method === 'bridge' || !mend.source ? mend : { ...mend, source: { ...mend.source, ...changed } };
const degrees = (radians: number): number => Math.round((radians * 180) / Math.PI);
const isFree = ({ method: name }: Mend): boolean => name !== 'recover';
const hasFreeSource = (mend: Mend): boolean => isFree(mend) && sourceOf(mend) !== null;

const FIELDS: readonly Field[] = [
  {
    ...{ name: 'Share', unit: '%', least: 0, most: 100, step: 5, words: 'Changed the share of a mend' },
    isUsed: () => true,
    read: ({ share }) => Math.round(share * 100),
    write: (mend, value) => ({ ...mend, share: value / 100 }),
  },
  {
    ...{ name: 'Margin', unit: 'px', least: 0, most: 200, step: 0.5, words: 'Changed the margin of a mend' },
    isUsed: isFree,
    read: ({ margin }) => Number(margin.toFixed(1)),
    write: (mend, margin) => ({ ...mend, margin }),
  },
  {
    ...{ name: 'Edge', unit: 'px', least: 0, most: 200, step: 0.5, words: 'Changed the edge of a mend' },
    isUsed: isFree,
    read: ({ edge }) => Number(edge.toFixed(1)),
    write: (mend, edge) => ({ ...mend, edge }),
  },
  {
    ...{ name: 'Turn', unit: '°', least: -180, most: 180, step: 1, words: 'Turned a source' },
    isUsed: hasFreeSource,
    read: (mend) => degrees(sourceOf(mend)?.turn ?? 0),
    write: (mend, value) => withSource(mend, { turn: (value * Math.PI) / 180 }),
  },
  {
    ...{ name: 'Scale', unit: '%', least: 10, most: 400, step: 1, words: 'Scaled a source' },
    isUsed: hasFreeSource,
    read: (mend) => Math.round(100 * (sourceOf(mend)?.scale ?? 1)),
    write: (mend, value) => withSource(mend, { scale: value / 100 }),
  },
];

// Usable while nothing is shown: the number field tells screen readers of `disabled` only when it is mounted.
const isUsable = (field: Field): boolean =>
  props.mend === null || (!isLocked.value && field.isUsed(props.mend));
const valueOf = (field: Field): number => (props.mend ? field.read(props.mend) : field.least);

function set(field: Field, value: number | undefined): void {
  if (props.mend && value !== undefined && value !== field.read(props.mend))
    change(field.write(props.mend, value), field.words);
}

function mirror(): void {
  if (!props.mend) return;
  change(withSource(props.mend, { mirror: source.value?.mirror !== true }), 'Mirrored a source');
}

/** Does something with the mend that is shown. */
const withMend = (act: (mend: Mend) => void): void => {
  if (props.mend) act(props.mend);
};
</script>

<template>
  <div class="controls">
    <p class="reason" data-testid="reason">{{ mend ? reasonLine(mend) : '' }}</p>
    <div class="row">
      <el-select v-model="method" size="small" :disabled="isLocked" aria-label="Method of this mend">
        <el-option v-for="name in ARMED_METHODS" :key="name" :value="name" :label="name" />
      </el-select>
      <el-button size="small" @click="withMend((one) => switchAll([one], !one.on))">{{
        mend?.on === false ? 'On' : 'Off'
      }}</el-button>
      <el-button
        size="small"
        :aria-pressed="isLocked"
        @click="withMend((one) => lockAll([one], one.locked !== true))"
        >{{ isLocked ? 'Unlock' : 'Lock' }}</el-button
      >
      <el-button size="small" :disabled="isLocked" @click="withMend((one) => removeAll([one]))"
        >Take away</el-button
      >
    </div>
    <div class="fields">
      <label v-for="field in FIELDS" :key="field.name" :class="{ unused: mend && !field.isUsed(mend) }">
        <span>{{ field.name }}</span>
        <el-input-number
          :model-value="valueOf(field)"
          size="small"
          :min="field.least"
          :max="field.most"
          :step="field.step"
          :controls="false"
          :disabled="!isUsable(field)"
          :aria-label="`${field.name} of this mend in ${field.unit}`"
          @change="(value: number | undefined) => set(field, value)"
        />
        <span class="soft">{{ field.unit }}</span>
      </label>
      <el-button
        size="small"
        :disabled="isLocked || !canTurn"
        :aria-pressed="source?.mirror === true"
        @click="mirror"
        >Mirror</el-button
      >
      <el-button
        size="small"
        :disabled="isLocked || !canTurn"
        title="Move the source by up to a few pixels so that edges meet (L)"
        @click="emit('fit')"
        >Fit edges</el-button
      >
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
label.unused {
  visibility: hidden;
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
