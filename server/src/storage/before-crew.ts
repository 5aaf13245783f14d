import type { Orm } from './orm.js';
import { sqlOf } from './sql.js';

/** The three look-ups from before a crew is known. Everything after them goes by the crew that they give. */

export interface FoundSession {
  readonly crew_id: string;
  readonly device_id: string | null;
  readonly person_id: string | null;
  readonly person_name: string | null;
  readonly role: string | null;
  readonly role_in: unknown;
  readonly house_id: string | null;
  readonly is_shared: boolean | null;
  readonly made_at: Date;
  readonly used_at: Date;
  readonly ends_at: Date;
  readonly replaces: Buffer | null;
}

export async function findSession(orm: Orm, idHash: Buffer): Promise<FoundSession | undefined> {
  const [found] = await sqlOf(orm).all<FoundSession>('select * from find_session(?)', [idHash]);
  return found;
}

/** `wait`: too many tries, whatever was asked for. */
export type Outcome<T> = T | 'wait' | undefined;

export async function findPairing(
  orm: Orm,
  secret: { readonly token?: Buffer; readonly code?: Buffer },
  source: string,
): Promise<Outcome<{ crewId: string; id: string }>> {
  const [found] = await sqlOf(orm).all<{ outcome: string; crew_id: string; id: string }>(
    'select * from find_pairing(?, ?, ?)',
    [secret.token ?? null, secret.code ?? null, source],
  );
  if (!found) return undefined;
  return found.outcome === 'wait' ? 'wait' : { crewId: found.crew_id, id: found.id };
}

export async function findLogin(
  orm: Orm,
  asked: { readonly crew: string; readonly login: string; readonly deviceKey?: Buffer | undefined },
  source: string,
): Promise<Outcome<{ crewId: string; personId: string; passwordHash: string }>> {
  const [found] = await sqlOf(orm).all<{
    outcome: string;
    crew_id: string;
    person_id: string;
    password_hash: string;
  }>('select * from find_login(?, ?, ?, ?)', [asked.crew, asked.login, source, asked.deviceKey ?? null]);
  if (!found) return undefined;
  if (found.outcome === 'wait') return 'wait';
  return { crewId: found.crew_id, personId: found.person_id, passwordHash: found.password_hash };
}
