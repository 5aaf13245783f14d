import type { CableId, ChangeBody, RecordIn, SingleChangeBody, TABLES } from '@mule-tally/core';
import { adding } from '@mule-tally/core';

type Reel = RecordIn<typeof TABLES, 'reels'>;

/** What is told of a pull: without marks or a length it is simply in. */
export interface Logged {
  readonly runId: string;
  /** None for the wires of a raceway, which stand in its run. */
  readonly cable?: CableId | undefined;
  readonly state: 'part' | 'in';
  readonly by: string;
  readonly startMark?: number | undefined;
  readonly endMark?: number | undefined;
  readonly lengthIn?: number | undefined;
  readonly reel?: Reel | undefined;
}

/**
 * The change that logs a pull, now. The house keeps what it needs to know of a reel that it was pulled from; a parent of it stays
 * in the crew book.
 */
export function loggedPull(told: Logged, isReelKnown: boolean, title: string): ChangeBody {
  const { runId, cable, state, by, startMark, endMark, lengthIn, reel } = told;
  const pull: SingleChangeBody = adding('pulls', {
    id: crypto.randomUUID(),
    runId,
    ...(cable && { cable }),
    ...(reel && { reelId: reel.id }),
    ...(startMark !== undefined && { startMark }),
    ...(endMark !== undefined && { endMark }),
    ...(lengthIn !== undefined && { lengthIn }),
    at: new Date().toISOString(),
    by,
    state,
  });
  if (!reel || isReelKnown) return pull;
  const { parentId: _, ...own } = reel;
  return { kind: 'group', title, changes: [adding('reels', own), pull] };
}
