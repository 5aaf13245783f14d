import type { HouseReader } from '../derive/reader.js';
import type { ChangeBody } from '../changes/change.js';
import { setting } from '../changes/change.js';
import { pulledLengthIn } from '../facts/reel-usage.js';
import type { Pull, Reel } from '../house/model.js';

/** What is left on reels before this house takes from them, in inches, by id: what the crew has, less what other houses took. */
export type LeftForUs = ReadonlyMap<string, number>;

/** Where a reel stands in this house. */
export interface ReelUse {
  readonly reel: Reel;
  /** What is left on it, in: what it had before this house, less what came off it here. */
  readonly leftIn: number;
  /** The last foot mark that is known. */
  readonly mark?: number;
  /** Pulls since that mark of which nobody has measured the length. */
  readonly since: readonly Pull[];
}

/** The reels that this house has taken from, in list order. Where nothing is known of other houses, they took nothing. */
export function reelUses(reader: HouseReader, before: LeftForUs = new Map()): readonly ReelUse[] {
  return reader.all('reels').map((reel) => {
    const pulls = reader.mentioning('pulls', reel.id).filter(({ reelId }) => reelId === reel.id);
    const marked = pulls.findLastIndex(
      ({ endMark, startMark }) => endMark !== undefined || startMark !== undefined,
    );
    const last = pulls[marked];
    const mark = last && (last.endMark ?? last.startMark);
    const since = pulls.slice(last?.endMark === undefined ? Math.max(0, marked) : marked + 1);
    return {
      reel,
      leftIn:
        (before.get(reel.id) ?? reel.lengthIn) -
        pulls.reduce((sum, pull) => sum + (pulledLengthIn(pull) ?? 0), 0),
      ...(mark !== undefined && { mark }),
      since: since.filter((pull) => pull.lengthIn === undefined || pull.lengthFrom === 'planned'),
    };
  });
}

/** What is to be asked about a foot mark before it is taken; nothing is refused. */
export type MarkQuestion =
  /** Nothing came off the reel since the last mark. */
  | { readonly kind: 'none-since' }
  /** Marks ran the other way until now. */
  | { readonly kind: 'backwards'; readonly before: number }
  /** Much more, or less, than the runs since were planned to take. */
  | { readonly kind: 'unlikely'; readonly usedIn: number; readonly plannedIn: number }
  /** It does not begin where the reel stood last. */
  | { readonly kind: 'gap'; readonly before: number; readonly start: number }
  /** More than was left on the reel. */
  | { readonly kind: 'more-than-left'; readonly usedIn: number; readonly leftIn: number };

/** Pulled over planned that is taken without asking. Common practice: 1.05 to 1.20. */
const LIKELY = [0.8, 1.5] as const;

export interface SharedOut {
  readonly questions: readonly MarkQuestion[];
  /** What came off since the last mark; undefined where this is the first mark of the reel. */
  readonly usedIn?: number;
  /** Writes the lengths; undefined where there is nothing to write to. */
  readonly change?: ChangeBody;
}

/** Which way the marks of a reel ran: 1 up, -1 down; undefined while only one is known. */
function directionOf(reader: HouseReader, reelId: string): 1 | -1 | undefined {
  const marks = reader
    .mentioning('pulls', reelId)
    .flatMap(({ startMark, endMark }) => [startMark, endMark])
    .filter((mark) => mark !== undefined);
  for (let at = 1; at < marks.length; at++)
    if (marks[at] !== marks[at - 1]) return marks[at]! > marks[at - 1]! ? 1 : -1;
  return undefined;
}

/**
 * A foot mark that was read off a reel: what came off since the mark before is shared out over the runs since by the lengths that
 * were planned for them, and marked as shared. The first mark of a reel only says where it begins.
 */
export function sharedOut(
  reader: HouseReader,
  reelId: string,
  mark: number,
  segmentId: string,
  title: string,
  before?: LeftForUs,
): SharedOut {
  const use = reelUses(reader, before).find(({ reel }) => reel.id === reelId);
  if (!use || use.since.length === 0) return { questions: [{ kind: 'none-since' }] };
  const [first] = use.since;
  if (use.mark === undefined)
    return {
      questions: [],
      change: setting('pulls', use.since.at(-1)!.id, { endMark: mark }),
    };
  const usedIn = Math.abs(mark - use.mark) * 12;
  const planned = use.since.map((pull) => pull.plannedIn ?? pull.lengthIn ?? 0);
  const plannedIn = planned.reduce((sum, length) => sum + length, 0);
  const asPlannedIn = use.since.reduce((sum, pull) => sum + (pulledLengthIn(pull) ?? 0), 0);
  const direction = directionOf(reader, reelId);
  const questions: MarkQuestion[] = [];
  if (direction !== undefined && mark !== use.mark && Math.sign(mark - use.mark) !== direction)
    questions.push({ kind: 'backwards', before: use.mark });
  const ratio = plannedIn > 0 ? usedIn / plannedIn : 1;
  if (ratio < LIKELY[0] || ratio > LIKELY[1]) questions.push({ kind: 'unlikely', usedIn, plannedIn });
  const leftIn = use.leftIn + asPlannedIn;
  if (usedIn > leftIn) questions.push({ kind: 'more-than-left', usedIn, leftIn });
  return {
    questions,
    usedIn,
    change: {
      kind: 'group',
      title,
      changes: use.since.map((pull, at) =>
        setting('pulls', pull.id, {
          lengthIn: plannedIn > 0 ? (usedIn * planned[at]!) / plannedIn : usedIn / use.since.length,
          lengthFrom: 'shared',
          segmentId,
          ...(pull === first && pull.startMark === undefined && { startMark: use.mark! }),
          ...(at === use.since.length - 1 && { endMark: mark }),
        }),
      ),
    },
  };
}

/** Foot marks are read to the half foot: less than this is no gap. */
const SAME_MARK = 1;

/** A pull as somebody is about to log it. Marks in feet, length and what was planned in inches. */
export interface ToldPull {
  readonly reelId?: string | undefined;
  readonly startMark?: number | undefined;
  readonly endMark?: number | undefined;
  readonly lengthIn?: number | undefined;
  readonly plannedIn?: number | undefined;
}

/** What is to be asked about a pull before it is logged: marks that jump or run backwards, lengths that are unlikely. Never refused. */
export function askedOfPull(reader: HouseReader, told: ToldPull, before?: LeftForUs): MarkQuestion[] {
  const { reelId, startMark, endMark, plannedIn } = told;
  const questions: MarkQuestion[] = [];
  const usedIn =
    told.lengthIn ??
    (startMark === undefined || endMark === undefined ? undefined : Math.abs(endMark - startMark) * 12);
  const use = reelUses(reader, before).find(({ reel }) => reel.id === reelId);
  if (use && startMark !== undefined && endMark !== undefined) {
    const direction = directionOf(reader, use.reel.id);
    if (direction !== undefined && startMark !== endMark && Math.sign(endMark - startMark) !== direction)
      questions.push({ kind: 'backwards', before: use.mark ?? startMark });
    // Runs since the last mark that nobody measured lie in between.
    if (use.mark !== undefined && use.since.length === 0 && Math.abs(startMark - use.mark) >= SAME_MARK)
      questions.push({ kind: 'gap', before: use.mark, start: startMark });
  }
  if (usedIn !== undefined && plannedIn) {
    const ratio = usedIn / plannedIn;
    if (ratio < LIKELY[0] || ratio > LIKELY[1]) questions.push({ kind: 'unlikely', usedIn, plannedIn });
  }
  if (use && usedIn !== undefined && usedIn > use.leftIn)
    questions.push({ kind: 'more-than-left', usedIn, leftIn: Math.max(0, use.leftIn) });
  return questions;
}
