import { said } from '@fennip/words';
import type { RequestHandler } from 'express';
import helmet from 'helmet';
import type { Config } from '../context/config.ts';
import { Refusal } from '../errors/refusal.ts';

const LOOPBACK: readonly string[] = ['127.0.0.1', 'localhost', '[::1]'];

/** The name in a Host header, without its port. */
const nameOf = (host: string): string => host.replace(/:\d+$/, '').toLowerCase();

/**
 * Refuses requests for another host (a name that someone pointed here) and changes asked for by another site's page.
 */
export function checkOrigin({ hostNames, host }: Config): RequestHandler {
  const known = new Set([...LOOPBACK, ...hostNames, host]);
  return (request, _response, next) => {
    const asked = request.headers.host ?? '';
    if (!known.has(nameOf(asked))) throw new Refusal('forbidden', said('refused.host'));
    const { origin } = request.headers;
    const changes = request.method !== 'GET' && request.method !== 'HEAD';
    if (changes && origin !== undefined && origin !== `http://${asked}` && origin !== `https://${asked}`)
      throw new Refusal('forbidden', said('refused.origin'));
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
