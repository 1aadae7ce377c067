import type { IncomingMessage, ServerResponse } from 'node:http';
import type { RequestHandler } from 'express';
import type { Logger } from 'pino';
import { pinoHttp } from 'pino-http';

/** Asked for so often that a line for each would hide all others. */
const OFTEN = /^\/(api\/(tiles|health|ready|metrics)|assets)\b/;

/** A line in the log for each request: what was asked for, how it was answered, and how long that took. */
export const logRequests = (log: Logger): RequestHandler =>
  pinoHttp({
    logger: log,
    customLogLevel: ({ url = '' }: IncomingMessage, { statusCode }: ServerResponse, error) => {
      if (error || statusCode >= 500) return 'error';
      return OFTEN.test(url) ? 'debug' : 'info';
    },
    // What stands behind the question mark may be a name.
    serializers: {
      req: ({ method, url }: { method: string; url: string }) => ({ method, path: url.split('?')[0] }),
      res: ({ statusCode }: { statusCode: number }) => ({ status: statusCode }),
    },
    customSuccessMessage: () => 'request',
    customErrorMessage: () => 'request failed',
  });
