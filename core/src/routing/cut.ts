import type { Derivation, HouseReader } from '../derive/reader.js';
import { partOf } from '../derive/part.js';
import { shapeOfBox } from '../facts/box-facts.js';
import type { Run } from '../house/model.js';
import type { CableId } from '../rulebook/cables.js';
import { cableOnWay } from './run-cable.js';
import type { Way } from './way.js';
import { wayBetween, wayOfRun } from './way.js';

/** A part of a length to cut, in inches, so that a person can add it up. */
export interface CutPart {
  readonly part:
    'across' | 'rise' | 'sheath' | 'free' | 'tail-light' | 'tail-panel' | 'droop' | 'habit' | 'round';
  readonly lengthIn: number;
}

/** How long a cable is cut. */
export interface Cut {
  readonly lengthIn: number;
  /** Where it comes from: somebody measured it, the way along the framing, or how long such ways commonly are. */
  readonly source: 'measured' | 'way' | 'estimate';
  /** Nobody has measured it, and no way is known. */
  readonly isEstimate: boolean;
  readonly way: Way;
  /** What it is made of; nothing where it was measured. */
  readonly parts: readonly CutPart[];
}

/** What is left over at the end of a cable in this box: at the panel, at a light that is finished later, or to make it up. */
function atEnd(reader: HouseReader, boxId: string): CutPart {
  const rules = reader.rules();
  const { kind } = shapeOfBox(reader, boxId);
  if (kind === 'panel') return { part: 'tail-panel', lengthIn: rules.number('cut.tailPanel') };
  return kind === 'ceiling' || kind === 'light-box' || kind === 'buried-point'
    ? { part: 'tail-light', lengthIn: rules.number('cut.tailLight') }
    : { part: 'free', lengthIn: rules.number('free.length') };
}

/**
 * What a cable along a way is cut from: way, rise, sheath that shows at both ends (314.17), free conductor (300.14) or tail at each,
 * droop, the crew's habit, and what is rounded up (rulebook, chapter *Length to cut*).
 */
export function cutAlong(reader: HouseReader, way: Way, fromId: string, toId: string): Cut {
  const rules = reader.rules();
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
  const isEstimate = way.unknown !== undefined;
  return {
    lengthIn,
    source: isEstimate ? 'estimate' : 'way',
    isEstimate,
    way,
    parts: [...parts, { part: 'round' as const, lengthIn: lengthIn - sum }].filter(
      (part) => part.lengthIn !== 0,
    ),
  };
}

/** How long a cable between two boxes is cut, as long as nobody has measured it. The framing is searched from the first one. */
export const cutBetween = (reader: HouseReader, fromId: string, toId: string, cable: CableId): Cut =>
  cutAlong(reader, wayBetween(reader, fromId, toId, cable), fromId, toId);

const RUN_ENDS = partOf('runs', 'ends and length', ['from', 'to', 'measuredLengthIn']);

/** By run id. */
const CUT: Derivation<Cut | undefined> = {
  name: 'length to cut',
  cutsOff: true,
  compute: (reader, runId) => {
    const run = reader.part(RUN_ENDS, runId);
    if (!run) return undefined;
    const way = wayOfRun(reader, runId, cableOnWay(reader, runId));
    const found = cutAlong(reader, way, run.from.boxId, run.to.boxId);
    return run.measuredLengthIn === undefined
      ? found
      : { ...found, lengthIn: run.measuredLengthIn, source: 'measured', isEstimate: false, parts: [] };
  },
};

/** How long a run is cut: as somebody measured it, by its way along the framing, or estimated where that is not known. */
export const cutOf = (reader: HouseReader, run: Pick<Run, 'id'>): Cut => reader.derive(CUT, run.id)!;
