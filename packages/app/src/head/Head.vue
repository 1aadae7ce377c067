<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useJob } from '../stores/job.ts';
import { usePicture } from '../stores/picture.ts';
import { useRuns } from '../stores/runs.ts';
import { say } from '../i18n/say.ts';
import type { WantedPlace } from '../stores/view.ts';
import { useView } from '../stores/view.ts';
import ContactSheet from './ContactSheet.vue';
import OthersHere from './OthersHere.vue';
import ProgressLine from './ProgressLine.vue';
import WhoIsThere from './WhoIsThere.vue';

const route = useRoute();
const router = useRouter();
const job = useJob();
const picture = usePicture();
const runs = useRuns();
const view = useView();
const isSheetOpen = ref(false);
/** A run is shown as a whole; else what goes on picture by picture. */
const background = computed(() => runs.share ?? job.backgroundShare);

watch(
  () => route.params['job'],
  (id) => {
    if (typeof id === 'string') void job.open(id);
    else job.close();
  },
  { immediate: true },
);
watch(
  () => route.fullPath,
  () => {
    isSheetOpen.value = false;
  },
);
const isPictureOpen = computed(() => route.name === 'picture');
const share = computed(() => {
  const all = picture.entries;
  return all.length === 0 ? 0 : all.filter(({ state }) => state !== 'open').length / all.length;
});

function openPicture(id: string): void {
  const stage = isPictureOpen.value ? String(route.params['stage']) : 'examine';
  void router.push({ name: 'picture', params: { job: job.job?.id ?? '', picture: id, stage } });
}

function openPlace(place: WantedPlace): void {
  view.seek(place);
  isSheetOpen.value = false;
  if (picture.picture?.id !== place.picture) openPicture(place.picture);
}
</script>

<template>
  <header class="head">
    <router-link to="/" class="name">{{ say('name') }}</router-link>
    <nav class="path" :aria-label="say('head.where')">
      <template v-if="job.job">
        <span aria-hidden="true">/</span>
        <router-link :to="{ name: 'intake', params: { job: job.job.id } }">{{ job.job.name }}</router-link>
      </template>
      <template v-if="isPictureOpen && picture.picture">
        <span aria-hidden="true">/</span>
        <button
          type="button"
          class="sheet-button"
          :aria-expanded="isSheetOpen"
          :title="say('head.allPictures')"
          @click="isSheetOpen = !isSheetOpen"
        >
          {{ picture.picture.name }}
        </button>
      </template>
    </nav>
    <OthersHere />
    <ProgressLine v-if="job.job" :share="share" />
    <div class="work">
      <!-- Its room is kept: nothing moves with every mend that is saved. -->
      <span :class="{ saved: picture.unsent.length === 0 }">{{ say('head.saving') }}</span>
      <template v-if="background !== null">
        <span>{{ say('head.working') }}</span>
        <span
          class="meter"
          role="progressbar"
          :aria-label="say('head.background')"
          :aria-valuenow="Math.round(background * 100)"
          aria-valuemin="0"
          aria-valuemax="100"
          ><i :style="{ width: `${background * 100}%` }"
        /></span>
      </template>
    </div>
    <WhoIsThere />
  </header>
  <ContactSheet
    v-if="isSheetOpen"
    class="over"
    @open="openPicture"
    @place="openPlace"
    @close="isSheetOpen = false"
  />
</template>

<style scoped>
.saved {
  visibility: hidden;
}
.head {
  display: flex;
  align-items: center;
  gap: 12px;
  min-width: 0;
  padding: 0 14px;
  background: var(--head);
  color: var(--head-text);
}
.name {
  color: inherit;
  font-size: 16px;
  font-weight: 650;
  text-decoration: none;
}
.path {
  display: flex;
  flex: 1;
  gap: 8px;
  min-width: 60px;
  overflow: hidden;
  color: var(--head-soft);
  white-space: nowrap;
}
.path a,
.sheet-button {
  overflow: hidden;
  padding: 0;
  border: 0;
  background: none;
  color: var(--head-text);
  font: inherit;
  text-overflow: ellipsis;
  text-decoration: none;
  cursor: pointer;
}
.sheet-button::after {
  content: ' ▾';
  color: var(--head-soft);
}
.path a:hover,
.sheet-button:hover {
  text-decoration: underline;
}
.head :focus-visible {
  outline-color: #fff;
}
.work {
  display: flex;
  align-items: center;
  justify-content: flex-end;
  gap: 8px;
  width: 150px;
  color: var(--head-soft);
  font-size: 13px;
}
.meter {
  width: 60px;
  height: 5px;
  background: #5a5a5a;
}
.meter i {
  display: block;
  height: 100%;
  background: #fff;
}
.over {
  position: absolute;
  z-index: 20;
  top: 44px;
  right: 0;
  left: 0;
}
</style>
