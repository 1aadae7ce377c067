<script setup lang="ts">
import { computed, onBeforeUnmount, ref, watch } from 'vue';
import { useRoute } from 'vue-router';
import type Proof from '../../proof/Proof.vue';
import { useJob } from '../../stores/job.ts';
import { usePicture } from '../../stores/picture.ts';
import { useView } from '../../stores/view.ts';
import PictureTable from '../../table/PictureTable.vue';
import { useHand } from '../../stores/hand.ts';
import { useLedger } from '../../stores/ledger.ts';
import { useRound } from '../../round/useRound.ts';
import { say } from '../../i18n/say.ts';
import { useKeys } from './useKeys.ts';
import { useParts } from './useParts.ts';

const route = useRoute();
const job = useJob();
const picture = usePicture();
const view = useView();
const hand = useHand();
const round = useRound();
const table = ref<InstanceType<typeof PictureTable> | null>(null);
const ledger = useLedger();
const proof = ref<InstanceType<typeof Proof> | null>(null);
const isLedgerOpen = ref(true);
const isProofOpen = ref(true);
const stage = computed(() => String(route.params['stage']));

function beginAnew(): void {
  view.reset();
  hand.reset();
}
beginAnew();
// The first picture is opened by the way to this stage.
watch(
  () => route.params['picture'],
  (id) => {
    if (typeof id !== 'string') return;
    beginAnew();
    void picture.open(id);
  },
);

const stopListening = job.listen((event) => {
  const open = picture.picture;
  if (open && event.type === 'edited' && event.pictureId === open.id) void picture.heardEdit(event.revision);
});

/** What the job knows of the open picture. It hears of every change, also while the picture is still being opened. */
const known = computed(() => job.pictures.find(({ id }) => id === picture.picture?.id));
watch(
  known,
  (now) => {
    if (!now || !picture.picture) return;
    const { examined, lookedFor, checked } = picture.picture;
    const isDecidedAnew = examined !== 'done' || JSON.stringify(lookedFor) !== JSON.stringify(now.lookedFor);
    picture.picture = now;
    if (now.checked === 'done' && checked !== 'done') void showLeftovers();
    else if (now.examined === 'done' && isDecidedAnew) void picture.reload();
  },
  // The picture may have been asked for, and have become ready, before this stage was there to hear of it.
  { immediate: true },
);
/** Says what an examination of the mended picture has found. */
async function showLeftovers(): Promise<void> {
  await picture.reload();
  const found = picture.entries.filter(({ origin, state }) => origin !== undefined && state === 'open');
  const made = found.filter(({ origin }) => origin === 'made by a mend').length;
  picture.notice =
    found.length === 0
      ? say('notice.nothingLeft')
      : say('notice.leftOver', { left: found.length - made, made });
  view.choose(found.map(({ id }) => id));
}
// What was done before the line stood, or while it was broken, shows in the picture's revision.
const stopFollowing = job.onFollowing(() => {
  if (known.value) void picture.heardEdit(known.value.revision);
});
onBeforeUnmount(() => {
  stopListening();
  stopFollowing();
});

/** A page that is left while edits are on their way would lose them. */
function warn(event: BeforeUnloadEvent): void {
  if (picture.unsent.length === 0) return;
  picture.saveNow();
  event.preventDefault();
}
addEventListener('beforeunload', warn);
onBeforeUnmount(() => removeEventListener('beforeunload', warn));

const { around, isDue, mountParts } = useParts();
// Where no picture is shown first, nothing is waited for.
watch(stage, (now) => void (now === 'hand-over' && mountParts()), { immediate: true });

const { isHelpOpen } = useKeys({
  swapFit: () => table.value?.swapFit(),
  closer: () => table.value?.zoomBy(1.5),
  farther: () => table.value?.zoomBy(1 / 1.5),
  step: ledger.step,
  takeSource: (number) => proof.value?.take(number),
  fitSource: () => void proof.value?.fit(),
  closeOutline: () => table.value?.closeOutline() ?? false,
  dropPending: () => table.value?.dropPending() ?? false,
  holdSpace: (isHeld) => table.value?.holdSpace(isHeld),
});
</script>

<template>
  <div v-if="picture.problem" class="failed" role="alert">
    <p>{{ picture.problem }}</p>
    <router-link :to="{ name: 'intake', params: { job: route.params['job'] } }">{{
      say('picture.back')
    }}</router-link>
  </div>
  <template v-else-if="stage === 'hand-over'">
    <component :is="around.HandOver" v-if="around" />
  </template>
  <div v-else class="work" :class="{ folded: !isLedgerOpen }">
    <template v-if="around && isDue('ledger')">
      <component :is="around.FinishPanel" v-if="stage === 'finish'" v-show="isLedgerOpen" />
      <component :is="around.Ledger" v-else v-show="isLedgerOpen" />
    </template>
    <div v-else v-show="isLedgerOpen" class="room" />
    <div class="desk">
      <template v-if="around && isDue('bars')">
        <component :is="around.TableBar" />
        <component :is="around.ExamineBar" v-if="stage === 'examine'" />
        <component :is="around.RoundBar" v-if="round.isOn" />
      </template>
      <template v-else>
        <div class="room bar-room" />
        <div v-if="stage === 'examine'" class="room bar-room" />
      </template>
      <div class="table">
        <PictureTable ref="table" class="whole" @seen="mountParts" />
        <component :is="around.StageNotice" v-if="around && isDue('bars')" class="over" />
      </div>
      <template v-if="isProofOpen && stage !== 'finish'">
        <component :is="around.Proof" v-if="around && isDue('proof')" ref="proof" />
        <div v-else class="room proof-room" />
      </template>
      <div class="folds">
        <template v-if="around && isDue('rest')">
          <button type="button" :aria-pressed="isLedgerOpen" @click="isLedgerOpen = !isLedgerOpen">
            {{ say('ledger') }}
          </button>
          <button type="button" :aria-pressed="isProofOpen" @click="isProofOpen = !isProofOpen">
            {{ say('proof') }}
          </button>
          <button type="button" @click="isHelpOpen = true">{{ say('keys.button') }}</button>
          <component :is="around.RebuildMeter" />
          <component
            :is="around.SightButtons"
            class="right"
            :scale="table?.scale ?? 1"
            @whole="table?.fit()"
            @fit="table?.swapFit()"
            @closer="table?.zoomBy(1.5)"
            @farther="table?.zoomBy(1 / 1.5)"
          />
        </template>
      </div>
    </div>
    <component :is="around.KeyHelp" v-if="around && isDue('rest')" v-model="isHelpOpen" />
  </div>
</template>

<style scoped>
.work {
  display: grid;
  grid-template-columns: 300px minmax(0, 1fr);
  height: 100%;
}
.work.folded {
  grid-template-columns: minmax(0, 1fr);
}
.desk {
  display: flex;
  flex-direction: column;
  min-width: 0;
  min-height: 0;
}
.table {
  position: relative;
  flex: 1;
  min-height: 0;
}
.whole {
  height: 100%;
}
/* Over the picture, which would be moved under the hand by what stands above it. */
.over {
  position: absolute;
  bottom: 8px;
  left: 50%;
  max-width: calc(100% - 32px);
  width: max-content;
  transform: translateX(-50%);
}
/* As large as what will stand there: nothing moves when it comes. */
.room {
  background: var(--panel);
}
.bar-room {
  height: 38px;
}
.proof-room {
  height: 152px;
}
.folds {
  display: flex;
  gap: 4px;
  height: 29px;
  padding: 2px 8px;
  border-top: 1px solid var(--line);
  background: var(--panel);
}
.folds .right {
  margin-left: auto;
}
.folds > button {
  padding: 1px 8px;
  border: 0;
  background: none;
  color: var(--text-soft);
  font: inherit;
  font-size: 13px;
  cursor: pointer;
}
.folds > button[aria-pressed='true'] {
  color: var(--text);
  text-decoration: underline;
  text-underline-offset: 3px;
}
.failed {
  max-width: 460px;
  margin: 80px auto;
  padding: 18px 22px;
  border-left: 4px solid var(--open);
  background: var(--raised);
}
</style>
