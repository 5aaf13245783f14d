import type { CableId, ChangeBody, HouseReader, RecordIn, SingleChangeBody, TABLES } from '@mule-tally/core';
import { adding } from '@mule-tally/core';
import { cutOf } from '@mule-tally/core/work';

type Reel = RecordIn<typeof TABLES, 'reels'>;

/** What is told of a pull: without marks or a length it has the length that was planned. */
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

/** The change that logs a pull, now; with what is planned for it at this moment. */
export function loggedPull(reader: HouseReader, { reel, ...told }: Logged): SingleChangeBody {
  const run = reader.get('runs', told.runId);
  const plannedIn = run && run.kind !== 'raceway' ? cutOf(reader, run).lengthIn : undefined;
  const isMeasured = told.lengthIn !== undefined || told.startMark !== undefined;
  const known = Object.fromEntries(Object.entries(told).filter(([, value]) => value !== undefined));
  return adding('pulls', {
    ...(plannedIn !== undefined && {
      plannedIn,
      ...(!isMeasured && told.state === 'in' && { lengthIn: plannedIn, lengthFrom: 'planned' as const }),
    }),
    ...(known as Omit<Logged, 'reel'>),
    id: crypto.randomUUID(),
    at: new Date().toISOString(),
    ...(reel && { reelId: reel.id }),
  } as RecordIn<typeof TABLES, 'pulls'>);
}

/** With the reel it comes off, where the house does not know it yet; a parent of it stays in the crew book. */
export function withReel(
  reader: HouseReader,
  reel: Reel | undefined,
  pulls: readonly SingleChangeBody[],
  title?: string,
): ChangeBody {
  const isNew = reel && !reader.get('reels', reel.id);
  if (!isNew && pulls.length === 1) return pulls[0]!;
  const { parentId: _, ...own } = reel ?? { parentId: undefined };
  return {
    kind: 'group',
    title: title ?? $localize`Logged a pull`,
    changes: [...(isNew ? [adding('reels', own as Reel)] : []), ...pulls],
  };
}
