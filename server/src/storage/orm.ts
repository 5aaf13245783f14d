import { Migrator } from '@mikro-orm/migrations';
import { MikroORM } from '@mikro-orm/postgresql';
import pg from 'pg';
import { ENTITIES } from './entities.js';
import { MIGRATIONS } from './migrations.js';

export type Orm = MikroORM;

/** Connects to a database, by its URL. Migrating is a step of its own. */
export const connect = (databaseUrl: string, connections = 10): Promise<Orm> =>
  MikroORM.init({
    clientUrl: databaseUrl,
    entities: ENTITIES,
    extensions: [Migrator],
    discovery: { disableDynamicFileAccess: true },
    metadataCache: { enabled: false },
    migrations: { migrationsList: MIGRATIONS, snapshot: false, transactional: true },
    pool: { min: 0, max: connections, acquireTimeoutMillis: 5000 },
    driverOptions: { connection: { connectionTimeoutMillis: 4000 } },
    allowGlobalContext: false,
    logger: () => undefined,
  });

/** Any number: those who migrate this database wait for each other on it. */
const MIGRATING = 7_114_203;

/** How long a statement may wait for a lock, may run, and a transaction may lie open. */
const PATIENCE = {
  lock_timeout: '4s',
  statement_timeout: '20s',
  idle_in_transaction_session_timeout: '15s',
} as const;

/**
 * Brings the database to the shape of this program. Any number of servers may do so at once: one migrates, the others wait on
 * a lock of a connection of its own. Then sets how patient the sessions of this role are in this database; not as options of
 * the connection, which a pooler refuses.
 */
export async function migrate(orm: Orm, databaseUrl: string): Promise<void> {
  const client = new pg.Client({ connectionString: databaseUrl, connectionTimeoutMillis: 10_000 });
  await client.connect();
  try {
    await client.query('begin');
    await client.query(
      "select set_config('statement_timeout', '0', true), set_config('lock_timeout', '0', true)",
    );
    await client.query("select set_config('idle_in_transaction_session_timeout', '0', true)");
    await client.query('select pg_advisory_xact_lock($1)', [MIGRATING]);
    await orm.migrator.up();
    const { rows } = await client.query<{ name: string }>('select quote_ident(current_database()) as name');
    for (const [setting, value] of Object.entries(PATIENCE))
      await client.query(`alter role current_user in database ${rows[0]!.name} set ${setting} = '${value}'`);
    await client.query('commit');
  } finally {
    await client.end();
  }
}
