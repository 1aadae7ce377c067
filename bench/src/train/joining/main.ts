import { copyFile, mkdir, writeFile } from 'node:fs/promises';
import { dirname } from 'node:path';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { EXAMINE_DEFAULTS, leastConfidence } from '@fennip/core/examine';
import { WITNESS_FILE } from '@fennip/witness';
import { foundBefore } from './foundBefore.ts';
import type { Kept, SeenScene } from './growJoining.ts';
import { calibrated, grownWeights, joinedOn, judgedOn, weightsOf } from './growJoining.ts';
import { keptMaps } from './keptMaps.ts';
import type { JoinedScene } from './reportJoining.ts';
import { reportJoining } from './reportJoining.ts';
import { joiningScenes } from './joiningScenes.ts';

/*
 * Trains the two forests that join the finders with the net, on scenes of the validation photographs.
 *
 *   --rounds N   of scenes, each with other faults on other parts
 *   --find k/n   only finds what the finders alone see on every n-th scene, and keeps it: this takes longest, and can be
 *                done before the net is trained and side by side
 *   --look-only  prints what was learned and writes nothing
 */

const CORE = new URL('../../../../packages/core/src/examine/witness/', import.meta.url);
/** The net that was trained last; it goes into the tree with the forests that were trained for it. */
const NET = fileURLToPath(new URL('../../../../.fennip/net/model/witness.onnx', import.meta.url));
/** Photographs are left out in turn in so many groups. */
const FOLDS = 5;

const { values } = parseArgs({
  options: {
    rounds: { type: 'string', default: '2' },
    find: { type: 'string' },
    'look-only': { type: 'boolean' },
  },
});
const rounds = Array.from({ length: Number(values.rounds) }, (_, round) => round);

async function findOnly(which: string): Promise<void> {
  const [own, all] = which.split('/').map(Number);
  let count = 0;
  for (const round of rounds)
    for await (const scene of joiningScenes(round)) if (count++ % all === own) await foundBefore(scene);
}

async function seenScenes(): Promise<SeenScene[]> {
  const mapsOf = await keptMaps(NET);
  const scenes: SeenScene[] = [];
  for (const round of rounds)
    for await (const scene of joiningScenes(round))
      scenes.push({ scene, found: await foundBefore(scene), maps: await mapsOf(scene) });
  return scenes;
}

/** What forests that never saw a photograph keep on its scenes. */
function leftOut(scenes: readonly SeenScene[]): JoinedScene[] {
  const photographs = [...new Set(scenes.map(({ scene }) => scene.photograph))].sort();
  const foldOf = ({ scene }: SeenScene): number => photographs.indexOf(scene.photograph) % FOLDS;
  const joined: JoinedScene[] = [];
  for (let fold = 0; fold < FOLDS; fold++) {
    const forests = grownWeights(weightsOf(scenes.filter((seen) => foldOf(seen) !== fold)));
    for (const seen of scenes.filter((one) => foldOf(one) === fold)) {
      const kept = joinedOn(seen, forests);
      joined.push({ ...seen, kept, judged: judgedOn(seen, kept) });
    }
  }
  return joined;
}

async function main(): Promise<void> {
  const scenes = await seenScenes();
  const joined = leftOut(scenes);
  const all = (of: 'specks' | 'lines'): Kept[] => joined.flatMap(({ judged }) => judged[of]);
  const weights = calibrated(weightsOf(scenes), all('specks'), all('lines'));
  reportJoining(joined, weights, leastConfidence(EXAMINE_DEFAULTS.sensitivity));
  if (values['look-only']) return;
  for (const [name, forest] of [
    ['speckWitnessForest.json', weights.specks],
    ['lineWitnessForest.json', weights.lines],
  ] as const)
    await writeFile(fileURLToPath(new URL(name, CORE)), `${JSON.stringify(forest)}\n`);
  await mkdir(dirname(WITNESS_FILE), { recursive: true });
  for (const ending of ['.onnx', '.check.json'])
    await copyFile(NET.replace('.onnx', ending), WITNESS_FILE.replace('.onnx', ending));
}

await (values.find === undefined ? main() : findOnly(values.find));
