import { spawn } from 'node:child_process';

/** Runs a program of PostgreSQL's and waits for its end. @throws Error with what it said where it failed */
export function runProgram(program: string, args: readonly string[]): Promise<void> {
  return new Promise((resolve, reject) => {
    const child = spawn(program, args, { stdio: ['ignore', 'ignore', 'pipe'] });
    let words = '';
    child.stderr.on('data', (chunk: Buffer) => {
      words += chunk.toString();
    });
    child.once('error', reject);
    child.once('exit', (code) => {
      if (code === 0) resolve();
      else reject(new Error(`${program} ended with ${code}: ${words.trim()}`));
    });
  });
}
