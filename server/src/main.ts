import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { pino } from 'pino';
import { createApp } from './app.js';
import { isSignInOn } from './access/accounts.js';
import { Changes } from './changes.js';
import { connect } from './db/models.js';
import { migrate } from './db/migrations.js';
import { Queue } from './jobs/queue.js';
import { loadDemo } from './demo.js';
import { isLoopback } from './doors.js';

export interface ServeOptions {
  readonly databaseUrl: string;
  /** The wanted port; another free one is taken when it is in use. 0 takes any. */
  readonly port: number;
  readonly host?: string;
  readonly webRoot?: string;
  /** The folder of the demo drawings; absent to load none. */
  readonly demo?: string;
  readonly logLevel?: string;
  /** The address under which others reach it, as `https://ferry.example`. */
  readonly publicUrl?: string;
  readonly metricsToken?: string;
  /** Shorter ones than usual, ms. */
  readonly timeouts?: typeof TIMEOUTS;
}

export interface Running {
  readonly url: string;
  close(): Promise<void>;
}

function listen(server: Server, port: number, host: string): Promise<number> {
  return new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, host, () => {
      server.off('error', reject);
      resolve((server.address() as AddressInfo).port);
    });
  });
}

/** Who sends a request slower than this is cut off, ms: its head, and all of it; and how often it is looked for. */
const TIMEOUTS = { headersTimeout: 20_000, requestTimeout: 120_000, connectionsCheckingInterval: 10_000 };

function publicAddress(given: string | undefined): URL | undefined {
  if (given === undefined) return undefined;
  const url = URL.canParse(given) ? new URL(given) : undefined;
  if (!url || !/^https?:$/.test(url.protocol) || url.pathname !== '/')
    throw new Error(`PUBLIC_URL is “${given}”: write an address without a path, as https://ferry.example.`);
  return url;
}

/** Migrates, loads the demo into an empty database and serves; by default on loopback only. */
export async function serve(options: ServeOptions): Promise<Running> {
  const host = options.host ?? '127.0.0.1';
  const publicUrl = publicAddress(options.publicUrl);
  if (!isLoopback(host) && !publicUrl)
    throw new Error(
      `Others reach ${host}: say in PUBLIC_URL under which address, as https://ferry.example, or serve on 127.0.0.1.`,
    );
  const logger = pino({ level: options.logLevel ?? 'warn' });
  const sequelize = connect(options.databaseUrl);
  let changes: Changes | undefined;
  let queue: Queue | undefined;
  try {
    await migrate(sequelize);
    if (publicUrl && !(await isSignInOn()))
      throw new Error(
        `Everybody who reaches ${publicUrl.origin} could change everything, for nobody has to sign in: make an account with “npm run account -- NAME” first.`,
      );
    changes = await Changes.listen(options.databaseUrl, logger);
    const heard = changes;
    queue = await Queue.open(options.databaseUrl, sequelize, logger, { supervise: false });
    const line = queue;
    if (options.demo !== undefined) await loadDemo(sequelize, options.demo, line);
    const app = createApp({
      sequelize,
      logger,
      changes: heard,
      queue: line,
      ...(options.webRoot !== undefined && { webRoot: options.webRoot }),
      ...(publicUrl && { publicUrl }),
      ...(options.metricsToken !== undefined && { metricsToken: options.metricsToken }),
    });
    const server = createServer(options.timeouts ?? TIMEOUTS, app);
    const port = await listen(server, options.port, host).catch((error: unknown) => {
      if ((error as NodeJS.ErrnoException).code === 'EADDRINUSE') return listen(server, 0, host);
      throw error;
    });
    return {
      url: `http://${host}:${port}`,
      close: async () => {
        await new Promise<void>((resolve) => {
          server.close(() => {
            resolve();
          });
          server.closeAllConnections();
        });
        await heard.close();
        await line.close();
        await sequelize.close();
      },
    };
  } catch (error) {
    await changes?.close();
    await queue?.close();
    await sequelize.close();
    throw error;
  }
}
