#!/usr/bin/env node
// Keeps a program running: node packages/server/bin/supervise.mjs packages/threads/bin/run.mjs program.ts [arguments]
// One that ends by itself is started again after a pause that grows while it ends soon; a stop from outside is passed on.
import { spawn } from 'node:child_process';

/** Pauses before it is started again, in milliseconds; the last one goes on. */
const PAUSES = [500, 1000, 2000, 5000, 10_000, 30_000];
/** One that ran so long had started well. */
const STEADY_MS = 60_000;
/** Not started again: it said itself that it cannot run like this. */
const WILL_NOT_RUN = 78;

let child = null;
let timer = null;
let isStopping = false;
let early = 0;

function note(words, facts) {
  console.error(JSON.stringify({ level: 50, time: Date.now(), msg: words, ...facts }));
}

function start() {
  const begun = Date.now();
  child = spawn(process.execPath, [...process.execArgv, ...process.argv.slice(2)], { stdio: 'inherit' });
  child.once('exit', (code, signal) => {
    child = null;
    if (isStopping) process.exit(code ?? 0);
    if (code === WILL_NOT_RUN) process.exit(code);
    early = Date.now() - begun > STEADY_MS ? 0 : early + 1;
    const pause = PAUSES[Math.min(early, PAUSES.length - 1)];
    note('the server ended by itself and is started again', { code, signal, pause });
    timer = setTimeout(start, pause);
  });
}

for (const signal of ['SIGINT', 'SIGTERM'])
  process.on(signal, () => {
    isStopping = true;
    if (timer) clearTimeout(timer);
    if (child) child.kill(signal);
    else process.exit(0);
  });

start();
