import { readFileSync } from 'node:fs';
import { createRaster } from '@fennip/core/raster';
import type { Field } from '@fennip/core/describe';
import { SHAPE_NAMES } from '@fennip/core/describe';
import { RecipeSchema, newId } from '@fennip/contract';
import { checkRecipe } from '@fennip/contract/check';
import { FAULT_KINDS, describeKind } from '@fennip/core/fault';
import { FINISHES, FINISH_DESCRIPTIONS } from '@fennip/core/finish';
import { measureGrainModel } from '@fennip/core/grain';
import {
  HAND_TREATMENTS,
  METHODS,
  METHOD_DESCRIPTIONS,
  TREATMENTS,
  TREATMENT_DESCRIPTIONS,
  describeTreatment,
} from '@fennip/core/mend';
import type { Treatment } from '@fennip/core/mend';
import { WRITTEN_FORMATS, WRITTEN_FORMAT_NAMES } from '@fennip/core/picture';
import { emptyRecipe } from '@fennip/core/recipe';
import { READ_FORMATS, READ_FORMAT_NAMES, WRITERS, formatOf, formatOfName } from '@fennip/files';
import { isWordKey } from '@fennip/words';
import { describe, expect, it } from 'vitest';
import { neutralStep } from '../../packages/app/src/stores/neutralStep.ts';
import { finishFields } from '../../packages/app/src/pages/finish/finishFields.ts';
import { treatFields } from '../../packages/app/src/treat/treatFields.ts';
import { startingValues } from '../../packages/app/src/describe/editedFields.ts';
import { withFieldTables } from './fieldTables.ts';

const GUIDE = new URL('../../docs/', import.meta.url);
const document = (name: string): string => readFileSync(new URL(name, GUIDE), 'utf8');

/** What of a document's schema tells its members apart. */
function namesInSchema(list: 'mends' | 'finish'): string[] {
  const { properties } = RecipeSchema;
  const items: unknown = properties[list].items;
  const { oneOf } = items as { oneOf: { properties: { method: { const: string } } }[] };
  return oneOf.map((member) => member.properties.method.const);
}

const withoutWords = (keys: readonly string[]): string[] => keys.filter((key) => !isWordKey(key));
const described: Readonly<Record<string, { readonly fields: Readonly<Record<string, Field>> }>> = {
  ...METHOD_DESCRIPTIONS,
  ...TREATMENT_DESCRIPTIONS,
  ...FINISH_DESCRIPTIONS,
};

describe('a method', () => {
  it('is known by one name to the registry, the schema, the words and the documents', () => {
    for (const name of METHODS) {
      expect(METHOD_DESCRIPTIONS[name].name).toBe(name);
      expect(document('recipe.md')).toContain(`\`${name}\``);
    }
    expect(namesInSchema('mends')).toEqual([...METHODS, ...TREATMENTS]);
    expect(
      withoutWords(
        METHODS.flatMap((name) => [
          ...[`method.${name}`, `method.${name}.does`, `done.${name}`],
          ...[`report.method.${name}`, `report.does.${name}`],
        ]),
      ),
    ).toEqual([]);
  });

  it('takes from a source exactly where it has a field for one', () => {
    for (const name of METHODS)
      expect('source' in described[name].fields, name).toBe(METHOD_DESCRIPTIONS[name].takesFromSource);
  });
});

describe('a treatment', () => {
  const raster = createRaster(96, 96, 3, 8);
  raster.planes.forEach((plane, c) => plane.forEach((_, i) => (plane[i] = 90 + ((i * 37 + c) % 11))));
  const grain = measureGrainModel(raster);
  const statistics = { mean: [50, 0, 0], spread: [1, 1, 1] } as const;

  /** A treatment as the hand lays it: what it begins with, and what is measured. */
  function asLaid(method: (typeof HAND_TREATMENTS)[number]): Treatment {
    const base = {
      ...{ id: newId('mend'), margin: 0, edge: 0, share: 1, on: true, method },
      target: { shape: 'disc', x: 20, y: 20, r: 9 },
      ...startingValues(TREATMENT_DESCRIPTIONS[method].fields),
      ...(method === 'match' ? { from: statistics, to: statistics } : {}),
    } as unknown as Treatment;
    return describeTreatment(base).withGrain?.(base, grain) ?? base;
  }

  it('is known by one name to the registry, the words and the documents', () => {
    for (const name of TREATMENTS) {
      expect(TREATMENT_DESCRIPTIONS[name].name).toBe(name);
      expect(document('recipe.md')).toContain(`\`${name}\``);
    }
    const everywhere = TREATMENTS.flatMap((name) => [
      ...[`method.${name}`, `done.${name}`, `treat.letter.${name}`],
      ...[`report.method.${name}`, `report.does.${name}`],
    ]);
    const byHand = HAND_TREATMENTS.flatMap((name) => [`treat.${name}`, `treat.does.${name}`]);
    expect(withoutWords([...everywhere, ...byHand])).toEqual([]);
  });

  it.each(HAND_TREATMENTS)(
    'begins as one that a recipe can hold, and has words for what can be set: %s',
    (name) => {
      const mend = asLaid(name);
      expect(() => checkRecipe({ ...emptyRecipe(raster), mends: [mend] })).not.toThrow();
      const fields = treatFields(mend);
      const options = fields.flatMap((field) => (field.kind === 'choice' ? field.options : []));
      expect(
        withoutWords([
          ...fields.flatMap((field) => [`treat.${field.name}`, `treat.does.${field.name}`]),
          ...options.map((option) => `treat.option.${option}`),
        ]),
      ).toEqual([]);
    },
  );
});

describe('a step of the finish', () => {
  it('is known by one name to the registry, the schema, the words and the documents', () => {
    for (const name of FINISHES) {
      expect(FINISH_DESCRIPTIONS[name].name).toBe(name);
      expect(document('recipe.md')).toContain(`\`${name}\``);
    }
    expect(namesInSchema('finish')).toEqual(FINISHES);
    expect(
      withoutWords(
        FINISHES.flatMap((name) => [`finish.${name}`, `finish.light.${name}`, `report.step.${name}`]),
      ),
    ).toEqual([]);
  });

  it.each(FINISHES)('begins as one that a recipe can hold, and has words for what can be set: %s', (name) => {
    const step = neutralStep(name, { width: 600, height: 400 }, []);
    const recipe = { ...emptyRecipe({ width: 600, height: 400 }), finish: [step] };
    expect(() => checkRecipe(recipe)).not.toThrow();
    const fields = finishFields(step);
    expect(withoutWords(fields.map((field) => `finish.field.${field.name}`))).toEqual([]);
    // What is set reads back, and stays within what a recipe can hold.
    for (const field of fields)
      for (const value of [field.least, field.most]) {
        const changed = { ...recipe, finish: [field.set(value)] };
        if (name !== 'lens') expect(() => checkRecipe(changed), `${field.name} ${value}`).not.toThrow();
      }
  });
});

describe('a kind of fault', () => {
  it('is known by one name to the registry, the schema and the words', () => {
    expect(
      withoutWords(
        FAULT_KINDS.flatMap((kind) => [
          ...[`kind.${kind}`, `work.count.${kind}`],
          ...[`report.one.${kind}`, `report.many.${kind}`, `report.count.${kind}`],
          ...(describeKind(kind).isSingle && kind !== 'speck' ? [`ledger.group.${kind}`] : []),
        ]),
      ),
    ).toEqual([]);
  });

  it('that hides the picture lets no light through, but a line’s shoulders', () => {
    for (const kind of FAULT_KINDS) {
      const { hidesPicture, letsLightThrough, shape } = describeKind(kind);
      if (hidesPicture && letsLightThrough) expect(shape, kind).toBe('line');
    }
  });
});

describe('a format', () => {
  it('that is read is told by its first bytes, and by no other format’s', () => {
    const heads: Readonly<Record<string, number[]>> = {
      jpeg: [0xff, 0xd8, 0xff, 0xe0],
      png: [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a],
      tiff: [0x49, 0x49, 0x2a, 0],
      webp: [...Buffer.from('RIFF\0\0\0\0WEBP', 'latin1')],
    };
    expect(Object.keys(heads).sort()).toEqual([...READ_FORMAT_NAMES].sort());
    for (const name of READ_FORMAT_NAMES) {
      const head = Buffer.from(heads[name]);
      expect(formatOf(head)).toBe(name);
      expect(READ_FORMAT_NAMES.filter((other) => READ_FORMATS[other].matches(head))).toEqual([name]);
    }
  });

  it('that is written has a writer unless it is in layers, words, and endings of its own', () => {
    const flat = WRITTEN_FORMAT_NAMES.filter((name) => !WRITTEN_FORMATS[name].isLayered);
    expect(Object.keys(WRITERS).sort()).toEqual([...flat].sort());
    expect(withoutWords(WRITTEN_FORMAT_NAMES.map((name) => `deliver.format.${name}`))).toEqual([]);
    const endings = WRITTEN_FORMAT_NAMES.flatMap((name) => [...WRITTEN_FORMATS[name].endings]);
    expect(new Set(endings).size).toBe(endings.length);
    for (const name of flat)
      for (const ending of WRITTEN_FORMATS[name].endings) expect(formatOfName(`x.${ending}`)).toBe(name);
  });
});

describe('a field', () => {
  it('begins within its range, and its slider stays within what a document may hold', () => {
    for (const [name, { fields }] of Object.entries(described))
      for (const [key, field] of Object.entries(fields)) {
        if (field.kind === 'shape') expect(SHAPE_NAMES, `${name}.${key}`).toContain(field.shape);
        if (field.kind !== 'number') continue;
        const { start, least, most } = field;
        if (start !== undefined) expect(start >= least && start <= most, `${name}.${key}`).toBe(true);
      }
  });

  it('is described in the document on recipes as in core', async () => {
    const text = document('recipe.md');
    expect(text, 'run `npm run docs`').toBe(await withFieldTables(text));
  });
});
