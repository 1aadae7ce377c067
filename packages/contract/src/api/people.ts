import type { Static } from '@sinclair/typebox';
import { Type } from '@sinclair/typebox';
import { NameSchema } from './job.ts';

/** What somebody may do: look; look and work; run the place as well. */
export const ROLES = ['sees', 'works', 'runs'] as const;
export type Role = (typeof ROLES)[number];

/** A studio has dozens; a bound for lists of them. */
export const MOST_PEOPLE = 1000;

const RoleSchema = Type.Union(ROLES.map((role) => Type.Literal(role)));
/** Long enough not to be guessed; whoever wants spaces in it has them (NIST SP 800-63B, 5.1.1). */
const PasswordSchema = Type.String({ minLength: 12, maxLength: 256 });

export const SignInSchema = Type.Object(
  { name: NameSchema, password: Type.String({ maxLength: 256 }) },
  { additionalProperties: false },
);
export type SignIn = Static<typeof SignInSchema>;

export const InvitationSchema = Type.Object(
  { name: NameSchema, role: RoleSchema },
  { additionalProperties: false },
);
export type Invitation = Static<typeof InvitationSchema>;

export const AcceptanceSchema = Type.Object({ password: PasswordSchema }, { additionalProperties: false });
export type Acceptance = Static<typeof AcceptanceSchema>;

export interface Person {
  readonly id: string;
  readonly name: string;
  readonly role: Role;
  /** ISO 8601. */
  readonly createdAt: string;
}

/** Who is signed in. */
export interface Session {
  /** False where the server can be reached from its own machine alone. */
  readonly isNeeded: boolean;
  readonly person: Person | null;
  /** What people see of the provider that they can sign in with instead of a password; null where there is none. */
  readonly provider: string | null;
}
