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

/** The change that logs a pull, now. */
export function loggedPull({ reel, ...told }: Logged): SingleChangeBody {
  const known = Object.fromEntries(Object.entries(told).filter(([, value]) => value !== undefined));
  return adding('pulls', {
    ...(known as Omit<Logged, 'reel'>),
    id: crypto.randomUUID(),
    at: new Date().toISOString(),
    ...(reel && { reelId: reel.id }),
  } as RecordIn<typeof TABLES, 'pulls'>);
}

/** With the reel it comes off. The house keeps what it needs to know of that; a parent of it stays in the crew book. */
export function withReel({ parentId: _, ...reel }: Reel, pull: SingleChangeBody): ChangeBody {
  return { kind: 'group', title: $localize`Logged a pull`, changes: [adding('reels', reel), pull] };
}
