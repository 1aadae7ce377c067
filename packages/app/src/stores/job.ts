import { addressOf, sentenceOf } from '@fennip/contract';
import type { AwayFile, Job, JobEvent, Picture, TakenBack, WorkKind } from '@fennip/contract';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef } from 'vue';
import { call } from '../api/call.ts';
import { pause } from '../sync/pause.ts';
import { bringBack, uploadPicture } from '../api/upload.ts';

/** A file on its way to the server, or one that was refused. */
export interface Upload {
  readonly id: number;
  readonly name: string;
  readonly share: number;
  /** Why it was refused; none while it is on its way. */
  readonly problem: string | null;
  /** The picture of the job that it came back to, by its name; none where it is a picture of its own. */
  readonly back: CameBack | null;
}

/** What a file that came back changed. */
export interface CameBack extends TakenBack {
  readonly pictureId: string;
  readonly pictureName: string;
}

/** How many files are sent at the same time; more would only share the same line. */
const SENT_AT_ONCE = 3;

/** Pause before a stream that was refused is asked for again, in milliseconds. */
const RECONNECT_MS = 2000;

/** The job that is open: its pictures, what is on its way, and what goes on in the background. */
export const useJob = defineStore('job', () => {
  const job = shallowRef<Job | null>(null);
  const pictures = shallowRef<readonly Picture[]>([]);
  const uploads = ref<Upload[]>([]);
  /** Share done of background work, by picture and kind. */
  const work = ref(new Map<string, number>());
  const problem = ref<string | null>(null);
  const listeners = new Set<(event: JobEvent) => void>();
  const catchingUp = new Set<() => void>();
  let stream: EventSource | null = null;
  let nextUpload = 1;
  const waiting: { id: number; file: File; jobId: string; away: Promise<AwayFile[]> }[] = [];
  /** The files that pictures of the job left as, while they are being asked for: a drop adds its files one by one. */
  let away: Promise<AwayFile[]> | null = null;
  let sending = 0;
  /** The place that was given last: one is asked for after the other, so that they follow the order of the files. */
  let lastPlace: Promise<unknown> = Promise.resolve();

  const workKey = (pictureId: string, kind: WorkKind): string => `${pictureId} ${kind}`;
  const workShare = (pictureId: string, kind: WorkKind): number | null =>
    work.value.get(workKey(pictureId, kind)) ?? null;

  function takePicture(picture: Picture): void {
    const at = pictures.value.findIndex(({ id }) => id === picture.id);
    if (at >= 0) pictures.value = pictures.value.with(at, picture);
    else pictures.value = [...pictures.value, picture].sort((a, b) => a.place - b.place);
    if (picture.state !== 'preparing') work.value.delete(workKey(picture.id, 'prepare'));
    if (picture.examined !== 'running') work.value.delete(workKey(picture.id, 'examine'));
    if (picture.checked !== 'running') work.value.delete(workKey(picture.id, 'check'));
  }

  /** Takes over what an event says about which pictures there are, and in what state. */
  function takePictures(event: JobEvent): void {
    if (event.type === 'picture') takePicture(event.picture);
    else if (event.type === 'gone')
      pictures.value = pictures.value.filter(({ id }) => id !== event.pictureId);
  }

  function hear(event: JobEvent): void {
    takePictures(event);
    if (event.type === 'progress') work.value.set(workKey(event.pictureId, event.work), event.share);
    else if (event.type === 'delivery' && event.delivery.state !== 'running')
      work.value.delete(workKey(event.delivery.pictureId, 'deliver'));
    // A chart is the only piece of a run that tells how far it is.
    if (event.type === 'run' && (event.run.work !== 'chart' || event.run.state !== 'running'))
      for (const key of [...work.value.keys()]) if (key.endsWith(' piece')) work.value.delete(key);
    for (const listener of listeners) listener(event);
  }

  /**
   * What the server answers of a picture, or what was heard of it while that was on its way: work may have ended before the
   * answer comes that it was ordered.
   */
  async function newestOf(asking: () => Promise<Picture>): Promise<Picture> {
    const heard = new Map<string, Picture>();
    const stop = listen((event) => {
      if (event.type === 'picture') heard.set(event.picture.id, event.picture);
    });
    try {
      const answer = await asking();
      return heard.get(answer.id) ?? answer;
    } finally {
      stop();
    }
  }

  async function load(jobId: string): Promise<void> {
    // What is heard while the answer is on its way may be newer than the answer.
    const heard: JobEvent[] = [];
    const stop = listen((event) => heard.push(event));
    try {
      const answer = await call('job', { job: jobId });
      job.value = answer.job;
      pictures.value = answer.pictures;
      heard.forEach(takePictures);
    } finally {
      stop();
    }
  }

  /** Opens a job and follows what happens in it. */
  async function open(jobId: string): Promise<void> {
    if (job.value?.id === jobId) return;
    close();
    problem.value = null;
    try {
      await load(jobId);
    } catch (error) {
      problem.value = sentenceOf(error);
      return;
    }
    follow(jobId);
  }

  /** Asks what happened before the line stood, until that is answered or the line is given up, and tells who waits for it. */
  async function catchUp(jobId: string, over: EventSource): Promise<void> {
    while (stream === over)
      try {
        await load(jobId);
        for (const wake of catchingUp) wake();
        return;
      } catch {
        await pause(RECONNECT_MS);
      }
  }

  /** Follows what happens in the job. What happened before the line stood, or while it was broken, is asked for. */
  function follow(jobId: string): void {
    const opened = new EventSource(addressOf('jobEvents', { job: jobId }));
    stream = opened;
    opened.onmessage = (message) => hear(JSON.parse(message.data as string) as JobEvent);
    opened.onopen = () => void catchUp(jobId, opened);
    // The browser tries again by itself after a break, but not after a refusal.
    opened.onerror = () => {
      if (opened.readyState !== EventSource.CLOSED || stream !== opened) return;
      setTimeout(() => {
        if (stream === opened) follow(jobId);
      }, RECONNECT_MS);
    };
  }

  function close(): void {
    stream?.close();
    stream = null;
    away = null;
    job.value = null;
    pictures.value = [];
    uploads.value = [];
    work.value = new Map();
  }

  function change(id: number, with_: Partial<Upload>): void {
    uploads.value = uploads.value.map((upload) => (upload.id === id ? { ...upload, ...with_ } : upload));
  }

  function placeIn(jobId: string): Promise<number> {
    const asked = lastPlace.then(() => call('takePlace', { job: jobId }));
    lastPlace = asked.catch(() => undefined);
    return asked.then(({ place }) => place);
  }

  const stemOf = (file: string): string => file.replace(/\.[^.]*$/, '');

  async function sendNext(): Promise<void> {
    const next = waiting.shift();
    if (!next) return;
    sending++;
    const progress = (share: number): void => change(next.id, { share });
    try {
      // What left to be worked on may come back in another format.
      const stem = stemOf(next.file.name);
      const away = (await next.away).find(({ fileName }) => stemOf(fileName) === stem);
      if (away) {
        const came = await bringBack(away.pictureId, next.file, progress);
        change(next.id, { share: 1, back: { ...came, ...away } });
      } else {
        const came = await uploadPicture(next.jobId, await placeIn(next.jobId), next.file, progress);
        // What was heard of it while the answer was on its way is newer.
        if (!pictures.value.some(({ id }) => id === came.id)) takePicture(came);
        forgetUpload(next.id);
      }
    } catch (error) {
      change(next.id, { problem: sentenceOf(error) });
    } finally {
      sending--;
      void sendNext();
    }
  }

  /** Sends files; each has its own progress, and one that is refused does not hold the others up. */
  function add(files: readonly File[]): void {
    const jobId = job.value?.id;
    if (!jobId || files.length === 0) return;
    // Asked once for all of them: so they also ask for their places in the order they came in.
    const known = (away ??= call('awayFiles', { job: jobId }));
    void known
      .catch(() => undefined)
      .then(() => {
        if (away === known) away = null;
      });
    for (const file of files) {
      const id = nextUpload++;
      uploads.value.push({ id, name: file.name, share: 0, problem: null, back: null });
      waiting.push({ id, file, jobId, away: known });
    }
    while (sending < SENT_AT_ONCE && waiting.length > 0) void sendNext();
  }

  function forgetUpload(id: number): void {
    uploads.value = uploads.value.filter((upload) => upload.id !== id);
  }

  /** @returns a function that stops listening */
  function listen(listener: (event: JobEvent) => void): () => void {
    listeners.add(listener);
    return () => listeners.delete(listener);
  }

  /** Calls whenever the line to the server stands anew: what happened before was not heard. */
  function onFollowing(wake: () => void): () => void {
    catchingUp.add(wake);
    return () => catchingUp.delete(wake);
  }

  /** What goes on in the background, as one share; none when nothing does. */
  const backgroundShare = computed(() => {
    const shares = [
      ...work.value.values(),
      ...uploads.value.filter((u) => u.problem === null && u.back === null).map((u) => u.share),
    ];
    return shares.length > 0 ? shares.reduce((sum, share) => sum + share, 0) / shares.length : null;
  });

  return {
    job,
    pictures,
    uploads,
    problem,
    backgroundShare,
    workShare,
    open,
    close,
    add,
    forgetUpload,
    listen,
    onFollowing,
    takePicture,
    newestOf,
  };
});
