import type { HouseReader } from '../derive/reader.js';
import { standingPull } from '../facts/box-facts.js';
import type { WorkRecord } from '../house/model.js';

/** What another trade did to a run, as the step of its record; and what a hand ticks that has looked at a moved one since. */
export const CUT_STEP = 'cut';
export const MOVED_STEP = 'moved';
export const LOOKED_AT_STEP = 'looked-at';

/** A run that another trade has been at, and that is not seen to yet. */
export interface Struck {
  readonly record: WorkRecord;
  /** Cut: it has to be pulled again. Else it was moved: somebody has to look whether it is as it was. */
  readonly isCut: boolean;
}

const latest = (records: readonly WorkRecord[]): WorkRecord | undefined =>
  records.toSorted((a, b) => Date.parse(a.at) - Date.parse(b.at)).at(-1);

/** What another trade did to a run last, where nobody has seen to it since: pulled a cut one again, looked at a moved one. */
export function stillStruck(reader: HouseReader, runId: string): Struck | undefined {
  const records = reader.mentioning('records', runId);
  const cut = latest(records.filter(({ kind, step }) => kind === 'cut' && step === CUT_STEP));
  const pulled = standingPull(reader, runId);
  const isPulled = (record: WorkRecord): boolean =>
    pulled !== undefined && Date.parse(pulled.at) > Date.parse(record.at);
  if (cut && !isPulled(cut)) return { record: cut, isCut: true };
  const moved = latest(records.filter(({ kind, step }) => kind === 'cut' && step === MOVED_STEP));
  // Nothing hangs there, or another cable does.
  if (!moved || !pulled || isPulled(moved)) return undefined;
  const isLooked = records.some(
    ({ kind, step, at }) =>
      kind === 'tick' && step === LOOKED_AT_STEP && Date.parse(at) >= Date.parse(moved.at),
  );
  return isLooked ? undefined : { record: moved, isCut: false };
}

/** What another trade did to any of these runs after a moment, in ms. */
export const struckSince = (
  reader: HouseReader,
  runIds: Iterable<string>,
  moment: number,
): WorkRecord | undefined =>
  latest(
    [...new Set(runIds)].flatMap((runId) =>
      reader.mentioning('records', runId).filter(({ kind, at }) => kind === 'cut' && Date.parse(at) > moment),
    ),
  );
