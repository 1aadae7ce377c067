<script setup lang="ts">
import { said } from '@fennip/words';
import type { Mend, MethodName, Treatment, Verdict } from '@fennip/core/mend';
import type { Rect } from '@fennip/core/raster';
import {
  isSourced,
  isSpotMend,
  isTreatment,
  placesUsedBy,
  sourceOf,
  sourcePlace,
  wearOf,
} from '@fennip/core/mend';
import { computed, ref, watch } from 'vue';
import { ARMED_METHODS } from '../stores/hand.ts';
import { usePicture } from '../stores/picture.ts';
import { useMendChanges } from '../actions/useMendChanges.ts';
import { figuresOf, reasonLine } from '../i18n/mendWords.ts';
import { say, stepSaid } from '../i18n/say.ts';
import FindShift from '../treat/FindShift.vue';
import GrainFigures from '../treat/GrainFigures.vue';
import TreatFields from '../treat/TreatFields.vue';
import MendZone from '../fence/MendZone.vue';
import { useFences } from '../stores/fences.ts';
import GuideButtons from './GuideButtons.vue';
import MendField from './MendField.vue';
import PullCorners from './PullCorners.vue';
import type { MendFieldKind } from './mendFields.ts';
import { MEND_FIELDS, withSource } from './mendFields.ts';

/** All that can be changed about one live mend, with its reason and its figures. */
const props = defineProps<{
  mend: Mend | null;
  verdict: Verdict | null;
  rect: Rect | null;
  version: number;
}>();
const emit = defineEmits<{ fit: [] }>();
const picture = usePicture();
const fences = useFences();
const { change, changeMethod, lockAll, removeAll, switchAll } = useMendChanges();

const method = computed({
  get: (): MethodName | null => (props.mend && isSpotMend(props.mend) ? props.mend.method : null),
  set: (wanted) => {
    if (props.mend && wanted) void changeMethod(props.mend, wanted);
  },
});
const source = computed(() => props.mend && sourceOf(props.mend));
const treatment = computed(() => (props.mend && isTreatment(props.mend) ? props.mend : null));
const changeTreatment = (next: Treatment): void =>
  change(next, stepSaid('step.treatment', { name: said(`method.${next.method}`) }));
const draftTreatment = (next: Treatment): void => void picture.draft(next);
const typedName = ref('');
watch(
  () => treatment.value?.name,
  (name) => {
    typedName.value = name ?? '';
  },
  { immediate: true },
);
/** Gives a treatment a name of its own, or takes it away. */
function rename(name: string): void {
  if (!treatment.value) return;
  const { name: before, ...unnamed } = treatment.value;
  const next = name.trim();
  if (next !== (before ?? ''))
    change(next === '' ? unnamed : { ...unnamed, name: next }, stepSaid('step.named'));
}
const isLocked = computed(() => props.mend?.locked === true);
const canTurn = computed(() => source.value !== null && props.mend?.method !== 'recover');

const wear = computed((): number | null => {
  const place = props.mend && sourcePlace(props.mend);
  if (!place) return null;
  const others = placesUsedBy(picture.mends.filter(({ id }) => id !== props.mend?.id));
  return Math.round(wearOf(place, others) * 10) / 10;
});
const figures = computed(() => (props.verdict ? figuresOf(props.verdict.measure, wear.value) : []));

// Usable while nothing is shown: the number field tells screen readers of `disabled` only when it is mounted.
const isUsable = (field: MendFieldKind): boolean =>
  props.mend === null || (!isLocked.value && field.isUsed(props.mend));
const valueOf = (field: MendFieldKind): number => (props.mend ? field.read(props.mend) : field.least);

function set(field: MendFieldKind, value: number | undefined): void {
  if (props.mend && value !== undefined && value !== field.read(props.mend))
    change(field.write(props.mend, value), stepSaid(`step.${field.name}`));
}

function mirror(): void {
  if (!props.mend) return;
  change(withSource(props.mend, { mirror: source.value?.mirror !== true }), stepSaid('step.mirror'));
}

/** Lets the corners of the copied piece go back to where they were. */
function unpull(): void {
  if (!props.mend || !isSourced(props.mend) || !props.mend.source) return;
  const { warp, ...unpulled } = props.mend.source;
  if (warp) change({ ...props.mend, source: unpulled }, stepSaid('step.unpulled'));
}

/** Does something with the mend that is shown. */
const withMend = (act: (mend: Mend) => void): void => {
  if (props.mend) act(props.mend);
};
</script>

<template>
  <div class="controls" :class="{ wide: treatment }">
    <div v-show="!treatment" class="why">
      <p class="reason" data-testid="reason">{{ mend ? reasonLine(mend) : '' }}</p>
      <MendZone v-if="!treatment && fences.zones.length > 0" :mend="mend" />
    </div>
    <div class="row">
      <el-select
        v-show="!treatment"
        v-model="method"
        :persistent="false"
        size="small"
        :disabled="isLocked"
        :aria-label="say('proof.method')"
      >
        <el-option v-for="name in ARMED_METHODS" :key="name" :value="name" :label="say(`method.${name}`)" />
      </el-select>
      <el-button size="small" @click="withMend((one) => switchAll([one], !one.on))">{{
        say(mend?.on === false ? 'proof.on' : 'proof.off')
      }}</el-button>
      <el-button
        size="small"
        :aria-pressed="isLocked"
        @click="withMend((one) => lockAll([one], one.locked !== true))"
        >{{ say(isLocked ? 'act.unlock' : 'act.lock') }}</el-button
      >
      <el-button size="small" :disabled="isLocked" @click="withMend((one) => removeAll([one]))">{{
        say('act.takeAway')
      }}</el-button>
      <PullCorners
        :mend="canTurn ? mend : null"
        :is-usable="!isLocked"
        @change="(next) => change(next, stepSaid('step.pulled'))"
      />
      <el-input
        v-if="treatment"
        v-model="typedName"
        size="small"
        class="name"
        :maxlength="80"
        :disabled="isLocked"
        :placeholder="say('proof.name')"
        :aria-label="say('proof.name')"
        @change="rename"
      />
      <MendZone v-if="treatment && fences.zones.length > 0" :mend="mend" />
    </div>
    <TreatFields v-if="treatment" :treatment="treatment" @change="changeTreatment" @draft="draftTreatment" />
    <GrainFigures
      v-if="treatment?.method === 'regrain'"
      :treatment="treatment"
      :rect="rect"
      :version="version"
    />
    <FindShift v-if="treatment?.method === 'shift'" :treatment="treatment" @change="changeTreatment" />
    <div v-show="!treatment" class="fields" :class="{ dense: mend?.method === 'rebuild' }">
      <MendField
        v-for="field in MEND_FIELDS"
        :key="field.name"
        :field="field"
        :value="valueOf(field)"
        :is-shown="mend === null || field.isUsed(mend)"
        :is-usable="isUsable(field)"
        @change="set"
      />
      <el-button
        v-show="mend?.method !== 'rebuild'"
        size="small"
        :disabled="isLocked || !canTurn"
        :aria-pressed="source?.mirror === true"
        @click="mirror"
        >{{ say('proof.mirror') }}</el-button
      >
      <el-button
        v-show="mend?.method !== 'rebuild'"
        size="small"
        :disabled="isLocked || !canTurn"
        :title="say('proof.fit.does')"
        @click="emit('fit')"
        >{{ say('proof.fit') }}</el-button
      >
      <el-button v-if="source?.warp" size="small" :disabled="isLocked" @click="unpull">{{
        say('proof.unpull')
      }}</el-button>
      <GuideButtons v-if="mend?.method === 'rebuild'" :is-usable="!isLocked" />
    </div>
    <dl v-if="verdict" data-testid="verdict">
      <div>
        <dt>{{ say('proof.verdict') }}</dt>
        <dd>{{ say(`verdict.${verdict.verdict}`) }}</dd>
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
  gap: 2px;
  width: 300px;
  padding-left: 8px;
  border-left: 1px solid var(--line);
  font-size: 13px;
}
.controls.wide {
  width: 474px;
}
.why {
  display: flex;
  gap: 5px;
  align-items: flex-start;
  justify-content: space-between;
}
.why .el-select {
  flex: none;
  width: 96px;
}
.reason {
  margin: 0;
  line-height: 1.15;
}
.row,
.fields {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 2px 5px;
}
/* What guides a rebuild stands where other mends have what turns their source. */
.dense :deep(.unused) {
  display: none;
}
.row .name {
  width: 130px;
}
.row .el-select {
  width: 80px;
}
.row :deep(.el-button),
.fields :deep(.el-button) {
  margin: 0;
  padding: 0 6px;
}
dl {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0 10px;
  margin: 0;
  line-height: 1.15;
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
