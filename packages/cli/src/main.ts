import { RasterError, RecipeError } from '@fennip/core/errors';
import { PictureError } from '@fennip/files';
import type { Command } from './options/command.ts';
import { runCommand } from './options/command.ts';
import { carry } from './commands/carry.ts';
import { chart } from './commands/chart.ts';
import { compare } from './commands/compare.ts';
import { examine } from './commands/examine.ts';
import { join } from './commands/join.ts';
import { mend } from './commands/mend.ts';
import { recipe } from './commands/recipe.ts';
import { render } from './commands/render.ts';
import { RefusedError, UsageError } from './errors/usage.ts';

const COMMANDS: Readonly<Record<string, Command>> = {
  ...{ examine, mend, render, recipe, compare },
  ...{ chart, carry, join },
};

const HELP = `fennip: finds and mends the faults of pictures.

  fennip examine IN --out faults.json           list the faults of a picture
  fennip mend IN --faults faults.json --out OUT mend them
  fennip render IN --recipe R --out OUT         carry out a recipe
  fennip recipe FILE                            check a recipe
  fennip chart FRAME... --out chart.json        find the dirt on a camera's sensor
  fennip carry --from R FRAME... --out-dir DIR  carry a recipe over to other frames
  fennip join SCAN... --out OUT                 make one picture of the pieces of a torn print
  fennip compare A B                            measure how far two pictures are apart

fennip COMMAND --help tells more. Exit status: 0, 1 for a bad picture or a refused input, 2 for wrong usage.
`;

/** What to say and to exit with when a command failed; what is not foreseen is thrown on. */
function verdictOn(error: unknown, name: string): { status: 1 | 2; line: string } {
  if (error instanceof UsageError)
    return { status: 2, line: `fennip ${name}: ${error.message} (see --help)` };
  if (
    error instanceof PictureError ||
    error instanceof RecipeError ||
    error instanceof RasterError ||
    error instanceof RefusedError
  )
    return { status: 1, line: `fennip ${name}: ${error.message.replace(/\s*\n\s*/g, ' ')}` };
  throw error;
}

/** Runs the command line. @returns the exit status */
export async function main(args: readonly string[]): Promise<0 | 1 | 2> {
  const [name, ...rest] = args;
  if (name === undefined || name === '--help' || name === 'help') {
    process.stdout.write(HELP);
    return name === undefined ? 2 : 0;
  }
  const command = Object.hasOwn(COMMANDS, name) ? COMMANDS[name] : undefined;
  if (!command) {
    process.stderr.write(`fennip: there is no command ${name} (see --help)\n`);
    return 2;
  }
  if (rest.includes('--help')) {
    process.stdout.write(`${command.help}\n`);
    return 0;
  }
  try {
    await runCommand(command, rest);
    return 0;
  } catch (error) {
    const { status, line } = verdictOn(error, name);
    process.stderr.write(`${line}\n`);
    return status;
  }
}
