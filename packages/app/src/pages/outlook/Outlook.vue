<script setup lang="ts">
import { sentenceOf } from '@fennip/contract';
import type { FaultKind } from '@fennip/core/fault';
import { PRINT_PPI, printSize } from '@fennip/core/picture';
import type { Picture, PictureChange } from '@fennip/contract';
import { computed, ref } from 'vue';
import { call } from '../../api/call.ts';
import { useJob } from '../../stores/job.ts';
import { percent } from '../../i18n/figures.ts';
import { say, sayCount } from '../../i18n/say.ts';
import NatureChoice from '../picture/NatureChoice.vue';
import { duration, secondsLeft, workLine } from '../../i18n/workWords.ts';

/** How much work the job is, picture by picture, and how large each can be printed. */
const job = useJob();
const problem = ref<string | null>(null);
const pictures = computed(() => job.pictures.filter(({ state }) => state !== 'failed'));
const left = computed(() => pictures.value.reduce((sum, picture) => sum + secondsLeft(picture), 0));
const isGuess = computed(() => pictures.value.some(({ estimate }) => estimate?.isGuess));
const unexamined = computed(() => pictures.value.filter(({ examined }) => examined !== 'done').length);

const countsOf = ({ estimate }: Picture): string =>
  Object.entries(estimate?.counts ?? {})
    .sort((a, b) => b[1] - a[1])
    .map(([kind, n]) => sayCount(`work.count.${kind as FaultKind}`, n))
    .join(', ');

function paperOf(picture: Picture, ppi: number): string {
  const { width, height } = printSize(picture, ppi);
  return say('work.paper', { width: width.toFixed(1), height: height.toFixed(1) });
}

async function change(picture: Picture, changed: PictureChange): Promise<void> {
  problem.value = null;
  try {
    job.takePicture(await call('changePicture', { picture: picture.id }, changed));
  } catch (error) {
    problem.value = sentenceOf(error);
  }
}
</script>

<template>
  <div class="page">
    <h1>{{ say('work.title', { job: job.job?.name ?? '' }) }}</h1>
    <p v-if="pictures.length > 0" data-testid="work-left">
      {{ say(isGuess ? 'work.left.guess' : 'work.left', { time: duration(left) }) }}
      <span v-if="unexamined > 0" class="soft">{{ sayCount('work.unexamined', unexamined) }}</span>
    </p>
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <p v-if="pictures.length === 0" class="soft">{{ say('intake.none') }}</p>
    <table v-else>
      <thead>
        <tr>
          <th>{{ say('work.picture') }}</th>
          <th>{{ say('work.faults') }}</th>
          <th class="number">{{ say('work.area') }}</th>
          <th class="number">{{ say('work.recoverable') }}</th>
          <th>{{ say('work.time') }}</th>
          <th>{{ say('work.nature') }}</th>
          <th class="number">{{ say('work.resolution') }}</th>
          <th v-for="ppi in PRINT_PPI" :key="ppi" class="number">{{ say('work.at', { ppi }) }}</th>
          <th>{{ say('work.aside') }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="picture in pictures" :key="picture.id" :class="{ aside: picture.setAside }">
          <th scope="row">
            <router-link
              :to="{
                name: 'picture',
                params: { job: picture.jobId, picture: picture.id, stage: 'examine' },
              }"
              >{{ picture.name }}</router-link
            >
          </th>
          <template v-if="picture.estimate">
            <td>{{ countsOf(picture) || say('print.foundNothing') }}</td>
            <td class="number figures">
              {{ say('figure.percent', { n: (100 * picture.estimate.areaShare).toFixed(2) }) }}
            </td>
            <td class="number figures">{{ percent(picture.estimate.recoverableShare) }}</td>
            <td>{{ workLine(picture) }}</td>
          </template>
          <td v-else colspan="4" class="soft">{{ say('print.notExamined') }}</td>
          <td><NatureChoice :picture="picture" @failed="(reason: string) => (problem = reason)" /></td>
          <td class="number">
            <template v-if="picture.nature === 'print'">
              <el-input-number
                :model-value="picture.density ? Math.round(picture.density) : undefined"
                size="small"
                :min="1"
                :max="20000"
                :precision="0"
                :controls="false"
                :aria-label="say('work.resolutionOf', { name: picture.name })"
                @change="(density: number | undefined) => density && change(picture, { density })"
              />
              {{ say('unit.ppi') }}
            </template>
          </td>
          <td v-for="ppi in PRINT_PPI" :key="ppi" class="number figures">{{ paperOf(picture, ppi) }}</td>
          <td>
            <el-switch
              :model-value="picture.setAside"
              size="small"
              :aria-label="say('work.setAside', { name: picture.name })"
              @change="
                (setAside: string | number | boolean) => change(picture, { setAside: setAside === true })
              "
            />
          </td>
        </tr>
      </tbody>
    </table>
    <p class="soft note">{{ say('work.note') }}</p>
  </div>
</template>

<style scoped>
.page {
  height: 100%;
  padding: 20px 24px;
  overflow: auto;
}
table {
  width: 100%;
  margin-top: 14px;
  border-collapse: collapse;
  background: var(--raised);
  font-size: 13px;
}
th,
td {
  padding: 8px 10px;
  border-bottom: 1px solid var(--line);
  text-align: left;
  vertical-align: baseline;
}
thead th {
  color: var(--text-soft);
  font-weight: 500;
  vertical-align: bottom;
}
.number {
  text-align: right;
  white-space: nowrap;
}
.number .el-input-number {
  width: 62px;
}
.aside > * {
  color: var(--text-soft);
}
.note {
  margin-top: 14px;
  max-width: 640px;
}
.problem {
  color: var(--open);
}
</style>
