#!/usr/bin/env node
// Runs a TypeScript program: node packages/threads/bin/run.mjs packages/server/src/main.ts [arguments]
// It is bundled first: to take its four hundred files through a loader would take two seconds at each start.
import { resolve } from 'node:path';
import { pathToFileURL } from 'node:url';
import { bundleProgram } from '../src/bundleModule.mjs';

process.setSourceMapsEnabled(true);
const program = resolve(process.argv[2]);
process.argv.splice(1, 2, program);
await import(pathToFileURL(await bundleProgram(pathToFileURL(program))).href);
