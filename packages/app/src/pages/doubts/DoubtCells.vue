<script setup lang="ts">
import type { OpenDoubt, Picture, ProposedMend } from '@fennip/contract';
import { onPicture, onSensor, sensorOf } from '@fennip/core/chart';
import { computed } from 'vue';
import { cropAddress } from '../../api/crop.ts';
import { useJob } from '../../stores/job.ts';
import { say } from '../../i18n/say.ts';
import { placementOf, takenBy } from '../../chart/placementOf.ts';

/** A doubt before and with its mend, and the same place in the frames taken before and after. */
const props = defineProps<{
  doubt: OpenDoubt;
  picture: Picture;
  /** None while it is being worked out. */
  proposal: ProposedMend | null;
}>();
const job = useJob();

const timeOf = ({ capture, name }: Picture): string => `${capture.takenAt ?? ''} ${name}`;

/** The frames of the same camera that were taken just before and just after. */
const neighbours = computed(() => {
  const { camera, id } = props.picture;
  if (camera === null) return [];
  const row = job.pictures
    .filter((other) => other.camera === camera && other.state === 'ready')
    .sort((a, b) => timeOf(a).localeCompare(timeOf(b)));
  const at = row.findIndex((other) => other.id === id);
  return [row[at - 1], row[at + 1]].filter((other) => other !== undefined);
});

const cells = computed(() => {
  const { proposal, picture } = props;
  if (!proposal) return [];
  const { fault, half } = proposal;
  return neighbours.value.map((other) => {
    const sensor = sensorOf([picture, other].map(takenBy));
    const [own, its] = [placementOf(picture, sensor), placementOf(other, sensor)];
    const [x, y] = onPicture(...onSensor(fault.x, fault.y, own), its);
    return { other, address: cropAddress(other.id, x, y, (half * its.scale) / own.scale) };
  });
});
</script>

<template>
  <div class="cells" role="group" tabindex="0" :aria-label="say('doubts.cells')">
    <template v-if="proposal">
      <figure>
        <img :src="proposal.before" :alt="say('doubts.before')" />
        <figcaption>{{ say('doubts.before') }}</figcaption>
      </figure>
      <figure>
        <img :src="proposal.after" :alt="say('doubts.after')" />
        <figcaption>
          {{ say('doubts.after') }} · {{ say(`method.${proposal.mend.method}`) }}
          <span v-if="!proposal.passes" class="warn">{{ say('doubts.fails') }}</span>
        </figcaption>
      </figure>
      <div class="neighbours">
        <figure v-for="{ other, address } in cells" :key="other.id">
          <img :src="address" :alt="say('chart.placeIn', { name: other.name })" />
          <figcaption class="soft">{{ other.name }}</figcaption>
        </figure>
      </div>
    </template>
    <p v-else class="soft">{{ say('doubts.working') }}</p>
  </div>
</template>

<style scoped>
.cells {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr) minmax(0, 0.48fr);
  gap: 14px;
  max-width: 1500px;
  padding: 12px 18px 18px;
}
figure {
  min-width: 0;
  margin: 0;
}
.neighbours {
  display: flex;
  flex-direction: column;
  gap: 10px;
}
img {
  display: block;
  width: 100%;
  aspect-ratio: 1;
  background: var(--surround);
  object-fit: contain;
  image-rendering: pixelated;
}
figcaption {
  overflow: hidden;
  padding-top: 4px;
  font-size: 13px;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.warn {
  color: var(--open);
}
</style>
