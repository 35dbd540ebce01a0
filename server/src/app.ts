import path from 'node:path';
import express, { type Express } from 'express';
import helmet from 'helmet';
import type { Logger } from 'pino';
import { pinoHttp } from 'pino-http';
import type { Sequelize } from 'sequelize';
import { guard } from './access/guard.js';
import { findWho } from './access/who.js';
import { linkRoutes } from './api/links.js';
import { peopleRoutes } from './api/people.js';
import { sessionRoutes } from './api/session.js';
import { ownFontRoutes } from './api/ownFonts.js';
import { handoffRoutes } from './api/handoffs.js';
import { changeRoutes } from './api/changes.js';
import { jobRoutes } from './api/jobs.js';
import { apiRoutes } from './api/routes.js';
import { revisionRoutes } from './api/revisions.js';
import { projectFileRoutes } from './api/projectFiles.js';
import { proofRoutes } from './api/proofs.js';
import type { Changes } from './changes.js';
import type { Queue } from './jobs/queue.js';
import { onlyFromHere } from './doors.js';
import { fontRoutes } from './fonts.js';
import { Metrics, operatingRoutes } from './operating.js';
import { problemHandler, unknownAddress } from './problem.js';

export interface AppOptions {
  readonly sequelize: Sequelize;
  readonly logger: Logger;
  /** The folder of the built web client; absent where only the API is served. */
  readonly webRoot?: string;
  /** What is heard of other servers' writes; absent where no window is told of them. */
  readonly changes?: Changes;
  /** Where long work is put in line; absent where there is none. */
  readonly queue?: Queue;
  /** The address under which others reach it; without one it answers to this machine alone. */
  readonly publicUrl?: URL;
  /** What has to be shown to read what it measures, where others reach it. */
  readonly metricsToken?: string;
}

/** Tokens that open something stand in addresses: they are not logged. */
const withoutTokens = (url: string): string =>
  url.replace(/\/(invitations|shared)\/[^/?]+/, (_, what: string) => `/${what}/…`);

/** The whole HTTP application: API, and the web client where it is built. It keeps no state between requests. */
export function createApp({
  sequelize,
  logger,
  webRoot,
  changes,
  queue,
  publicUrl,
  metricsToken,
}: AppOptions): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          // The shaping library is WebAssembly; antd writes style elements; pictures of drawings are data URIs.
          scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
          styleSrc: ["'self'", "'unsafe-inline'"],
          imgSrc: ["'self'", 'data:'],
          upgradeInsecureRequests: null,
        },
      },
      strictTransportSecurity: false,
    }),
  );
  app.use(
    pinoHttp({
      logger,
      serializers: {
        req: (request: { method: string; url: string }) => ({
          method: request.method,
          url: withoutTokens(request.url),
        }),
        res: (response: { statusCode: number }) => ({ status: response.statusCode }),
      },
    }),
  );
  app.set('is secure', publicUrl?.protocol === 'https:');
  app.use(onlyFromHere(publicUrl));
  const metrics = new Metrics();
  app.use(
    metrics.measure(),
    operatingRoutes(sequelize, metrics, { isPublic: publicUrl !== undefined, token: metricsToken }),
  );
  // A drawing of 20 MB grows a little when it is quoted.
  app.use(
    '/api',
    findWho(),
    guard(),
    ownFontRoutes(),
    projectFileRoutes(sequelize),
    express.json({ limit: '48mb' }),
    apiRoutes(sequelize),
    proofRoutes(),
    handoffRoutes(sequelize),
    revisionRoutes(sequelize),
    sessionRoutes(),
    peopleRoutes(sequelize),
    linkRoutes(sequelize),
    ...(queue ? [jobRoutes(sequelize, queue)] : []),
    ...(changes
      ? [
          changeRoutes(changes, (open) => {
            metrics.streams(open);
          }),
        ]
      : []),
    unknownAddress,
  );
  app.use('/fonts', fontRoutes());
  if (webRoot !== undefined) {
    app.use(express.static(webRoot, { index: false, maxAge: '1h' }));
    app.get('/{*page}', (request, response, next) => {
      // A missing file is not a page.
      if (path.extname(request.path) !== '') next();
      else response.sendFile(path.join(webRoot, 'index.html'), { cacheControl: false });
    });
  }
  app.use(unknownAddress);
  app.use(problemHandler(logger));
  return app;
}
