import { startWitness } from '../startWitness.ts';

/** What a thread finds whose program lies elsewhere. */
export default async function whatAThreadFinds(): Promise<string> {
  const started = await startWitness(1);
  return 'witness' in started ? 'the net' : started.missing;
}
