<script setup lang="ts">
import { onPicture } from '@fennip/core/chart';
import type { ChartFault, DustChartSheet } from '@fennip/contract';
import { computed } from 'vue';
import { cropAddress } from '../../api/crop.ts';
import { useJob } from '../../stores/job.ts';
import { say } from '../../i18n/say.ts';
import { placementOf } from '../../chart/placementOf.ts';

/** The same place of the sensor in every frame, side by side: what stays is dirt. */
const props = defineProps<{ sheet: DustChartSheet; fault: ChartFault }>();
const job = useJob();

/** How much around a place is shown, in radii of its shadow and in pixels of the sensor. */
const SHOWN = { radii: 3.2, least: 24 };

const cells = computed(() =>
  props.sheet.pictures.map((frame, index) => {
    const picture = job.pictures.find(({ id }) => id === frame.pictureId);
    const frameEvidence = props.fault.evidence.find((one) => one.frame === index);
    if (!picture) return { frame, frameEvidence, address: null };
    const placement = placementOf(picture, props.sheet.document.sensor);
    const [x, y] = onPicture(props.fault.x, props.fault.y, placement);
    const half = Math.max(SHOWN.least, SHOWN.radii * props.fault.r) * placement.scale;
    return { frame, frameEvidence, address: cropAddress(picture.id, x, y, half) };
  }),
);
</script>

<template>
  <div class="cells" role="group" tabindex="0" :aria-label="say('chart.evidence')">
    <figure v-for="{ frame, frameEvidence, address } in cells" :key="frame.pictureId">
      <img v-if="address" :src="address" :alt="say('chart.placeIn', { name: frame.name })" loading="lazy" />
      <div v-else class="gone soft">{{ say('chart.elsewhere') }}</div>
      <figcaption class="figures">
        <span>{{ frame.fNumber === null ? '–' : say('series.fNumber', { n: frame.fNumber }) }}</span>
        <span
          class="weight"
          :title="
            frameEvidence
              ? say('chart.said', { n: frameEvidence.evidence.toFixed(1) })
              : say('chart.saidNothing')
          "
          >{{
            frameEvidence ? (frameEvidence.evidence > 1 ? '●' : frameEvidence.evidence < -1 ? '○' : '·') : ''
          }}</span
        >
      </figcaption>
    </figure>
  </div>
</template>

<style scoped>
.cells {
  display: flex;
  gap: 8px;
  overflow-x: auto;
}
figure {
  flex: none;
  width: 92px;
  margin: 0;
}
img,
.gone {
  display: block;
  width: 92px;
  height: 92px;
  background: var(--surround);
  object-fit: cover;
  image-rendering: pixelated;
}
.gone {
  padding: 6px;
  background: var(--ground);
  font-size: 13px;
}
figcaption {
  display: flex;
  justify-content: space-between;
  font-size: 13px;
}
</style>
