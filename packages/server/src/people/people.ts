import { createHash, randomBytes, randomUUID } from 'node:crypto';
import type { Person, Role } from '@fennip/contract';
import { said } from '@fennip/words';
import type { Database } from '../database/connect.ts';
import { Refusal, notFound } from '../errors/refusal.ts';
import { hashPassword, isPassword } from './passwords.ts';

interface PersonRow {
  readonly id: string;
  readonly name: string;
  readonly role: Role;
  /** Null where a provider says who it is. */
  readonly password: string | null;
  readonly openid: string | null;
  readonly created_at: Date;
}

const asPerson = ({ id, name, role, created_at }: PersonRow): Person => ({
  ...{ id, name, role, createdAt: created_at.toISOString() },
});

const named = (database: Database, name: string) =>
  database<PersonRow>('people').whereRaw('lower(name) = lower(?)', [name.trim()]);

export async function allPeople(database: Database): Promise<Person[]> {
  return (await database<PersonRow>('people').orderBy('name')).map((row) => asPerson(row as PersonRow));
}

export async function personById(database: Database, id: string): Promise<Person | null> {
  const row = await database<PersonRow>('people').where('id', id).first();
  return row ? asPerson(row as PersonRow) : null;
}

export const hasPeople = async (database: Database): Promise<boolean> =>
  Boolean(await database('people').first('id'));

/** How somebody proves who they are: by a password, or by what a provider knows them by. */
export type Proof = { readonly password: string } | { readonly openid: string };
export type Newcomer = { readonly name: string; readonly role: Role } & Proof;

/** @throws Refusal where somebody has the name already */
export async function addPerson(database: Database, { name, role, ...known }: Newcomer): Promise<Person> {
  if (await named(database, name).first('id'))
    throw new Refusal('changed meanwhile', said('refused.nameTaken', { name: name.trim() }));
  const id = randomUUID();
  await database('people').insert({
    ...{ id, name: name.trim(), role },
    ...('openid' in known ? { openid: known.openid } : { password: await hashPassword(known.password) }),
  });
  return (await personById(database, id)) as Person;
}

/** Signs somebody out wherever they are signed in. */
export async function endSessions(database: Database, personId: string): Promise<void> {
  await database('sessions').whereRaw(`sess->>'person' = ?`, [personId]).delete();
}

/**
 * Takes somebody away, and signs them out. The last who runs the place stays.
 *
 * @throws Refusal
 */
export async function removePerson(database: Database, id: string): Promise<void> {
  await database.transaction(async (change) => {
    await change.raw('lock table people in exclusive mode');
    const row = await change<PersonRow>('people').where('id', id).first();
    if (!row) throw notFound('person');
    const others = await change<PersonRow>('people').where('role', 'runs').whereNot('id', id).first('id');
    if (row.role === 'runs' && !others) throw new Refusal('forbidden', said('refused.lastPerson'));
    await change('people').where('id', id).delete();
    await endSessions(change, id);
  });
}

/** The person that a provider knows by this; null where it is nobody's. */
export async function personOfProvider(database: Database, openid: string): Promise<Person | null> {
  const row = await database<PersonRow>('people').where('openid', openid).first();
  return row ? asPerson(row as PersonRow) : null;
}

/** The person of a name, if the password is theirs; null else, after the same time. */
export async function personWith(database: Database, name: string, password: string): Promise<Person | null> {
  const row = await named(database, name).first();
  const isRight = await isPassword(row?.password ?? null, password);
  return row && isRight ? asPerson(row as PersonRow) : null;
}

/** An invitation is good for so long, in milliseconds. */
const INVITED_MS = 7 * 24 * 3_600_000;
const hashOf = (token: string): string => createHash('sha256').update(token).digest('hex');

/** Invites somebody. @returns the token of the link, which is kept nowhere */
export async function invite(
  database: Database,
  { name, role }: { readonly name: string; readonly role: Role },
): Promise<string> {
  if (await named(database, name).first('id'))
    throw new Refusal('changed meanwhile', said('refused.nameTaken', { name: name.trim() }));
  const token = randomBytes(24).toString('base64url');
  await database('invitations').insert({
    ...{ token: hashOf(token), name: name.trim(), role },
    expires_at: new Date(Date.now() + INVITED_MS),
  });
  return token;
}

/** Makes an account of an invitation, which is used up by it. @throws Refusal where it is not good any more */
export async function acceptInvitation(database: Database, token: string, proof: Proof): Promise<Person> {
  const [row]: { name: string; role: Role; expires_at: Date }[] = await database('invitations')
    .where('token', hashOf(token))
    .delete()
    .returning(['name', 'role', 'expires_at']);
  if (!row || row.expires_at < new Date()) throw notFound('invitation');
  return addPerson(database, { ...row, ...proof });
}
