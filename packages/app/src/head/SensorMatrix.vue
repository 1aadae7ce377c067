<script setup lang="ts">
import type { ChartedState, ChartFault, DustChartSheet, Picture } from '@fennip/contract';
import { onPicture } from '@fennip/core/chart';
import { computed, onMounted, shallowRef } from 'vue';
import { cropAddress } from '../api/crop.ts';
import { call } from '../api/call.ts';
import { placementOf } from '../chart/placementOf.ts';
import { useJob } from '../stores/job.ts';
import type { WantedPlace } from '../stores/view.ts';
import { say } from '../i18n/say.ts';
import { STATE_SIGN } from '../i18n/stateSign.ts';

/**
 * A shoot by its sensor: the places of its dust chart across, the frames down, in the order they were taken. Each cell
 * shows the place as it came in, with what became of it.
 */
const props = defineProps<{ sheet: DustChartSheet }>();
const emit = defineEmits<{ open: [place: WantedPlace] }>();
const job = useJob();

/** How much around a place is shown, in radii of its shadow and in pixels of the sensor. */
const SHOWN = { radii: 2.4, least: 14 };

const states = shallowRef<ReadonlyMap<string, ChartedState>>(new Map());
const keyOf = (picture: string, place: number): string => `${picture} ${place}`;
onMounted(async () => {
  if (!job.job) return;
  const all = await call('chartedStates', { job: job.job.id });
  states.value = new Map(all.map((one) => [keyOf(one.pictureId, one.place), one]));
});

const places = computed(() =>
  props.sheet.document.faults.filter(({ number }) => props.sheet.verdicts[number] !== 'dismissed'),
);
const takenAt = ({ capture, name }: Picture): string => `${capture.takenAt ?? ''} ${name}`;

interface Cell {
  readonly place: ChartFault;
  /** None where the frame does not show that part of the sensor. */
  readonly shown: { readonly address: string; readonly words: string; readonly wanted: WantedPlace } | null;
  readonly sign: string;
}

function cellOf(picture: Picture, place: ChartFault): Cell {
  const placement = placementOf(picture, props.sheet.document.sensor);
  const [x, y] = onPicture(place.x, place.y, placement);
  if (x < 0 || y < 0 || x > picture.width || y > picture.height) return { place, shown: null, sign: '' };
  const half = Math.max(SHOWN.least, SHOWN.radii * place.r) * placement.scale;
  const here = states.value.get(keyOf(picture.id, place.number));
  const state = here ? say(`state.${here.state}`) : say('matrix.notListed');
  return {
    place,
    shown: {
      address: cropAddress(picture.id, x, y, half),
      words: say('matrix.cell', { n: place.number, name: picture.name, state }),
      wanted: { picture: picture.id, fault: here?.fault ?? null, x, y, r: place.r * placement.scale },
    },
    sign: here ? STATE_SIGN[here.state] : '',
  };
}
const rows = computed(() =>
  job.pictures
    .filter(({ camera, state, setAside }) => camera === props.sheet.camera && state === 'ready' && !setAside)
    .sort((a, b) => takenAt(a).localeCompare(takenAt(b)))
    .map((picture) => ({ picture, cells: places.value.map((place) => cellOf(picture, place)) })),
);
</script>

<template>
  <div class="around" tabindex="0" :aria-label="say('matrix')">
    <table>
      <thead>
        <tr>
          <th scope="col" class="soft">{{ sheet.camera }}</th>
          <th v-for="place in places" :key="place.number" scope="col" class="figures">{{ place.number }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="{ picture, cells } in rows" :key="picture.id">
          <th scope="row">
            <span>{{ picture.name }}</span>
            <span v-if="picture.capture.fNumber !== undefined" class="soft figures">{{
              say('series.fNumber', { n: picture.capture.fNumber })
            }}</span>
          </th>
          <td v-for="{ place, shown, sign } in cells" :key="place.number">
            <button
              v-if="shown"
              type="button"
              :title="shown.words"
              :aria-label="shown.words"
              @click="emit('open', shown.wanted)"
            >
              <img :src="shown.address" alt="" loading="lazy" />
              <span v-if="sign" class="sign" aria-hidden="true">{{ sign }}</span>
            </button>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.around {
  flex: 1 1 100%;
  overflow: auto;
}
table {
  border-collapse: separate;
  border-spacing: 3px;
}
th {
  font-size: 13px;
  font-weight: 400;
  white-space: nowrap;
}
thead th {
  position: sticky;
  z-index: 1;
  top: 0;
  background: var(--panel);
}
tbody th,
thead th:first-child {
  position: sticky;
  z-index: 1;
  left: 0;
  padding-right: 8px;
  background: var(--panel);
  text-align: left;
}
thead th:first-child {
  z-index: 2;
}
tbody th span {
  display: block;
  max-width: 190px;
  overflow: hidden;
  text-overflow: ellipsis;
}
td {
  padding: 0;
}
button {
  position: relative;
  display: block;
  width: 56px;
  height: 56px;
  padding: 0;
  border: 0;
  background: var(--surround);
  cursor: pointer;
}
button:hover,
button:focus-visible {
  outline: 2px solid var(--chosen);
}
img {
  display: block;
  width: 56px;
  height: 56px;
  object-fit: cover;
  image-rendering: pixelated;
}
.sign {
  position: absolute;
  right: 0;
  bottom: 0;
  min-width: 15px;
  background: rgb(24 24 24 / 82%);
  color: #efefef;
  font-size: 12px;
  line-height: 15px;
  text-align: center;
}
</style>
