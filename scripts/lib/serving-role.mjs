// @ts-check
import { randomBytes } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { Sentence } from './steps.mjs';

const ROLE = 'mule_tally_serving';

/**
 * The role that a database is served under, made where there is none: it owns nothing and stands under the policies that keep
 * crews apart. Gives the URL to serve under. Its password lies in the folder.
 * @param {string} ownerUrl @param {string} folder
 */
export async function servingRole(ownerUrl, folder) {
  // Loaded only here: the packages may not be there yet when this file is.
  const { default: pg } = await import('pg');
  const file = join(folder, 'serving-password');
  mkdirSync(folder, { recursive: true });
  if (!existsSync(file)) writeFileSync(file, `${randomBytes(24).toString('hex')}\n`, { mode: 0o600 });
  const password = readFileSync(file, 'utf8').trim();
  const client = new pg.Client({ connectionString: ownerUrl, connectionTimeoutMillis: 10_000 });
  try {
    await client.connect();
    const { rowCount } = await client.query('select 1 from pg_roles where rolname = $1', [ROLE]);
    const as = `login nosuperuser nobypassrls nocreatedb nocreaterole password ${client.escapeLiteral(password)}`;
    await client.query(`${rowCount ? 'alter' : 'create'} role ${ROLE} ${as}`);
  } catch (error) {
    const { message, code } = /** @type {Error & { code?: string }} */ (error);
    throw new Sentence(
      `The server cannot use the database (${code ?? ''} ${message}). Is DATABASE_URL right, and may its role make another one?`,
    );
  } finally {
    await client.end().catch(() => undefined);
  }
  const url = new URL(ownerUrl);
  url.username = ROLE;
  url.password = password;
  return url.href;
}
