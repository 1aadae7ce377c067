import { hash, verify } from '@node-rs/argon2';
import pLimit from 'p-limit';

/** The second of the two settings that RFC 9106, section 4, recommends: 64 MB of memory, three passes. */
const ARGON2ID = { algorithm: 2, memoryCost: 65_536, timeCost: 3, parallelism: 4 };

/** Each takes 64 MB and a core for a moment. */
const few = pLimit(2);

/** A password as it is kept: argon2id (RFC 9106), with its salt and settings. */
export const hashPassword = (password: string): Promise<string> => few(() => hash(password, ARGON2ID));

/** A hash that no password has; checked where there is no such person, so that it takes as long as where there is. */
const nobody = hash('nobody has this', ARGON2ID);

/** @param kept null where there is no such person */
export async function isPassword(kept: string | null, password: string): Promise<boolean> {
  const isRight = await few(async () => verify(kept ?? (await nobody), password));
  return kept !== null && isRight;
}
