<script setup lang="ts">
import { sentenceOf } from '@fennip/contract';
import { framingOf } from '@fennip/core/finish';
import type { Delivery } from '@fennip/contract';
import { computed, onBeforeUnmount, ref, watch } from 'vue';
import { call } from '../../api/call.ts';
import { useJob } from '../../stores/job.ts';
import { usePicture } from '../../stores/picture.ts';
import { say, sayCount } from '../../i18n/say.ts';
import DeliveryList from './DeliveryList.vue';
import DeliveryOptions from './DeliveryOptions.vue';
import RoundTrip from './RoundTrip.vue';
import { useDelivery } from './useDelivery.ts';

/** One picture handed over: as a file, with its recipe and its condition report. */
const picture = usePicture();
const job = useJob();
const deliveries = ref<Delivery[]>([]);
const problem = ref<string | null>(null);
const { choices, request } = useDelivery();
const open = computed(() => picture.entries.filter(({ state }) => state === 'open').length);
const active = computed(() => picture.mends.filter(({ on }) => on).length);
/** The sides of what is handed over: as it is framed. */
const finished = computed(() => {
  const sheet = picture.picture;
  if (!sheet) return undefined;
  const { width, height } = framingOf(sheet, picture.finish) ?? sheet;
  return { width, height, density: sheet.density };
});
const report = computed(() => `/api/pictures/${picture.picture?.id ?? ''}/report`);

watch(
  () => picture.picture?.id,
  async (id) => {
    if (!id) return;
    // A scan of 16 bit goes out as it came in unless something else is asked for.
    if (picture.picture?.depth === 16) Object.assign(choices, { format: 'tiff', depth: 16 });
    deliveries.value = await call('deliveries', { picture: id }).catch(() => []);
  },
  { immediate: true },
);

function takeDelivery(delivery: Delivery): void {
  if (delivery.pictureId !== picture.picture?.id) return;
  const at = deliveries.value.findIndex(({ id }) => id === delivery.id);
  if (at >= 0) deliveries.value.splice(at, 1, delivery);
  else deliveries.value.unshift(delivery);
}
const stop = job.listen((event) => {
  if (event.type === 'delivery') takeDelivery(event.delivery);
});
onBeforeUnmount(stop);

async function deliver(): Promise<void> {
  const id = picture.picture?.id;
  if (!id) return;
  problem.value = null;
  try {
    const ordered = await call('deliver', { picture: id }, request.value);
    // Its progress may have been heard before this answer came.
    if (!deliveries.value.some((delivery) => delivery.id === ordered.id)) takeDelivery(ordered);
  } catch (error) {
    problem.value = sentenceOf(error);
  }
}
</script>

<template>
  <div class="page">
    <h1>{{ say('handOver.title', { name: picture.picture?.name ?? '' }) }}</h1>
    <p class="soft">
      {{
        say('handOver.state', {
          mends: sayCount('count.mend', active),
          faults: sayCount('count.fault', open),
        })
      }}
    </p>
    <form class="settings" @submit.prevent="deliver">
      <DeliveryOptions v-model="choices" v-bind="finished ? { picture: finished } : {}" />
      <div class="act">
        <el-button type="primary" native-type="submit" data-testid="deliver">{{
          say('handOver.render')
        }}</el-button>
      </div>
      <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    </form>
    <h2>{{ say('handOver.deliveries') }}</h2>
    <DeliveryList :deliveries="deliveries" />
    <h2>{{ say('trip') }}</h2>
    <RoundTrip @ordered="takeDelivery" />
    <h2>{{ say('handOver.report') }}</h2>
    <p class="soft">{{ say('handOver.report.does') }}</p>
    <p class="links">
      <a :href="`${report}.html`" target="_blank" rel="noopener">{{ say('handOver.report.open') }}</a>
      <a :href="`${report}.html?save`" download>{{ say('handOver.report.html') }}</a>
      <a :href="`${report}.pdf`" download>{{ say('handOver.report.a4') }}</a>
      <a :href="`${report}.pdf?paper=letter`" download>{{ say('handOver.report.letter') }}</a>
    </p>
  </div>
</template>

<style scoped>
.page {
  max-width: 860px;
  height: 100%;
  margin: 0 auto;
  padding: 24px;
  overflow: auto;
}
.settings {
  margin: 14px 0 22px;
  padding: 12px 20px 16px;
  border: 1px solid var(--line);
  background: var(--raised);
}
.act {
  margin: 8px 0 0 92px;
}
h2 {
  margin-top: 22px;
}
.links {
  display: flex;
  gap: 18px;
}
.problem {
  color: var(--open);
}
</style>
