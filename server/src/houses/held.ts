import type { ChangeBody, EnvelopeOf, HeldChange } from '@mule-tally/core';
import { Id } from '@mule-tally/core';
import { HttpProblem } from '../api/problem.js';
import type { Sql } from '../storage/sql.js';
import type { HouseKey } from './house-key.js';

/** Refusals that a lead cannot set right: the change itself is none, or not theirs to have made. */
const NOT_HELD = /^(change\.(invalid|id-reused|id-fixed)|rights\.|person\.|server\.)/;
export const canBeHeld = (code: string): boolean => !NOT_HELD.test(code);

/** Keeps what a hand did and the plan could not take, for a lead to decide. Kept once, however often it is sent. */
export async function hold(
  sql: Sql,
  { crewId, houseId }: HouseKey,
  envelope: EnvelopeOf<ChangeBody>,
  refusal: { readonly code: string; readonly message: string },
  at: Date,
): Promise<void> {
  await sql.all(
    `insert into held (crew_id, house_id, change_id, envelope, code, message, at) values (?, ?, ?, ?::jsonb, ?, ?, ?)
     on conflict do nothing`,
    [crewId, houseId, envelope.change.id, JSON.stringify(envelope), refusal.code, refusal.message, at],
  );
}

interface HeldRow {
  readonly change_id: string;
  readonly envelope: EnvelopeOf<ChangeBody>;
  readonly code: string;
  readonly message: string;
  readonly at: Date;
}

/** What waits for a lead, the oldest first. */
export async function heldOf(sql: Sql, { crewId, houseId }: HouseKey): Promise<HeldChange[]> {
  const rows = await sql.all<HeldRow>(
    `select change_id, envelope, code, message, at from held
     where crew_id = ? and house_id = ? and decided_at is null order by at, change_id limit 500`,
    [crewId, houseId],
  );
  return rows.map(({ change_id, envelope, code, message, at }) => ({
    changeId: change_id,
    actorId: envelope.actorId,
    ...(envelope.madeAt && { madeAt: envelope.madeAt }),
    body: envelope.change.body as HeldChange['body'],
    code,
    message,
    at: new Date(at).toISOString(),
  }));
}

/** The change that is to be decided, held until it is. */
export async function heldChange(
  sql: Sql,
  { crewId, houseId }: HouseKey,
  changeId: string,
): Promise<EnvelopeOf<ChangeBody>> {
  const id = Id.safeParse(changeId);
  const [row] = id.success
    ? await sql.all<HeldRow>(
        `select envelope from held where crew_id = ? and house_id = ? and change_id = ? and decided_at is null for update`,
        [crewId, houseId, id.data],
      )
    : [];
  if (!row) throw new HttpProblem(404, 'held.unknown', 'This has been decided already.');
  return row.envelope;
}

export async function decided(
  sql: Sql,
  { crewId, houseId }: HouseKey,
  changeId: string,
  by: string | undefined,
  isTaken: boolean,
  at: Date,
): Promise<void> {
  await sql.all(
    'update held set decided_at = ?, decided_by = ?, is_taken = ? where crew_id = ? and house_id = ? and change_id = ?',
    [at, by ?? null, isTaken, crewId, houseId, changeId],
  );
}

/** Changes that came once more and could be taken: nobody has to decide about them any more. */
export async function taken(
  sql: Sql,
  { crewId, houseId }: HouseKey,
  ids: readonly string[],
  at: Date,
): Promise<void> {
  await sql.all(
    `update held set decided_at = ?, is_taken = true
     where crew_id = ? and house_id = ? and change_id = any(?::uuid[]) and decided_at is null`,
    [at, crewId, houseId, `{${ids.join(',')}}`],
  );
}
