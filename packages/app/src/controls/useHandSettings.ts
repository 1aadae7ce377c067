import { computed } from 'vue';
import { useHand } from '../stores/hand.ts';

/** What is set of the tool in hand, as fields show it. */
export function useHandSettings() {
  const hand = useHand();
  const inPixels = (name: 'radius' | 'edge') =>
    computed({
      get: () => Number(hand.current[name].toFixed(1)),
      set: (value: number) => hand.set({ [name]: value }),
    });
  const share = computed({
    get: () => Math.round(hand.current.share * 100),
    set: (percent: number) => hand.set({ share: percent / 100 }),
  });
  return { size: inPixels('radius'), edge: inPixels('edge'), share };
}
