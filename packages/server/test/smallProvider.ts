import { createHash, randomUUID } from 'node:crypto';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { SignJWT, exportJWK, generateKeyPair } from 'jose';

const CLIENT = { id: 'fennip', secret: 'between the two of them' };

/** Who is at the provider's page, and in what way it answers wrongly. */
interface Visitor {
  readonly sub: string;
  readonly name: string;
  readonly wrong?: 'nonce' | 'audience' | 'key' | 'issuer';
}

/** A provider of OpenID Connect on loopback: discovery, the authorization code flow with PKCE, keys (OpenID Connect Core 1.0). */
export interface SmallProvider {
  readonly issuer: string;
  readonly client: typeof CLIENT;
  /** Who signs in there next. */
  visitor: Visitor;
  close(): Promise<void>;
}

export async function startSmallProvider(): Promise<SmallProvider> {
  const [own, foreign] = [await generateKeyPair('RS256'), await generateKeyPair('RS256')];
  const codes = new Map<string, { asked: URLSearchParams; visitor: Visitor }>();
  let issuer = '';

  async function idToken({ sub, name, wrong }: Visitor, nonce: string): Promise<string> {
    return new SignJWT({ name, nonce: wrong === 'nonce' ? 'another' : nonce })
      .setProtectedHeader({ alg: 'RS256', kid: 'only' })
      .setIssuer(wrong === 'issuer' ? 'http://127.0.0.1:9' : issuer)
      .setAudience(wrong === 'audience' ? 'somebody else' : CLIENT.id)
      .setSubject(sub)
      .setIssuedAt()
      .setExpirationTime('5m')
      .sign(wrong === 'key' ? foreign.privateKey : own.privateKey);
  }

  /** The tokens for a code, once, and only to the client that began the flow. */
  async function tokens(sent: URLSearchParams, authorization: string): Promise<object | null> {
    const code = sent.get('code') ?? '';
    const given = codes.get(code);
    codes.delete(code);
    const challenge = createHash('sha256')
      .update(sent.get('code_verifier') ?? '')
      .digest('base64url');
    const byHeader = `Basic ${Buffer.from(`${CLIENT.id}:${encodeURIComponent(CLIENT.secret)}`).toString('base64')}`;
    const isClient = sent.get('client_secret') === CLIENT.secret || authorization === byHeader;
    if (!given || !isClient || given.asked.get('code_challenge') !== challenge) return null;
    if (given.asked.get('redirect_uri') !== sent.get('redirect_uri')) return null;
    const id_token = await idToken(given.visitor, given.asked.get('nonce') ?? '');
    return { access_token: randomUUID(), token_type: 'bearer', expires_in: 300, id_token };
  }

  const server = createServer((request, response) => {
    const json = (value: object, status = 200): void => {
      response.writeHead(status, { 'content-type': 'application/json' }).end(JSON.stringify(value));
    };
    const { pathname, searchParams } = new URL(request.url ?? '/', issuer);
    const answer = async (): Promise<void> => {
      if (pathname === '/.well-known/openid-configuration')
        json({
          issuer,
          authorization_endpoint: `${issuer}/authorize`,
          token_endpoint: `${issuer}/token`,
          jwks_uri: `${issuer}/keys`,
          response_types_supported: ['code'],
          id_token_signing_alg_values_supported: ['RS256'],
          code_challenge_methods_supported: ['S256'],
        });
      else if (pathname === '/keys')
        json({ keys: [{ ...(await exportJWK(own.publicKey)), kid: 'only', alg: 'RS256', use: 'sig' }] });
      else if (pathname === '/authorize') {
        const code = randomUUID();
        codes.set(code, { asked: searchParams, visitor: provider.visitor });
        const back = new URL(searchParams.get('redirect_uri') ?? '');
        back.search = new URLSearchParams({ code, state: searchParams.get('state') ?? '' }).toString();
        response.writeHead(302, { location: back.href }).end();
      } else if (pathname === '/token') {
        const chunks: Buffer[] = [];
        for await (const chunk of request) chunks.push(chunk as Buffer);
        const sent = new URLSearchParams(Buffer.concat(chunks).toString());
        const given = await tokens(sent, request.headers.authorization ?? '');
        if (given) json(given);
        else json({ error: 'invalid_grant' }, 400);
      } else json({}, 404);
    };
    answer().catch(() => json({}, 500));
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  issuer = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  const provider: SmallProvider = {
    ...{ issuer, client: CLIENT },
    visitor: { sub: '1', name: 'Ada' },
    close: () =>
      new Promise((resolve) => {
        server.close(() => resolve());
        server.closeAllConnections();
      }),
  };
  return provider;
}
