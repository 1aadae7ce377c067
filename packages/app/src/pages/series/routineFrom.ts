import type { FinishStep } from '@fennip/core/finish';
import type { PictureSheet, RoutineStep } from '@fennip/contract';

type RoutineFinish = Extract<RoutineStep, { do: 'finish' }>;

/** Mending asks for at least this confidence, however unsure what was mended by hand was. */
const LEAST_SURE = 0.5;

/** The steps that were taken on a picture, with their values, as others can take them. */
export function routineFrom({ picture, faults, recipe }: PictureSheet): RoutineStep[] {
  const answered = new Set(recipe.mends.map(({ fault }) => fault));
  const mended = faults.filter(({ id }) => answered.has(id));
  const sure = Math.max(LEAST_SURE, Math.min(1, ...mended.map(({ confidence }) => confidence)));
  const rounded = Math.floor(100 * sure) / 100;
  const zoneName = (id: string | undefined): string | undefined =>
    recipe.fences?.find((fence) => fence.id === id)?.name;
  return [
    ...(picture.lookedFor ? [{ do: 'examine', sensitivity: picture.lookedFor.sensitivity } as const] : []),
    ...(faults.some(({ charted }) => charted !== undefined) ? [{ do: 'chart' } as const] : []),
    ...(mended.length > 0 ? [{ do: 'mend', sure: rounded, doubtful: Math.min(0.3, rounded) } as const] : []),
    ...recipe.mends.flatMap((mend): RoutineStep[] => {
      if (mend.method !== 'sift' || !mend.on) return [];
      const { radius, threshold, polarity, detail, share } = mend;
      const zone = zoneName(mend.zone);
      return [
        { do: 'sift', radius, threshold, polarity, detail, share, ...(zone === undefined ? {} : { zone }) },
      ];
    }),
    ...(recipe.finish ?? []).flatMap((step): RoutineStep[] => {
      // Where a picture is cut and how it lies is its own.
      if (!step.on || step.method === 'crop' || step.method === 'straighten') return [];
      const { zone: id, ...unbounded } = step as Extract<FinishStep, { zone?: string }>;
      const zone = zoneName(id);
      return [
        { do: 'finish', step: unbounded as RoutineFinish['step'], ...(zone === undefined ? {} : { zone }) },
      ];
    }),
  ];
}
