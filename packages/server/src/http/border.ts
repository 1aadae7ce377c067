import { said } from '@fennip/words';
import type { RequestHandler } from 'express';
import helmet from 'helmet';
import type { Config } from '../context/config.ts';
import { isLoopback } from '../context/isLoopback.ts';
import { Refusal } from '../errors/refusal.ts';

/** Ports that a Host header leaves out. */
const USUAL_PORTS: readonly number[] = [80, 443];

/** The name in a Host header, without its port. */
const nameOf = (host: string): string => host.replace(/:\d+$/, '').toLowerCase();
const portOf = (host: string): number | null => Number(/:(\d+)$/.exec(host)?.[1]) || null;

/** True if a loopback name was asked at the port that this server listens on: another's page may stand at another port. */
function isOwnPort(host: string, port: number | undefined): boolean {
  const asked = portOf(host);
  return asked === null ? USUAL_PORTS.includes(port ?? 0) : asked === port;
}

/** What a program sends that is no page: a page of another site cannot, without asking first. */
const PROGRAMS_HEADER = 'x-requested-by';

/**
 * Refuses requests for another host (a name that someone pointed here) or another port, and changes that are asked for by
 * another site's page, or by nobody who says that they are none.
 */
export function checkOrigin({ hostNames, host }: Config): RequestHandler {
  const given = new Set([...hostNames, host].filter((name) => !isLoopback(name)));
  return (request, _response, next) => {
    const asked = request.headers.host ?? '';
    const name = nameOf(asked);
    const isOwn = isLoopback(name) && isOwnPort(asked, request.socket.localPort);
    if (!isOwn && !given.has(name) && !hostNames.includes(name))
      throw new Refusal('forbidden', said('refused.host'));
    const { origin } = request.headers;
    const changes = request.method !== 'GET' && request.method !== 'HEAD';
    const isPage = origin === `http://${asked}` || origin === `https://${asked}`;
    const isProgram = origin === undefined && request.headers[PROGRAMS_HEADER] !== undefined;
    if (changes && !isPage && !isProgram) throw new Refusal('forbidden', said('refused.origin'));
    next();
  };
}

/**
 * The headers of every answer: nothing from elsewhere, the isolation that shared memory needs, and over TLS that it stays so.
 * Plain HTTP on loopback is the usual way.
 */
export const guardHeaders = ({ isSecure }: Config): RequestHandler =>
  helmet({
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'self'"],
        // The inner loops of the filters are compiled code, which needs this; text is still never run as script.
        scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
        styleSrc: ["'self'", "'unsafe-inline'"],
        imgSrc: ["'self'", 'blob:', 'data:'],
        fontSrc: ["'self'"],
        connectSrc: ["'self'"],
        workerSrc: ["'self'"],
        objectSrc: ["'none'"],
        baseUri: ["'none'"],
        formAction: ["'self'"],
        frameAncestors: ["'none'"],
      },
    },
    crossOriginOpenerPolicy: { policy: 'same-origin' },
    crossOriginEmbedderPolicy: { policy: 'require-corp' },
    crossOriginResourcePolicy: { policy: 'same-origin' },
    strictTransportSecurity: isSecure ? { maxAge: 31_536_000 } : false,
  });
