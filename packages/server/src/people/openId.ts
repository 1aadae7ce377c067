import { randomUUID } from 'node:crypto';
import type { Person } from '@fennip/contract';
import { said } from '@fennip/words';
import * as client from 'openid-client';
import type { OpenIdConfig } from '../context/config.ts';
import { isLoopback } from '../context/isLoopback.ts';
import type { Database } from '../database/connect.ts';
import { Refusal } from '../errors/refusal.ts';
import { acceptInvitation, addPerson, personOfProvider } from './people.ts';

/** A provider's page is open for so long at most, in milliseconds. */
export const FLOW_MS = 10 * 60_000;

/** What this server must remember while somebody is at the provider's page. */
interface Flow {
  readonly state: string;
  readonly nonce: string;
  readonly verifier: string;
  readonly redirectUri: string;
  /** The invitation that the account is to be made of. */
  readonly invitation: string | null;
}

/** Signing in with a provider: OpenID Connect Core 1.0, authorization code flow, with PKCE (RFC 7636). */
export interface OpenId {
  /** @returns the address of the provider's page, and the flow's id, which only the same browser may come back with */
  begin(redirectUri: string, invitation: string | null): Promise<{ id: string; address: string }>;
  /**
   * @param asked the address that the provider led back to
   * @throws Refusal where it is not who came, or nobody that is known or invited
   */
  end(id: string, asked: URL): Promise<Person>;
}

/** A name that people see, from what the provider says. */
function nameFrom(claims: Readonly<Record<string, unknown>>): string {
  const texts = ['name', 'preferred_username', 'email', 'sub'].map((claim) => claims[claim]);
  const found = texts.find((text): text is string => typeof text === 'string' && text.trim() !== '') ?? '';
  return found
    .replace(/[\u0000-\u001f\u007f]/g, '')
    .trim()
    .slice(0, 120);
}

export function openIdOf(database: Database, config: OpenIdConfig): OpenId {
  let found: Promise<client.Configuration> | null = null;

  /** What the provider says of itself, asked for once; it may not be up yet when this server starts. */
  function provider(): Promise<client.Configuration> {
    const issuer = new URL(config.issuer);
    const execute = [
      // Signatures are checked also where the line alone would vouch for them.
      client.enableNonRepudiationChecks,
      // Plain HTTP is taken where it never leaves the machine.
      ...(isLoopback(issuer.hostname) ? [client.allowInsecureRequests] : []),
    ];
    found ??= client
      .discovery(issuer, config.clientId, config.clientSecret, undefined, { execute })
      .catch((error: unknown) => {
        found = null;
        throw error;
      });
    return found;
  }

  /** The account of somebody who came from the provider; one is made where they were invited, or where newcomers are taken. */
  async function personOf(
    openid: string,
    claims: Readonly<Record<string, unknown>>,
    invitation: string | null,
  ): Promise<Person> {
    const known = await personOfProvider(database, openid);
    if (known) return known;
    if (invitation !== null) return acceptInvitation(database, invitation, { openid });
    if (!config.newcomers) throw new Refusal('forbidden', said('refused.notInvited'));
    return addPerson(database, { name: nameFrom(claims), role: config.newcomers, openid });
  }

  return {
    begin: async (redirectUri, invitation) => {
      const configuration = await provider();
      const flow: Flow = {
        ...{ state: client.randomState(), nonce: client.randomNonce() },
        ...{ verifier: client.randomPKCECodeVerifier(), redirectUri, invitation },
      };
      const id = randomUUID();
      await database('openid_flows').where('expires_at', '<', new Date()).delete();
      await database('openid_flows').insert({
        ...{ id, body: JSON.stringify(flow), expires_at: new Date(Date.now() + FLOW_MS) },
      });
      const address = client.buildAuthorizationUrl(configuration, {
        redirect_uri: redirectUri,
        scope: 'openid profile',
        state: flow.state,
        nonce: flow.nonce,
        code_challenge: await client.calculatePKCECodeChallenge(flow.verifier),
        code_challenge_method: 'S256',
      });
      return { id, address: address.href };
    },

    end: async (id, asked) => {
      const [row]: { body: Flow; expires_at: Date }[] = await database('openid_flows')
        .where('id', id)
        .delete()
        .returning(['body', 'expires_at']);
      if (!row || row.expires_at < new Date()) throw new Refusal('not signed in', said('refused.flowOver'));
      const { state, nonce, verifier, redirectUri, invitation } = row.body;
      const here = new URL(redirectUri);
      here.search = asked.search;
      const tokens = await client
        .authorizationCodeGrant(await provider(), here, {
          ...{ pkceCodeVerifier: verifier, expectedState: state, expectedNonce: nonce },
          idTokenExpected: true,
        })
        .catch((error: unknown) => {
          throw new Refusal('not signed in', said('refused.provider'), { cause: error });
        });
      const claims = tokens.claims();
      if (!claims) throw new Refusal('not signed in', said('refused.provider'));
      return personOf(`${claims.iss} ${claims.sub}`, claims, invitation);
    },
  };
}
