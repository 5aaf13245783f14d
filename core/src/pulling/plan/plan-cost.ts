import type { HouseReader } from '../../derive/reader.js';
import { boxesOf, circuitsAt } from '../../facts/box-facts.js';
import { fillBox } from '../../fill/fill-box.js';
import { cutOf } from '../../measuring/cut.js';
import type { CableId } from '../../rulebook/cables.js';
import { cableOf } from '../../rulebook/cables.js';
import { areaOf } from '../../vocabulary/size.js';
import { wireCircuit } from '../../wiring/conductors/wire-circuit.js';
import { neededCable } from '../pull-list.js';

/** What cable costs a foot, in the crew's money; by type. */
export type PriceOf = (cable: CableId) => number;

/** What a plan costs, and what of it cannot be. */
export interface PlanCost {
  /** Cable, and minutes of pulling and securing at the rate of the rulebook. */
  readonly cable: number;
  readonly work: number;
  /** The next larger box wherever what enters does not fit. */
  readonly boxes: number;
  /** How much is wrong with it: boxes that hold it in no size, runs for which no cable is made, switches that are not reached. */
  readonly wrong: number;
  /** The sum of it; what is wrong weighs more than any cable. */
  readonly total: number;
}

/** What is wrong once weighs as much as this much money. */
const WRONG = 100_000;

/** Without a price of the crew: by how much copper there is in it, common practice. */
export function usualPrice(reader: HouseReader, cable: CableId): number {
  const { colours, gauge } = cableOf(cable);
  const rules = reader.rules();
  return rules.number('plan.perConductorFoot') * colours.length * (areaOf(gauge) / areaOf(14));
}

/** What the runs and boxes of a circuit cost as the house stands: by the same wiring and fill that everything else goes by. */
export function costOf(reader: HouseReader, circuitId: string, priceOf: PriceOf): PlanCost {
  const rules = reader.rules();
  const { runs, tree, findings } = wireCircuit(reader, circuitId);
  let [cable, work, boxes, wrong] = [0, 0, 0, 0];
  const touched = new Set<string>();
  for (const run of reader.mentioning('runs', circuitId)) {
    if (run.kind !== 'cable' || !run.circuitIds.includes(circuitId)) continue;
    boxesOf(run).forEach((box) => touched.add(box));
    const type = neededCable(reader, run);
    const feet = cutOf(reader, run).lengthIn / 12;
    if (!type) wrong++;
    else cable += feet * priceOf(type);
    wrong += runs.get(run.id)?.missing.length ?? 0;
    const minutes = rules.number('plan.minutesPerRun') + feet * rules.number('plan.minutesPerFoot');
    work += (minutes * rules.number('plan.rate')) / 60;
  }
  wrong += tree.loops.length + tree.islands.length;
  wrong += findings.filter(({ severity }) => severity === 'stop').length;
  for (const boxId of touched) {
    if (!circuitsAt(reader, boxId).includes(circuitId)) continue;
    const fill = fillBox(reader, boxId);
    if (!fill || fill.fits) continue;
    if (fill.wouldFit.length) boxes += rules.number('plan.largerBox');
    else wrong += 1 - fill.leftIn3 / 100;
  }
  return { cable, work, boxes, wrong, total: cable + work + boxes + wrong * WRONG };
}
