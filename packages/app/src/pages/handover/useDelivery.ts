import type { DeliverySize, WrittenFormat } from '@fennip/core/picture';
import { describeFormat } from '@fennip/core/picture';
import type { DeliveryFormat, DeliveryRequest } from '@fennip/contract';
import { computed, reactive } from 'vue';
import type { Paper } from './papers.ts';
import { PAPERS } from './papers.ts';

/** All that can be set about a delivery, also what its format has no use for: it is there when the format comes back. */
export interface DeliveryChoices {
  format: DeliveryFormat;
  quality: number;
  depth: 8 | 16;
  chroma: '4:4:4' | '4:2:0';
  compression: 'deflate' | 'lzw';
  sizeBy: DeliverySize['kind'];
  longest: number;
  paper: Paper;
  ppi: number;
  profile: 'own' | 'srgb' | 'display-p3' | 'grey';
  intent: 'relative' | 'perceptual';
  isDataKept: boolean;
  isNoted: boolean;
}

export const USUAL_DELIVERY: DeliveryChoices = {
  format: 'jpeg',
  quality: 92,
  depth: 8,
  chroma: '4:4:4',
  compression: 'deflate',
  sizeBy: 'full',
  longest: 2400,
  paper: '5x7',
  ppi: 300,
  profile: 'own',
  intent: 'relative',
  isDataKept: true,
  isNoted: true,
};

/** True if a format has this to be set. */
export const hasOption = (format: DeliveryFormat, option: WrittenFormat['options'][number]): boolean =>
  describeFormat(format).options.includes(option);

export function sizeOf({ sizeBy, longest, paper, ppi }: DeliveryChoices): DeliverySize {
  switch (sizeBy) {
    case 'full':
      return { kind: 'full' };
    case 'pixels':
      return { kind: 'pixels', longest };
    case 'paper': {
      const [longer, shorter] = PAPERS[paper];
      return { kind: 'paper', longer, shorter, ppi };
    }
  }
}

/** What is asked of the server: what the format has no use for is left out. */
export function requestOf(choices: DeliveryChoices): DeliveryRequest {
  const { format, quality, chroma, compression, profile, intent, isDataKept, isNoted } = choices;
  const { depths, isLayered } = describeFormat(format);
  const depth = depths.includes(choices.depth) ? choices.depth : 8;
  if (isLayered) return { format, quality, depth };
  return {
    ...{ format, quality, depth, profile, isNoted },
    size: sizeOf(choices),
    isDataStripped: !isDataKept,
    ...(hasOption(format, 'chroma') ? { chroma } : {}),
    ...(hasOption(format, 'compression') ? { compression } : {}),
    ...(profile === 'srgb' || profile === 'display-p3' ? { intent } : {}),
  };
}

/** A delivery that is being set. */
export function useDelivery(usual: Partial<DeliveryChoices> = {}) {
  const choices = reactive<DeliveryChoices>({ ...USUAL_DELIVERY, ...usual });
  return { choices, request: computed(() => requestOf(choices)) };
}
