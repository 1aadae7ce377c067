#!/usr/bin/env node
// TypeScript is run as it stands: no build step between a change and a command.
import { register } from 'tsx/esm/api';

register();
const { main } = await import('../src/index.ts');
process.exitCode = await main(process.argv.slice(2));
