<script setup lang="ts">
import type { Delivery, DeliveryRequest } from '@fennip/contract';
import { computed, onBeforeUnmount, reactive, ref, watch } from 'vue';
import { get, post } from '../../api/http.ts';
import { useJob } from '../../stores/job.ts';
import { usePicture } from '../../stores/picture.ts';
import { bytes } from '../../words/figures.ts';
import { say, sayCount } from '../../words/say.ts';

const picture = usePicture();
const job = useJob();
const deliveries = ref<Delivery[]>([]);
const problem = ref<string | null>(null);
const settings = reactive<DeliveryRequest>({ format: 'jpeg', quality: 92, depth: 8 });
const isLossy = computed(() => settings.format === 'jpeg' || settings.format === 'webp');
const open = computed(() => picture.entries.filter(({ state }) => state === 'open').length);
const active = computed(() => picture.mends.filter(({ on }) => on).length);

watch(
  () => picture.picture?.id,
  async (id) => {
    if (!id) return;
    // A scan of 16 bit goes out as it came in unless something else is asked for.
    if (picture.picture?.depth === 16) Object.assign(settings, { format: 'tiff', depth: 16 });
    deliveries.value = await get<Delivery[]>(`/pictures/${id}/deliveries`).catch(() => []);
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
    const request = { ...settings, depth: isLossy.value ? 8 : settings.depth };
    const ordered = await post<Delivery>(`/pictures/${id}/deliveries`, request);
    // Its progress may have been told before this answer came.
    if (!deliveries.value.some((delivery) => delivery.id === ordered.id)) takeDelivery(ordered);
  } catch (error) {
    problem.value = error instanceof Error ? error.message : String(error);
  }
}

const NAMES: Record<DeliveryRequest['format'], string> = {
  jpeg: 'JPEG',
  png: 'PNG',
  tiff: 'TIFF',
  webp: 'WebP',
};
const settingsOf = (delivery: Delivery): string =>
  delivery.format === 'jpeg' || delivery.format === 'webp'
    ? say('handOver.lossy', { format: NAMES[delivery.format], n: delivery.quality })
    : say('handOver.lossless', { format: NAMES[delivery.format], n: delivery.depth });
const timeOf = (iso: string): string =>
  new Date(iso).toLocaleString('en-GB', {
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
  });
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
      <div class="row">
        <span>{{ say('handOver.format') }}</span>
        <el-radio-group v-model="settings.format" :aria-label="say('handOver.format')">
          <el-radio-button v-for="(name, key) in NAMES" :key="key" :value="key">{{ name }}</el-radio-button>
        </el-radio-group>
      </div>
      <div v-if="isLossy" class="row">
        <span>{{ say('handOver.quality') }}</span>
        <div class="quality">
          <el-slider
            v-model="settings.quality"
            :min="40"
            :max="100"
            size="small"
            :aria-label="say('handOver.quality')"
          />
          <el-input-number
            v-model="settings.quality"
            :min="40"
            :max="100"
            :step="1"
            step-strictly
            :controls="false"
            size="small"
            :aria-label="say('handOver.quality.does')"
          />
        </div>
      </div>
      <div v-else class="row">
        <span>{{ say('handOver.depth') }}</span>
        <el-radio-group v-model="settings.depth" :aria-label="say('handOver.depth')">
          <el-radio-button :value="8">{{ say('handOver.bits', { n: 8 }) }}</el-radio-button>
          <el-radio-button :value="16">{{ say('handOver.bits', { n: 16 }) }}</el-radio-button>
        </el-radio-group>
      </div>
      <div class="row">
        <span />
        <el-button type="primary" native-type="submit" data-testid="deliver">{{
          say('handOver.render')
        }}</el-button>
      </div>
      <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    </form>
    <h2>{{ say('handOver.deliveries') }}</h2>
    <p v-if="deliveries.length === 0" class="soft">{{ say('handOver.none') }}</p>
    <ul v-else>
      <li v-for="delivery in deliveries" :key="delivery.id">
        <span class="file">{{ delivery.fileName }}</span>
        <span class="soft">{{ settingsOf(delivery) }}, {{ sayCount('count.mend', delivery.mends) }}</span>
        <span class="soft">{{ timeOf(delivery.createdAt) }}</span>
        <span v-if="delivery.state === 'done'">
          <a :href="`/api/deliveries/${delivery.id}/file`" download>{{
            say('handOver.save', { size: delivery.sizeBytes === null ? '' : bytes(delivery.sizeBytes) })
          }}</a>
        </span>
        <span v-else-if="delivery.state === 'failed'" class="problem" role="alert">{{
          delivery.problem
        }}</span>
        <el-progress
          v-else
          :percentage="Math.round((job.workShare(delivery.pictureId, 'deliver') ?? 0) * 100)"
          :stroke-width="6"
        />
      </li>
    </ul>
  </div>
</template>

<style scoped>
.page {
  max-width: 860px;
  height: 100%;
  margin: 0 auto;
  padding: 28px 24px;
  overflow: auto;
}
.settings {
  margin: 18px 0 26px;
  padding: 18px 20px;
  border: 1px solid var(--line);
  background: var(--raised);
}
.row {
  display: grid;
  grid-template-columns: 80px minmax(0, 420px);
  align-items: center;
  min-height: 44px;
}
.quality {
  display: grid;
  grid-template-columns: 1fr 70px;
  align-items: center;
  gap: 18px;
}
.quality .el-input-number {
  width: 70px;
}
ul {
  margin: 8px 0 0;
  padding: 0;
  list-style: none;
}
li {
  display: grid;
  grid-template-columns: minmax(0, 1.3fr) 1fr 120px 130px;
  align-items: center;
  gap: 14px;
  padding: 10px 14px;
  border-bottom: 1px solid var(--line);
  background: var(--raised);
}
.file {
  overflow: hidden;
  font-weight: 600;
  text-overflow: ellipsis;
}
.problem {
  color: var(--open);
}
</style>
