<script setup lang="ts">
import { addressOf } from '@fennip/contract';
import { locale } from '../../i18n/language.ts';
import { call } from '../../api/call.ts';
import { hasOption } from './useDelivery.ts';
import { describeFormat } from '@fennip/core/picture';
import type { Delivery } from '@fennip/contract';
import { useJob } from '../../stores/job.ts';
import { bytes } from '../../i18n/figures.ts';
import { say, sayCount, sayText } from '../../i18n/say.ts';

/** What has been handed over of a picture, newest first. */
defineProps<{ deliveries: readonly Delivery[] }>();
const job = useJob();

/** What becomes of it is told by the server. */
const stop = (delivery: string): Promise<unknown> =>
  call('stopDelivery', { delivery }).catch(() => undefined);

function settingsOf({ format, quality, depth, profile = 'own' }: Delivery): string {
  const name = say(`deliver.format.${format}`);
  if (describeFormat(format).isLayered) return name;
  const coded = hasOption(format, 'quality')
    ? say('handOver.lossy', { format: name, n: quality })
    : say('handOver.lossless', { format: name, n: depth });
  return profile === 'own' ? coded : `${coded}, ${say(`handOver.profile.${profile}`)}`;
}
const timeOf = (iso: string): string =>
  new Date(iso).toLocaleString(locale, {
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
  });
</script>

<template>
  <p v-if="deliveries.length === 0" class="soft">{{ say('handOver.none') }}</p>
  <ul v-else>
    <li v-for="delivery in deliveries" :key="delivery.id">
      <span class="file">{{ delivery.fileName }}</span>
      <span class="soft">{{ settingsOf(delivery) }}, {{ sayCount('count.mend', delivery.mends) }}</span>
      <span class="soft">{{ timeOf(delivery.createdAt) }}</span>
      <span v-if="delivery.state === 'done'" class="links">
        <a :href="addressOf('deliveredFile', { delivery: delivery.id })" download>{{
          say('handOver.save', { size: delivery.sizeBytes === null ? '' : bytes(delivery.sizeBytes) })
        }}</a>
        <a
          :href="addressOf('deliveredRecipe', { delivery: delivery.id })"
          download
          :aria-label="say('handOver.recipeOf', { name: delivery.fileName })"
          >{{ say('handOver.recipe') }}</a
        >
      </span>
      <span v-else-if="delivery.state === 'failed'" class="problem" role="alert">{{
        sayText(delivery.problem ?? '')
      }}</span>
      <span v-else-if="delivery.state === 'stopped'" class="soft">{{ say('handOver.stopped') }}</span>
      <span v-else class="making">
        <el-progress
          :percentage="Math.round((job.workShare(delivery.pictureId, 'deliver') ?? 0) * 100)"
          :stroke-width="6"
        />
        <el-button
          size="small"
          text
          :aria-label="say('handOver.stopNamed', { name: delivery.fileName })"
          @click="stop(delivery.id)"
          >{{ say('act.stop') }}</el-button
        >
      </span>
    </li>
  </ul>
</template>

<style scoped>
ul {
  margin: 8px 0 0;
  padding: 0;
  list-style: none;
}
li {
  display: grid;
  grid-template-columns: minmax(0, 1.3fr) 1fr 112px 180px;
  align-items: center;
  gap: 14px;
  padding: 10px 14px;
  border-bottom: 1px solid var(--line);
  background: var(--raised);
}
.making {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  align-items: center;
  gap: 6px;
}
.file {
  overflow: hidden;
  font-weight: 600;
  text-overflow: ellipsis;
}
.links {
  display: flex;
  gap: 14px;
}
.problem {
  color: var(--open);
}
</style>
