import type { Framing } from '@fennip/core/finish';
import { pyramidLevels } from '@fennip/core/raster';
import type { Ref } from 'vue';
import { onBeforeUnmount, shallowRef, watch } from 'vue';
import type { ArrivedPart, TileCache } from '../canvas/tileCache.ts';
import { createTileCache } from '../canvas/tileCache.ts';
import type { Size } from '../canvas/viewport.ts';
import { framedRect } from '../engine/paint/framePart.ts';
import { engine } from '../engine/page/workers.ts';
import { useFinish } from '../stores/finish.ts';
import { usePicture } from '../stores/picture.ts';

export interface TiledTable {
  /** The sides of the picture as it came in, and as it is framed. */
  readonly original: Ref<Size>;
  readonly sides: Ref<Size>;
  readonly framing: Ref<Framing | null>;
  /** Tiles came; where, on the table, or all of it. */
  readonly onArrive: (part: ArrivedPart | null) => void;
  /** Every tile is to be drawn anew. */
  readonly onRenew: () => void;
}

/** The painted tiles of the open picture, kept as new as what the worker paints. */
export function useTiles({ original, sides, framing, onArrive, onRenew }: TiledTable) {
  const picture = usePicture();
  const finish = useFinish();
  const cache = shallowRef<TileCache | null>(null);
  /** Sides that the tiles were made for. */
  let tiled: Size = { width: 0, height: 0 };

  const newCache = (): TileCache =>
    createTileCache(
      {
        ...sides.value,
        mostLevels: pyramidLevels(original.value.width, original.value.height).length,
        covered: (key) => framedRect(key, framing.value),
      },
      onArrive,
    );

  watch(
    [() => picture.opening, framing],
    ([opening], [before]) => {
      if (picture.picture && opening > 0) void engine().frame(finish.framing);
      const isSame = sides.value.width === tiled.width && sides.value.height === tiled.height;
      if (opening === before && cache.value && isSame) cache.value.invalidateAll();
      else {
        cache.value?.clear();
        cache.value = picture.picture ? newCache() : null;
        tiled = sides.value;
      }
      onRenew();
    },
    { immediate: true },
  );

  const stopRepainting = picture.onRepaint({
    changed: (rect, follows) => cache.value?.soil(rect, follows),
    painted: (key, bitmap, list) => {
      if (cache.value) cache.value.take(key, bitmap, list);
      else bitmap.close();
    },
    laid: (part, bitmap, list) => {
      if (cache.value) cache.value.lay(part, bitmap, list);
      else bitmap.close();
    },
    touched: (part, bitmap, list) => {
      if (cache.value) cache.value.touchUp(part, bitmap, list);
      else bitmap.close();
    },
  });
  onBeforeUnmount(() => {
    stopRepainting();
    cache.value?.clear();
  });

  return cache;
}
