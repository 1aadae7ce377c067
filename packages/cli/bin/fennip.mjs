#!/usr/bin/env node
// No build step between a change and a command: what is run is bundled when it is called, in a third of a second.
import { pathToFileURL } from 'node:url';
import { bundleProgram } from '../../threads/src/bundleModule.mjs';

process.setSourceMapsEnabled(true);
const bundle = await bundleProgram(new URL('../src/main.ts', import.meta.url));
const { main } = await import(pathToFileURL(bundle).href);
process.exitCode = await main(process.argv.slice(2));
