import { sentenceOf } from '@fennip/contract';
import type { ParseArgsConfig } from 'node:util';
import { parseArgs } from 'node:util';
import { UsageError } from '../errors/usage.ts';

/** One command: its help, its options, and what it does. */
export interface Command {
  readonly help: string;
  readonly options: NonNullable<ParseArgsConfig['options']>;
  /** How many file names it takes; `some` is one or more, `any` none or more. */
  readonly files: number | 'some' | 'any';
  readonly run: (files: readonly string[], values: OptionValues) => Promise<void>;
}

export type OptionValues = Readonly<Record<string, string | boolean | undefined>>;

/** An option's text; undefined when it was not given. */
export function textOption(values: OptionValues, name: string): string | undefined {
  const value = values[name];
  return typeof value === 'string' ? value : undefined;
}

/** @throws UsageError when it was not given */
export function neededOption(values: OptionValues, name: string): string {
  const value = textOption(values, name);
  if (value === undefined) throw new UsageError(`--${name} is missing`);
  return value;
}

/** @throws UsageError when the value is none of the choices */
export function choiceOption<T extends string>(
  values: OptionValues,
  name: string,
  choices: readonly T[],
  otherwise: T,
): T {
  const value = textOption(values, name) ?? otherwise;
  const choice = choices.find((known) => known === value);
  if (choice === undefined)
    throw new UsageError(`--${name} must be one of ${choices.join(', ')}, got ${value}`);
  return choice;
}

/** @throws UsageError when it is no number of that range */
export function numberOption(
  values: OptionValues,
  name: string,
  least: number,
  most: number,
  otherwise: number,
): number {
  const text = textOption(values, name);
  if (text === undefined) return otherwise;
  const value = Number(text);
  if (text.trim() === '' || !(value >= least && value <= most))
    throw new UsageError(`--${name} must be a number from ${least} to ${most}, got ${text}`);
  return value;
}

/** Takes arguments apart and runs the command. @throws UsageError, and whatever the command throws */
export async function runCommand(command: Command, args: readonly string[]): Promise<void> {
  let parsed: ReturnType<typeof parseArgs>;
  try {
    parsed = parseArgs({ args: [...args], options: command.options, allowPositionals: true });
  } catch (error) {
    throw new UsageError(sentenceOf(error));
  }
  if (command.files === 'some' && parsed.positionals.length === 0)
    throw new UsageError('takes at least one file');
  if (typeof command.files === 'number' && parsed.positionals.length !== command.files)
    throw new UsageError(
      `takes ${command.files} file${command.files === 1 ? '' : 's'}, got ${parsed.positionals.length}`,
    );
  await command.run(parsed.positionals, parsed.values as OptionValues);
}
