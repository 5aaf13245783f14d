import pg from 'pg';
import type { Orm } from './orm.js';
import { connect } from './orm.js';
import { BEFORE_CREW } from './sign-in-tables.js';
import { sqlOf } from './sql.js';

/** Any number: those who migrate this database wait for each other on it. */
const MIGRATING = 7_114_203;

/** How long a statement may wait for a lock, may run, and a transaction may lie open. */
const PATIENCE = {
  lock_timeout: '4s',
  statement_timeout: '20s',
  idle_in_transaction_session_timeout: '15s',
} as const;

/** The name that a database is served under, by its URL. */
const roleOf = (databaseUrl: string): string => decodeURIComponent(new URL(databaseUrl).username);

/**
 * Brings the database to the shape of this program, as the role that owns its tables. Any number of servers may do so at once:
 * one migrates, the others wait on a lock of a connection of its own. Then says what the role that serves may do, and how
 * patient its sessions are in this database; not as options of the connection, which a pooler refuses.
 */
export async function migrate(ownerUrl: string, servingUrl: string): Promise<void> {
  const client = new pg.Client({ connectionString: ownerUrl, connectionTimeoutMillis: 10_000 });
  await client.connect();
  const owner = await connect(ownerUrl, 2);
  try {
    await client.query('begin');
    await client.query(
      "select set_config('statement_timeout', '0', true), set_config('lock_timeout', '0', true)",
    );
    await client.query("select set_config('idle_in_transaction_session_timeout', '0', true)");
    await client.query('select pg_advisory_xact_lock($1)', [MIGRATING]);
    await owner.migrator.up();
    const role = client.escapeIdentifier(roleOf(servingUrl));
    await client.query(`grant usage on schema public to ${role}`);
    for (const table of await tablesOfCrews(client))
      await client.query(
        `grant select, insert, update, delete on ${client.escapeIdentifier(table)} to ${role}`,
      );
    for (const made of BEFORE_CREW) await client.query(`grant execute on function ${made} to ${role}`);
    const { rows } = await client.query<{ name: string }>('select quote_ident(current_database()) as name');
    for (const [setting, value] of Object.entries(PATIENCE))
      await client.query(`alter role ${role} in database ${rows[0]!.name} set ${setting} = '${value}'`);
    await client.query('commit');
  } finally {
    await owner.close();
    await client.end();
  }
}

/** Tables with a policy that tells crews apart; whatever has none is not served. */
async function tablesOfCrews(client: pg.Client): Promise<string[]> {
  const { rows } = await client.query<{ tablename: string }>(
    "select distinct tablename from pg_policies where schemaname = 'public' order by tablename",
  );
  return rows.map(({ tablename }) => tablename);
}

/** Why a role may not serve: the policies that keep crews apart would not hold it. */
export async function whyNotServing(orm: Orm): Promise<string | undefined> {
  const [role] = await sqlOf(orm).all<{ name: string; is_above: boolean; owns: boolean }>(
    `select r.rolname as name, r.rolsuper or r.rolbypassrls as is_above, exists(
       select 1 from pg_class c where c.relnamespace = 'public'::regnamespace and pg_has_role(r.oid, c.relowner, 'member')
     ) as owns from pg_roles r where r.rolname = current_user`,
  );
  if (!role?.is_above && !role?.owns) return undefined;
  return `The database may not be served as "${role.name}": this role ${
    role.is_above ? 'is above the policies that keep crews apart' : 'owns the tables'
  }. Set DATABASE_URL to a role of its own, and MIGRATION_DATABASE_URL to this one.`;
}

/** Whether the database answers. */
export const isReachable = (orm: Orm): Promise<boolean> =>
  sqlOf(orm)
    .all('select 1')
    .then(
      () => true,
      () => false,
    );
