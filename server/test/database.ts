import { randomBytes } from 'node:crypto';
import { Sequelize } from 'sequelize';

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
