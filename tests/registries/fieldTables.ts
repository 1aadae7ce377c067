import type { Field } from '@fennip/core/describe';
import { FINISH_DESCRIPTIONS } from '@fennip/core/finish';
import { METHOD_DESCRIPTIONS, TREATMENT_DESCRIPTIONS } from '@fennip/core/mend';
import * as prettier from 'prettier';

interface Described {
  readonly name: string;
  readonly does: string;
  readonly fields: Readonly<Record<string, Field>>;
}

const BEGIN = '<!-- fields: written by `npm run docs` from the descriptions in core -->';
const END = '<!-- /fields -->';

function rangeOf(field: Field): string {
  switch (field.kind) {
    case 'number':
    case 'number or null': {
      const { least, most, isWhole, kind } = field;
      const bounds = Number.isFinite(most)
        ? `${least} to ${most}`
        : Number.isFinite(least)
          ? `${least} and up`
          : 'any';
      return `${isWhole ? 'whole, ' : ''}${bounds}${kind === 'number or null' ? ', or null' : ''}`;
    }
    case 'choice':
      return field.options.map((option) => `\`${option}\``).join(', ');
    case 'toggle':
      return '`true`, `false`';
    case 'shape':
      return `a ${field.shape}`;
  }
}

const unitOf = (field: Field): string =>
  'unit' in field && field.unit !== 'none' && field.unit !== 'share' ? field.unit : '';

function startOf({ start, isOptional }: Field): string {
  if (isOptional) return 'left out';
  return start === undefined ? '' : `\`${JSON.stringify(start)}\``;
}

const escaped = (text: string): string => text.replaceAll('*', '\\*').replaceAll('|', '\\|');

const rowsOf = ({ name, fields }: Described): string[] =>
  Object.entries(fields).map(
    ([key, field]) =>
      `| \`${name}\` | \`${key}\` | ${escaped(field.says)} | ${rangeOf(field)} | ${unitOf(field)} | ${startOf(field)} |`,
  );

const tableOf = (title: string, descriptions: readonly Described[]): string =>
  [
    `### ${title}`,
    '',
    ...descriptions.map(({ name, does }) => `- \`${name}\` ${escaped(does)}`),
    '',
    '| of | field | what it says | range | unit | begins as |',
    '| --- | --- | --- | --- | --- | --- |',
    ...descriptions.flatMap(rowsOf),
  ].join('\n');

/** A document on recipes with its tables of fields as the descriptions in core have them. */
export async function withFieldTables(text: string): Promise<string> {
  const tables = [
    tableOf('Methods', Object.values(METHOD_DESCRIPTIONS)),
    tableOf('Treatments', Object.values(TREATMENT_DESCRIPTIONS)),
    tableOf('Steps of the finish', Object.values(FINISH_DESCRIPTIONS)),
  ].join('\n\n');
  const [from, to] = [text.indexOf(BEGIN), text.indexOf(END)];
  if (from < 0 || to < from) throw new Error('the document has no place for tables of fields');
  const whole = `${text.slice(0, from)}${BEGIN}\n\n${tables}\n\n${text.slice(to)}`;
  const options = await prettier.resolveConfig(`${import.meta.dirname}/../../docs/recipe.md`);
  return prettier.format(whole, { ...options, parser: 'markdown' });
}
