import type { ChartSummary, OpenDoubt, Run, RunRequest, RunSteer } from '@fennip/contract';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import { call } from '../api/call.ts';
import { useJob } from './job.ts';

/** The runs of the job that is open, what they left to the restorer, and the charts there are. */
export const useRuns = defineStore('runs', () => {
  const job = useJob();
  const runs = shallowRef<readonly Run[]>([]);
  const doubts = shallowRef<readonly OpenDoubt[]>([]);
  const charts = shallowRef<readonly ChartSummary[]>([]);
  const isLoaded = ref(false);

  function takeRun(run: Run): void {
    const at = runs.value.findIndex(({ id }) => id === run.id);
    runs.value = at >= 0 ? runs.value.with(at, run) : [run, ...runs.value];
  }

  async function loadLeft(): Promise<void> {
    const id = job.job?.id;
    if (!id) return;
    [doubts.value, charts.value] = await Promise.all([call('doubts', { job: id }), call('charts', {})]);
  }

  async function load(): Promise<void> {
    const id = job.job?.id;
    if (!id) return;
    const answer = await call('runs', { job: id });
    if (job.job?.id !== id) return;
    runs.value = answer;
    await loadLeft();
    isLoaded.value = true;
  }

  watch(
    () => job.job?.id,
    () => {
      [runs.value, doubts.value, isLoaded.value] = [[], [], false];
      void load().catch(() => undefined);
    },
    { immediate: true },
  );
  job.listen((event) => {
    if (event.type !== 'run' || event.run.jobId !== job.job?.id) return;
    takeRun(event.run);
    if (event.run.state !== 'running') void loadLeft().catch(() => undefined);
  });
  job.onFollowing(() => void load().catch(() => undefined));

  async function start(request: RunRequest): Promise<void> {
    takeRun(await call('startRun', { job: job.job?.id ?? '' }, request));
  }

  const steer = async (run: Run, to: RunSteer['to']): Promise<void> =>
    takeRun(await call('steerRun', { run: run.id }, { to }));

  async function steerAll(to: RunSteer['to']): Promise<void> {
    (await call('steerRuns', { job: job.job?.id ?? '' }, { to })).forEach(takeRun);
  }

  const under = computed(() => runs.value.filter(({ state }) => state === 'running' || state === 'paused'));

  /** How far all that runs is, 0 to 1; none when nothing does. */
  const share = computed(() => {
    const going = runs.value.filter(({ state }) => state === 'running');
    const all = going.reduce((sum, { pieces }) => sum + pieces, 0);
    const done = going.reduce((sum, run) => sum + run.done + run.skipped + run.failed, 0);
    return all > 0 ? done / all : null;
  });

  return { runs, doubts, charts, isLoaded, under, share, load, loadLeft, start, steer, steerAll };
});
