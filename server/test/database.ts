import { randomBytes } from 'node:crypto';
import { pino } from 'pino';
import { Sequelize } from 'sequelize';
import supertest from 'supertest';
import { createApp } from '../src/app.js';
import { migrate } from '../src/db/migrations.js';
import { Queue } from '../src/jobs/queue.js';
import { connect } from '../src/db/models.js';

/** Makes an empty database on a running server and gives its address, and the way to drop it. */
export async function freshDatabase(
  postgresUrl: string,
): Promise<{ url: string; drop: () => Promise<void> }> {
  const name = `t_${randomBytes(6).toString('hex')}`;
  const admin = new Sequelize(postgresUrl, { dialect: 'postgres', logging: false });
  await admin.query(`CREATE DATABASE ${name}`);
  const url = new URL(postgresUrl);
  url.pathname = `/${name}`;
  return {
    url: url.href,
    drop: async () => {
      await admin.query(`DROP DATABASE ${name} WITH (FORCE)`);
      await admin.close();
    },
  };
}

/** As {@link freshAgent}, with the queues of long work. */
export async function freshAgentWithQueue(postgresUrl: string) {
  const { url, drop } = await freshDatabase(postgresUrl);
  const sequelize = connect(url);
  await migrate(sequelize);
  const logger = pino({ level: 'silent' });
  const queue = await Queue.open(url, sequelize, logger, { supervise: false });
  return { agent: supertest(createApp({ sequelize, logger, queue })), sequelize, queue, drop };
}

/** The application on an empty database of its own, without a port: what asks it, its connection, and the way to drop it. */
export async function freshAgent(postgresUrl: string) {
  const { url, drop } = await freshDatabase(postgresUrl);
  const sequelize = connect(url);
  await migrate(sequelize);
  const agent = supertest(createApp({ sequelize, logger: pino({ level: 'silent' }) }));
  return { agent, sequelize, drop };
}
