import type { Derivation, HouseReader } from '../derive/reader.js';
import { boxFacts, boxesOf } from '../facts/box-facts.js';
import type { Run } from '../house/model.js';
import type { Way } from './way.js';
import { wayBetween } from './way.js';

/** A part of a length to cut, in inches, so that a person can add it up. */
export interface CutPart {
  readonly part:
    'across' | 'rise' | 'sheath' | 'free' | 'tail-light' | 'tail-panel' | 'droop' | 'habit' | 'round';
  readonly lengthIn: number;
}

/** How long a cable is cut. */
export interface Cut {
  readonly lengthIn: number;
  /** Nobody has measured it. */
  readonly isEstimate: boolean;
  readonly way: Way;
  /** What it is made of; nothing where it was measured. */
  readonly parts: readonly CutPart[];
}

/** What is left over at the end of a cable in this box: at the panel, at a light that is finished later, or to make it up. */
function atEnd(reader: HouseReader, boxId: string): CutPart {
  const rules = reader.rules();
  const { kind } = boxFacts(reader, reader.get('boxes', boxId)!);
  if (kind === 'panel') return { part: 'tail-panel', lengthIn: rules.number('cut.tailPanel') };
  return kind === 'ceiling' || kind === 'light-box' || kind === 'buried-point'
    ? { part: 'tail-light', lengthIn: rules.number('cut.tailLight') }
    : { part: 'free', lengthIn: rules.number('free.length') };
}

/** How long a cable between two boxes is cut, as long as nobody has measured it. */
export function cutBetween(reader: HouseReader, fromId: string, toId: string): Cut {
  const rules = reader.rules();
  const way = wayBetween(reader, fromId, toId);
  const parts: CutPart[] = [
    { part: 'across', lengthIn: way.acrossIn },
    { part: 'rise', lengthIn: way.riseIn },
    { part: 'sheath', lengthIn: 2 * rules.number('cut.sheath') },
    atEnd(reader, fromId),
    atEnd(reader, toId),
    {
      part: 'droop',
      lengthIn: Math.max((way.lengthIn * rules.number('cut.droop')) / 100, rules.number('cut.leastDroop')),
    },
  ];
  const bare = parts.reduce((all, { lengthIn }) => all + lengthIn, 0);
  const sum = (bare * rules.number('cut.habit')) / 100;
  parts.push({ part: 'habit', lengthIn: sum - bare });
  const step = rules.number('cut.round');
  const lengthIn = step > 0 ? Math.ceil(sum / step - 1e-9) * step : sum;
  return {
    lengthIn,
    isEstimate: true,
    way,
    parts: [...parts, { part: 'round' as const, lengthIn: lengthIn - sum }].filter(
      (part) => part.lengthIn !== 0,
    ),
  };
}

/** By run id. */
const CUT: Derivation<Cut | undefined> = {
  name: 'length to cut',
  cutsOff: true,
  compute: (reader, runId) => {
    const run = reader.get('runs', runId);
    if (!run) return undefined;
    const [from, to] = boxesOf(run);
    const estimated = cutBetween(reader, from, to);
    return run.measuredLengthIn === undefined
      ? estimated
      : { ...estimated, lengthIn: run.measuredLengthIn, isEstimate: false, parts: [] };
  },
};

/** How long a run is cut: as somebody measured it, or estimated from where its ends stand. */
export const cutOf = (reader: HouseReader, run: Pick<Run, 'id'>): Cut => reader.derive(CUT, run.id)!;
