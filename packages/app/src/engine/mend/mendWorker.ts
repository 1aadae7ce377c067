import type { CutEdge, PictureNature } from '@fennip/core/examine';
import type { Fault } from '@fennip/core/fault';
import type { AreaChange, Fence, ZoneProposal } from '@fennip/core/fence';
import type { GrainModel } from '@fennip/core/grain';
import type { MarkTarget } from '@fennip/core/mark';
import type {
  FaultToMend,
  Guide,
  LabStatistics,
  Mend,
  MendProposal,
  MendSurroundings,
  MendWish,
  MethodChoice,
  RebuildMend,
  SpotMend,
  Verdict,
} from '@fennip/core/mend';
import type { Rect } from '@fennip/core/raster';
import type { TreatBy } from '@fennip/core/recipe';
import type { EdgeFit, Source, SourceCandidate, SourceQuery } from '@fennip/core/source';
import type { MaskTarget, Point, Reach, Target } from '@fennip/core/target';
import { EDGES_LOOK, edgesInto } from '@fennip/core/examine';
import { reshapeArea } from '@fennip/core/fence';
import { markReads, measureMark } from '@fennip/core/mark';
import {
  applyMend,
  canvasOf,
  extendGuide,
  extensionReads,
  faultReads,
  finishPatch,
  isTreatment,
  judgeMend,
  labStatistics,
  mendFootprint,
  mendReads,
  mendsInTurn,
  proposalReads,
  proposeMend,
  rebuildSteps,
} from '@fennip/core/mend';
import {
  colourFloats,
  fullScale,
  growRect,
  intersectRects,
  layPatch,
  narrowWindow,
  pictureRect,
  uniteRects,
} from '@fennip/core/raster';
import { createMendedPicture } from '@fennip/core/recipe';
import { findSources, fitEdge, searchRect } from '@fennip/core/source';
import { targetBounds } from '@fennip/core/target';
import { expose, transfer, wrap } from 'comlink';
import type { DrawnTouch } from './drawnTouch.ts';
import { followArea } from './followArea.ts';
import { areaOfProposal, grow, growRoughly, zonesSeen } from './growArea.ts';
import { measurePictureGrain } from './measurePictureGrain.ts';
import { paintHelper } from '../paint/paintHelper.ts';
import { mendPart } from '../paint/paintTile.ts';
import { partForCell } from '../paint/partForCell.ts';
import { smudgesOf } from './smudgesOf.ts';
import { wiresOf } from './wiresOf.ts';
import { JUDGED_AROUND } from '../paint/judgedAround.ts';
import { maskFile } from './maskFile.ts';
import type { TileStore, TiledPicture } from '../paint/tileStore.ts';
import { createTileStore } from '../paint/tileStore.ts';
import { toBitmap } from '../paint/toBitmap.ts';
import { warmUp } from '../paint/warmUp.ts';
import type { TileLender } from '../table/tableWorker.ts';

/** Tiles that are held on to, in bytes; they are shared with the worker that lends them. */
const MOST_BYTES = 64e6;
/** No more pixels than this are looked at to tell what could be better about a mend: all of them have to be fetched and held. */
const MOST_PIXELS = 16e6;
/** How far beyond a mend and its source an edge fit looks, in pixels: its band and the way it may go. */
const FITTED_AROUND = 16;
/** How often a long run says how far it is, in milliseconds. */
const PROGRESS_EVERY_MS = 100;

const isTooLarge = ({ width, height }: Rect): boolean => width * height > MOST_PIXELS;

let open: TileStore | null = null;

function opened(): TileStore {
  if (!open) throw new Error('no picture is open');
  return open;
}

/** A spot's mend is no treatment: nothing is to be carried out. */
const alone: TreatBy = () => Promise.resolve(null);

const api = {
  /** Opens a picture whose tiles another worker lends; what was open before is let go. */
  open(picture: TiledPicture, port: MessagePort): void {
    const lender = wrap<TileLender>(port);
    open = createTileStore(picture, (_, level, column, row) => lender(level, column, row), MOST_BYTES);
  },

  /** Has the code of mends compiled before the first one is waited for. */
  warmUp: (): Promise<void> => warmUp(() => Promise.resolve()),

  /** Does for the worker that paints what takes long. */
  help(port: MessagePort): void {
    expose(paintHelper, port);
  },

  /**
   * Makes mends for faults one after the other, on the picture without mends.
   *
   * @param stop a shared cell; where it is not 0 the run ends with what it has
   * @param onProgress called now and then with how many are made
   */
  async proposeRun(
    faults: readonly FaultToMend[],
    surroundings: MendSurroundings,
    choice: MethodChoice,
    stop: Int32Array,
    onProgress: (count: number) => void,
  ): Promise<Pick<MendProposal, 'mend'>[]> {
    const tiles = opened();
    const made: Pick<MendProposal, 'mend'>[] = [];
    const mendNext = mendsInTurn(surroundings, tiles.pixels, choice);
    let reportedAt = performance.now();
    for (const fault of faults) {
      if (Atomics.load(stop, 0) !== 0) break;
      await tiles.ready([faultReads(fault, tiles.pixels.shape)]);
      made.push({ mend: mendNext(fault).mend });
      if (performance.now() - reportedAt < PROGRESS_EVERY_MS) continue;
      onProgress(made.length);
      reportedAt = performance.now();
    }
    return made;
  },

  /** Makes one mend for a target set by hand. */
  async propose(wish: MendWish, surroundings: MendSurroundings, choice: MethodChoice): Promise<MendProposal> {
    const { ready, pixels } = opened();
    await ready([proposalReads(wish, pixels.shape)]);
    return proposeMend(wish, surroundings, pixels, choice);
  },

  /** Measures what a hand has marked, on the picture without mends. */
  async measure(target: MarkTarget, nature: PictureNature): Promise<Fault> {
    const { ready, pixels } = opened();
    await ready([markReads(target, pixels.shape)]);
    return measureMark(target, pixels, nature);
  },

  /** The edges that run into an area. @param clear how far around it the picture tells nothing, in pixels */
  async edges(outline: readonly Point[], clear: number): Promise<CutEdge[]> {
    const { ready, pixels } = opened();
    const bounds = targetBounds({ shape: 'outline', points: outline }, clear + EDGES_LOOK);
    const rect = intersectRects(bounds, pictureRect(pixels.shape));
    await ready([rect]);
    return edgesInto(outline, pixels.window(rect), clear);
  },

  /** A guide that was drawn, carried on along its edge. */
  async extended(guide: Guide): Promise<Guide> {
    const { ready, pixels } = opened();
    const rect = extensionReads(guide, pixels.shape);
    await ready([rect]);
    return extendGuide(guide, pixels.window(rect));
  },

  /** The places a mend's texture could come from, best first; none for what winds over too much of the picture. */
  async sources(query: SourceQuery): Promise<SourceCandidate[]> {
    const { ready, pixels } = opened();
    const search = searchRect(query, pixels.shape);
    if (isTooLarge(search)) return [];
    await ready([search]);
    return findSources(query, pixels);
  },

  /** The source moved so that edges which run into the target meet theirs; null where there is nothing to fit. */
  async fit(reach: Reach, source: Source): Promise<EdgeFit | null> {
    const { ready, pixels } = opened();
    const { target, margin, edge } = reach;
    const mend = { id: 'fit', target, margin, edge, share: 1, on: true, method: 'heal', source } as const;
    await ready(mendReads(mend, pixels.shape).map((rect) => growRect(rect, FITTED_AROUND)));
    return fitEdge(reach, source, pixels);
  },

  /** Changes the area of a fence; null where nothing is left of it. */
  reshape(area: Target | null, change: AreaChange): MaskTarget | null {
    return reshapeArea(area, change, opened().pixels.shape);
  },

  /** Moves the border of an area onto edges of the picture within reach of it. */
  follow: (area: Target, reach: number): Promise<MaskTarget | null> => followArea(opened(), area, reach),

  /** The area that grows from touches, at once and with a border as rough as the level it was found on. */
  growRoughly: (
    touches: readonly DrawnTouch[],
    reach: number,
    base: Target | null,
  ): Promise<MaskTarget | null> => growRoughly(opened(), touches, reach, base),

  /** The area that grows from touches, with its border where the full-size picture has the edge. */
  grow: (touches: readonly DrawnTouch[], reach: number, base: Target | null): Promise<MaskTarget | null> =>
    grow(opened(), touches, reach, base),

  /** The picture's grain, measured on parts spread over it. */
  grain: (): Promise<GrainModel> => measurePictureGrain(opened()),

  /** The places where the picture's grain is missing. */
  smudges: (): Promise<Fault[]> => smudgesOf(opened()),

  /** Wires and the like: real things that may have to go. */
  wires: (): Promise<Fault[]> => wiresOf(opened()),

  /** Mean and spread of the colour inside a target. */
  async colours(target: Target): Promise<LabStatistics | null> {
    const { ready, pixels } = opened();
    await ready([intersectRects(targetBounds(target, 0), pictureRect(pixels.shape))]);
    return labStatistics(target, pixels);
  },

  /** The colour around a place, encoded, 0 to 1, one value for each channel. */
  async colourAt([x, y]: Point): Promise<number[]> {
    const { ready, pixels } = opened();
    const around = { left: Math.floor(x) - 1, top: Math.floor(y) - 1, width: 3, height: 3 };
    const rect = intersectRects(around, pictureRect(pixels.shape));
    await ready([rect]);
    const { raster } = pixels.window(rect);
    const top = fullScale(raster.depth);
    return colourFloats(raster).map(
      (plane) => plane.reduce((sum, value) => sum + value, 0) / plane.length / top,
    );
  },

  /** The large even parts the program sees by itself. */
  proposeZones: (): Promise<ZoneProposal[]> => zonesSeen(opened()),

  /** The area of a zone that was proposed. */
  zoneOf: (pixels: Uint8Array): Promise<MaskTarget | null> => areaOfProposal(opened(), pixels),

  /** An area as a file of the full-size picture: white is in. */
  maskFile: (area: Target): Promise<Blob> => maskFile(area, opened().pixels.shape),

  /** What a mend thinks of itself, alone on the picture without mends; null where it covers nothing, or winds over too much. */
  async judge(mend: Mend): Promise<Verdict | null> {
    // What a treatment does is no mend of one place.
    if (isTreatment(mend)) return null;
    const { ready, pixels } = opened();
    const { shape } = pixels;
    const around = growRect(mendFootprint(mend, shape), JUDGED_AROUND);
    if (isTooLarge(around)) return null;
    await ready([...mendReads(mend, shape), around]);
    return judgeMend(applyMend(mend, canvasOf(pixels)), pixels);
  },

  /**
   * What a part of the picture would look like with a rebuild, worked out no finer than it is looked at.
   *
   * @param halvings how many times smaller by half the part is shown
   */
  async proposal(
    mend: RebuildMend,
    fences: readonly Fence[],
    rect: Rect,
    halvings: number,
  ): Promise<ImageBitmap> {
    const { ready, pixels } = opened();
    const [reads] = mendReads(mend, pixels.shape);
    await ready([uniteRects(reads, rect)]);
    const canvas = canvasOf(pixels, fences);
    const window = pixels.window(uniteRects(mendFootprint(mend, pixels.shape), rect));
    for (const answer of rebuildSteps(mend, canvas)) {
      if (answer.halvings > halvings) continue;
      layPatch(finishPatch(mend, answer.patch, canvas), window);
      break;
    }
    const bitmap = await toBitmap(narrowWindow(window, rect).raster);
    return transfer(bitmap, [bitmap]);
  },

  /** What a part of the picture would look like with one mend alone, as fine as a cell of the proof shows it. */
  async preview(mend: SpotMend, where: Rect): Promise<ImageBitmap> {
    const { part, ready, pixels } = opened();
    const mended = createMendedPicture(pixels);
    await mended.update({ mends: [mend] }, ready, () => undefined);
    const { level, rect } = partForCell(where, pixels.shape);
    const workshop = { ready, treat: alone, isAsSeen: true };
    const place = { level, left: rect.left, top: rect.top };
    const bitmap = await toBitmap(await mendPart(await part(level, rect), place, mended, workshop));
    return transfer(bitmap, [bitmap]);
  },
};

export type MendWorkerApi = typeof api;

expose(api);
