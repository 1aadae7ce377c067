import { join } from 'node:path';
import type { Express } from 'express';
import express from 'express';
import type { Context } from '../context/context.ts';
import { binRoutes } from './binRoutes.ts';
import { checkOrigin, guardHeaders } from './border.ts';
import { chartRoutes } from './chartRoutes.ts';
import { describeRoutes } from './describeRoutes.ts';
import { fileRoutes } from './fileRoutes.ts';
import { jobRoutes } from './jobRoutes.ts';
import { pictureRoutes } from './pictureRoutes.ts';
import { answerProblems } from './problems.ts';
import { logRequests } from './logRequests.ts';
import { serviceRoutes } from './serviceRoutes.ts';
import { createMetrics } from '../service/metrics.ts';
import { peopleRoutes } from './peopleRoutes.ts';
import { guardJobs } from '../people/jobAccess.ts';
import type { Sessions } from '../people/sessions.ts';
import { accessRoutes } from './accessRoutes.ts';
import { openIdRoutes } from './openIdRoutes.ts';
import { boundAttempts, boundFlows, guardAccess, keepAudit, keepSessions } from './signIn.ts';
import { notFound } from '../errors/refusal.ts';
import { routineRoutes } from './routineRoutes.ts';
import { runRoutes } from './runRoutes.ts';

/**
 * The whole server as one handler: the border, the interface under /api, and the page.
 *
 * @param sessions of those who sign in; null where nobody need
 */
export function application(context: Context, sessions: Sessions | null): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use(logRequests(context.log));
  app.use(guardHeaders(context.config));
  app.use(checkOrigin(context.config));
  const { trustedProxy } = context.config;
  if (trustedProxy) app.set('trust proxy', trustedProxy);
  const jobs = guardJobs(context.database);
  if (sessions) {
    app.use(
      '/api',
      keepSessions(context, sessions),
      guardAccess(context, sessions, jobs),
      keepAudit(context),
    );
    app.post(['/api/session', '/api/invitations/:token'], boundAttempts());
    app.get('/api/session/openid', boundFlows());
  }
  app.use('/api', peopleRoutes(context, sessions), openIdRoutes(context), accessRoutes(context, jobs));
  const metrics = createMetrics(context);
  app.use(metrics.measure);
  app.use('/api', serviceRoutes(context, metrics), describeRoutes());
  app.use('/api', jobRoutes(context), pictureRoutes(context), fileRoutes(context));
  app.use('/api', runRoutes(context), chartRoutes(context), routineRoutes(context), binRoutes(context));
  app.use('/api', () => {
    throw notFound('address');
  });
  const { pageFolder } = context.config;
  app.use(
    '/assets',
    express.static(join(pageFolder, 'assets'), { immutable: true, maxAge: '1y', fallthrough: false }),
  );
  app.use(express.static(pageFolder, { index: false, cacheControl: false }));
  app.get('/{*any}', (_request, response) => {
    response.set('Cache-Control', 'no-cache');
    response.sendFile(join(pageFolder, 'index.html'));
  });
  app.use(answerProblems(context.log));
  return app;
}
