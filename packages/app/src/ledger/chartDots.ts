import type { NumberedFault } from '@fennip/core/fault';
import { computed } from 'vue';
import { useRoute } from 'vue-router';
import { useExamination } from '../stores/examination.ts';
import type { LedgerEntry } from '@fennip/core/ledger';
import { usePicture } from '../stores/picture.ts';

/** One finding as the chart shows it. */
export interface ChartDot extends Pick<NumberedFault, 'id' | 'polarity' | 'r' | 'strength'> {
  readonly form: 'spot' | 'line' | 'area';
  /** Its line of the ledger; none for what would be listed at the sensitivity that is being set. */
  readonly entry: LedgerEntry | null;
}

type Shaped = Pick<NumberedFault, 'path' | 'outline'>;
const formOf = ({ path, outline }: Shaped): ChartDot['form'] => {
  if (outline) return 'area';
  return path ? 'line' : 'spot';
};

const dotOf = (entry: LedgerEntry): ChartDot[] => {
  const { id, polarity, r, strength } = entry;
  return polarity === null || strength === null
    ? []
    : [{ id, polarity, r, strength, form: formOf(entry), entry }];
};

/** What the chart shows: the ledger, and while the sensitivity is being set, what it would be then. */
export function useChartDots() {
  const route = useRoute();
  const picture = usePicture();
  const examination = useExamination();
  return computed((): ChartDot[] => {
    const { least, candidates } = examination;
    if (route.params['stage'] !== 'examine' || candidates.length === 0) return picture.entries.flatMap(dotOf);
    const stays = ({ state, isMarked, origin, confidence }: LedgerEntry): boolean =>
      state !== 'open' || isMarked || origin !== undefined || (confidence ?? 1) >= least;
    const coming = candidates.filter(
      ({ id, confidence }) => confidence >= least && !picture.entryById.has(id),
    );
    return [
      ...picture.entries.filter(stays).flatMap(dotOf),
      ...coming.map(({ id, polarity, r, strength, ...shape }): ChartDot => ({
        ...{ id, polarity, r, strength, form: formOf(shape), entry: null },
      })),
    ];
  });
}
