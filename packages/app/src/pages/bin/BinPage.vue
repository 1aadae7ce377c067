<script setup lang="ts">
import type { Bin } from '@fennip/contract';
import { computed, onMounted, ref } from 'vue';
import { call } from '../../api/call.ts';
import { useTrying } from '../../controls/useTrying.ts';
import { locale } from '../../i18n/language.ts';
import { say, sayCount } from '../../i18n/say.ts';

/** What was taken away, to be put back, or to be emptied for good. */
const bin = ref<Bin | null>(null);
const { problem, trying } = useTrying();

/** Does something, and asks what lies in the bin then. */
const change = (work: () => Promise<unknown>): Promise<void> =>
  trying(async () => {
    await work();
    bin.value = await call('bin', {});
  });

const load = (): Promise<void> => change(() => Promise.resolve());
const when = (iso: string): string =>
  new Date(iso).toLocaleString(locale, { dateStyle: 'medium', timeStyle: 'short' });

interface Line {
  readonly id: string;
  readonly name: string;
  readonly of: string;
  readonly binnedAt: string;
  putBack(): Promise<unknown>;
}

const lines = computed((): Line[] => {
  if (!bin.value) return [];
  const jobs = bin.value.jobs.map(({ id, name, pictures, binnedAt }) => ({
    ...{ id, name, binnedAt, of: `${say('bin.job')} · ${sayCount('count.picture', pictures)}` },
    putBack: () => call('restoreJob', { job: id }),
  }));
  const pictures = bin.value.pictures.map(({ id, name, job, binnedAt }) => ({
    ...{ id, name, binnedAt, of: say('bin.pictureOf', { job }) },
    putBack: () => call('restorePicture', { picture: id }),
  }));
  return [...jobs, ...pictures].sort((a, b) => b.binnedAt.localeCompare(a.binnedAt));
});

onMounted(load);
</script>

<template>
  <div class="page">
    <h1>{{ say('bin') }}</h1>
    <p v-if="bin" class="soft">{{ sayCount('bin.does', bin.days) }}</p>
    <div v-if="problem" class="problem" role="alert">
      <p>{{ problem }}</p>
      <el-button size="small" @click="load">{{ say('act.tryAgain') }}</el-button>
    </div>
    <p v-else-if="bin === null" class="soft">{{ say('bin.loading') }}</p>
    <p v-else-if="lines.length === 0" class="soft">{{ say('bin.none') }}</p>
    <template v-else>
      <ul>
        <li v-for="line in lines" :key="line.id" :data-binned="line.name">
          <strong>{{ line.name }}</strong>
          <span class="soft">{{ line.of }}</span>
          <span class="soft">{{ when(line.binnedAt) }}</span>
          <el-button
            size="small"
            :aria-label="say('bin.putBackNamed', { name: line.name })"
            @click="change(line.putBack)"
            >{{ say('bin.putBack') }}</el-button
          >
        </li>
      </ul>
      <el-popconfirm
        :title="say('bin.emptyAsk')"
        :confirm-button-text="say('bin.empty')"
        :cancel-button-text="say('bin.keep')"
        width="300"
        @confirm="change(() => call('emptyBin', {}))"
      >
        <template #reference>
          <el-button size="small" data-testid="empty-bin">{{ say('bin.empty') }}</el-button>
        </template>
      </el-popconfirm>
    </template>
  </div>
</template>

<style scoped src="../listPage.css"></style>

<style scoped>
ul {
  margin: 18px 0;
}
li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr) 170px auto;
  align-items: center;
  gap: 12px;
  padding: 9px 16px;
  border: 1px solid var(--line);
  border-bottom-width: 0;
  background: var(--raised);
}
li:last-child {
  border-bottom-width: 1px;
}
li > * {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
