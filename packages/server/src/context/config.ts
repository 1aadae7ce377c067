import { fileURLToPath } from 'node:url';
import type { Role } from '@fennip/contract';
import { ROLES } from '@fennip/contract';

/** The provider that people may sign in with: OpenID Connect. */
export interface OpenIdConfig {
  readonly issuer: string;
  readonly clientId: string;
  readonly clientSecret: string;
  /** What people see of it. */
  readonly name: string;
  /** What those may do whom the provider knows and nobody has invited; null where they are not let in. */
  readonly newcomers: Role | null;
}

/** Everything about a server that its surroundings decide. */
export interface Config {
  readonly host: string;
  readonly port: number;
  readonly databaseUrl: string;
  /** The folder that pictures are kept in. */
  readonly storeFolder: string;
  /** The built page. */
  readonly pageFolder: string;
  /** Names the server may be called by, beside loopback ones. */
  readonly hostNames: readonly string[];
  /** Whether this server works on runs itself, or leaves them to workers. */
  readonly runs: 'here' | 'by workers';
  readonly mostPixels: number;
  readonly mostBytes: number;
  /** Bytes of the store's disk that stay free: a database that cannot write stops. */
  readonly keptBytes: number;
  /** Whether people sign in also where the server can be reached from this machine alone. */
  readonly signIn: 'where it is reached' | 'always';
  /** Files of a certificate and its key, where the server itself speaks TLS. */
  readonly tls: { readonly certificate: string; readonly key: string } | null;
  /** The proxy in front of it whose word on addresses and TLS counts: an address or a range, as Express takes it. */
  readonly trustedProxy: string | null;
  /** True where pages come over TLS: by itself, or through the proxy that is trusted. */
  readonly isSecure: boolean;
  readonly openId: OpenIdConfig | null;
  /** What a scraper of the server's figures sends as its bearer token, where people sign in; null where none may. */
  readonly metricsToken: string | null;
  /** Days after which what lies in the bin goes for good. */
  readonly binDays: number;
}

function numberFrom(text: string | undefined, otherwise: number, name: string): number {
  if (text === undefined || text === '') return otherwise;
  const value = Number(text);
  if (!(value > 0)) throw new Error(`${name} must be a number above 0, got ${text}`);
  return value;
}

/** @throws Error where only a part of it is set */
function openIdFrom(env: Readonly<Record<string, string | undefined>>): OpenIdConfig | null {
  const [issuer, clientId, clientSecret] = ['ISSUER', 'CLIENT_ID', 'CLIENT_SECRET'].map(
    (part) => env[`FENNIP_OPENID_${part}`] ?? '',
  );
  if (issuer === '' && clientId === '' && clientSecret === '') return null;
  if (issuer === '' || clientId === '' || clientSecret === '')
    throw new Error(
      'FENNIP_OPENID_ISSUER, FENNIP_OPENID_CLIENT_ID and FENNIP_OPENID_CLIENT_SECRET go together',
    );
  const newcomers = env['FENNIP_OPENID_NEWCOMERS'] ?? '';
  const role = ROLES.find((one) => one === newcomers) ?? null;
  if (newcomers !== '' && !role)
    throw new Error(`FENNIP_OPENID_NEWCOMERS must be one of ${ROLES.join(', ')}, got ${newcomers}`);
  const name = env['FENNIP_OPENID_NAME'] ?? new URL(issuer).hostname;
  return { issuer, clientId, clientSecret, name, newcomers: role };
}

/** Reads the configuration from environment variables. @throws Error naming the variable that is missing or wrong */
export function readConfig(env: Readonly<Record<string, string | undefined>>): Config {
  const databaseUrl = env['FENNIP_DATABASE_URL'];
  const storeFolder = env['FENNIP_STORE'];
  if (!databaseUrl) throw new Error('FENNIP_DATABASE_URL is not set');
  if (!storeFolder) throw new Error('FENNIP_STORE is not set');
  const [certificate, key] = [env['FENNIP_TLS_CERTIFICATE'], env['FENNIP_TLS_KEY']];
  if (Boolean(certificate) !== Boolean(key))
    throw new Error('FENNIP_TLS_CERTIFICATE and FENNIP_TLS_KEY go together');
  const trustedProxy = env['FENNIP_TRUSTED_PROXY'] ?? null;
  return {
    host: env['FENNIP_HOST'] ?? '127.0.0.1',
    port: numberFrom(env['FENNIP_PORT'], 8420, 'FENNIP_PORT'),
    databaseUrl,
    storeFolder,
    pageFolder: env['FENNIP_PAGE'] ?? fileURLToPath(new URL('../../../app/dist', import.meta.url)),
    hostNames: (env['FENNIP_HOST_NAMES'] ?? '').split(',').filter((name) => name !== ''),
    runs: env['FENNIP_RUNS'] === 'by-workers' ? 'by workers' : 'here',
    mostPixels: numberFrom(env['FENNIP_MOST_PIXELS'], 150e6, 'FENNIP_MOST_PIXELS'),
    mostBytes: numberFrom(env['FENNIP_MOST_BYTES'], 2e9, 'FENNIP_MOST_BYTES'),
    keptBytes: numberFrom(env['FENNIP_KEPT_BYTES'], 500e6, 'FENNIP_KEPT_BYTES'),
    signIn: env['FENNIP_SIGN_IN'] === 'always' ? 'always' : 'where it is reached',
    tls: certificate && key ? { certificate, key } : null,
    trustedProxy,
    isSecure: Boolean(certificate) || trustedProxy !== null,
    openId: openIdFrom(env),
    metricsToken: env['FENNIP_METRICS_TOKEN'] ?? null,
    binDays: numberFrom(env['FENNIP_BIN_DAYS'], 30, 'FENNIP_BIN_DAYS'),
  };
}
