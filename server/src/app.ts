import { existsSync } from 'node:fs';
import { join } from 'node:path';
import express, { type Express } from 'express';
import { rateLimit } from 'express-rate-limit';
import helmet from 'helmet';
import type { Logger } from 'pino';
import { pinoHttp } from 'pino-http';
import { guard } from './http/guard.ts';
import { answerErrors, noSuchPath } from './http/refusal.ts';
import { roomFor } from './http/room-for.ts';
import { binRoutes } from './routes/bin.ts';
import { healthRoutes } from './routes/health.ts';
import { mediaRoutes } from './routes/media.ts';
import { pictureRoutes } from './routes/pictures.ts';
import { presenceRoutes } from './routes/presence.ts';
import { productionRoutes } from './routes/productions.ts';
import { rigRoutes } from './routes/rigs.ts';
import { shotRoutes } from './routes/shots.ts';
import { versionRoutes } from './routes/versions.ts';
import type { Settings } from './settings.ts';
import type { Work } from './work/work.ts';

/** A hundred desks that save an edit as soon as the last one is saved stay below this. */
const REQUESTS_A_MINUTE = 120_000;

/** The whole server but for its socket and its database. */
export function createApp(
  work: Work,
  settings: Pick<Settings, 'application' | 'origins'>,
  port: () => number,
  log: Logger,
): Express {
  const { database } = work.store;
  const app = express();
  app.disable('x-powered-by');
  app.use(pinoHttp({ logger: log, autoLogging: log.level === 'info' }));
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          defaultSrc: ["'self'"],
          // The encoder of sound is WebAssembly; text is still never run as script.
          scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
          // Panels and menus place themselves by inline styles.
          styleSrc: ["'self'", "'unsafe-inline'"],
          // The playground reads pictures out of files it was given.
          connectSrc: ["'self'", 'blob:'],
          imgSrc: ["'self'", 'blob:', 'data:'],
          mediaSrc: ["'self'", 'blob:'],
          fontSrc: ["'self'", 'data:'],
          workerSrc: ["'self'", 'blob:'],
          upgradeInsecureRequests: null,
        },
      },
      strictTransportSecurity: false,
    }),
  );
  app.use(guard(port, settings.origins));

  const api = express.Router();
  api.use(
    rateLimit({
      windowMs: 60_000,
      limit: REQUESTS_A_MINUTE,
      standardHeaders: true,
      legacyHeaders: false,
      message: { error: 'Too many requests; please wait a minute.' },
    }),
  );
  api.use((_request, response, next) => {
    response.set('Cache-Control', 'no-store');
    next();
  });
  api.use(roomFor(work.room));
  api.use(
    healthRoutes(database, work.room),
    productionRoutes(work),
    shotRoutes(work),
    pictureRoutes(database),
    mediaRoutes(database),
    binRoutes(database),
    versionRoutes(work),
    presenceRoutes(work),
    rigRoutes(work),
  );
  app.use('/api', api, noSuchPath);
  serveApplication(app, settings.application);
  app.use(answerErrors(log));
  return app;
}

/** The built application: its files by name, and its page for every address that is not a file. */
function serveApplication(app: Express, folder: string): void {
  if (!existsSync(folder)) return;
  app.use('/assets', express.static(join(folder, 'assets'), { immutable: true, maxAge: '1y', fallthrough: false }));
  app.use(express.static(folder, { index: false }));
  app.get(/^\/(?!api\/)[^.]*$/, (_request, response) => {
    response.set('Cache-Control', 'no-cache').sendFile(join(folder, 'index.html'));
  });
  app.use(noSuchPath);
}
