import { onMounted, ref, shallowRef } from 'vue';
import type { MarkColours } from '../canvas/drawMark.ts';

/** The colours of the table, as the theme has them; once it is mounted. */
export function useTableColours() {
  const colours = shallowRef<MarkColours>({ open: '', mended: '', chosen: '' });
  /** What lies around and behind the picture. */
  const surround = ref('');
  onMounted(() => {
    const style = getComputedStyle(document.documentElement);
    const colour = (name: string): string => style.getPropertyValue(name).trim();
    colours.value = {
      open: colour('--open-on-picture'),
      mended: colour('--mended-on-picture'),
      chosen: colour('--chosen-on-picture'),
    };
    surround.value = colour('--surround');
  });
  return { colours, surround };
}
