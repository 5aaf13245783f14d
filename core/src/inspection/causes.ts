import { supplyOf } from '../facts/circuit-facts.js';
import { setting } from '../changes/change.js';
import type { Derivation, HouseReader } from '../derive/reader.js';
import { circuitsAt } from '../facts/box-facts.js';
import type { Finding } from '../findings/finding.js';
import { boxJoints } from '../wiring/joints/box-joints.js';
import { withoutJoint } from '../wiring/joints/made-joints.js';
import { netlistOf } from '../wiring/netlist/build-netlist.js';
import { inspectHouse } from './inspect-house.js';

/** A mistake, and what shows only because of it: mended with it. */
export interface Cause {
  readonly finding: Finding;
  readonly follows: readonly Finding[];
}

/** What operating shows that a splice made wrong, or a conductor too few, can be behind. A missing mark is a mistake by itself. */
const OPERATED = /^proof\.(?!white-unmarked$)/;

/** What shows where nothing comes from the panel. */
const UNFED =
  /^(wiring\.(unreached|cut-off)|proof\.(no-ground|neutral-broken|always-on-is-not|does-not-follow))$/;

/** Which findings bring which others with them: by box, by circuit, or in everything that is operated together with the box. */
const TABLE: readonly {
  readonly cause: string;
  readonly follows: RegExp;
  readonly where: 'box' | 'circuit' | 'operated together';
}[] = [
  { cause: 'box.reopen', follows: OPERATED, where: 'operated together' },
  { cause: 'circuit.no-home-run', follows: UNFED, where: 'circuit' },
  { cause: 'wiring.cut-off', follows: UNFED, where: 'circuit' },
  { cause: 'wiring.unreached', follows: /^proof\./, where: 'box' },
];

/** Everything of one box that was made another way is one mistake: it is opened once. */
function reopenedBoxes(reader: HouseReader, findings: readonly Finding[]): readonly Cause[] {
  const byBox = new Map<string, Finding[]>();
  for (const finding of findings) {
    const { boxId } = finding.where;
    if (finding.code === 'box.reopen' && boxId) byBox.set(boxId, [...(byBox.get(boxId) ?? []), finding]);
  }
  return [...byBox].map(([boxId, own]): Cause => {
    if (own.length === 1) return { finding: own[0]!, follows: [] };
    const record = reader.get('boxes', boxId)!.asBuilt ?? [];
    const asBuilt = boxJoints(reader, boxId).conflicts.reduce(
      (left, { made }) => withoutJoint(left, made),
      record,
    );
    return {
      finding: {
        code: 'box.reopen',
        severity: own.some(({ severity }) => severity === 'stop') ? 'stop' : 'note',
        where: own[0]!.where,
        facts: { places: own.length },
        fixes: [
          {
            code: 'made-again',
            facts: { all: true },
            change: setting('boxes', boxId, { asBuilt: asBuilt }),
          },
        ],
      },
      follows: own,
    };
  });
}

function belongs(
  reader: HouseReader,
  { where: at }: Finding,
  { where: of }: Finding,
  how: (typeof TABLE)[number]['where'],
): boolean {
  switch (how) {
    case 'box':
      return at.boxId !== undefined && at.boxId === of.boxId;
    case 'circuit':
      return at.circuitId !== undefined && at.circuitId === of.circuitId;
    case 'operated together': {
      if (!at.circuitId || !of.boxId || !supplyOf(reader, at.circuitId)) return false;
      const { circuitIds } = netlistOf(reader, at.circuitId);
      return circuitsAt(reader, of.boxId).some((id) => circuitIds.includes(id));
    }
  }
}

/**
 * Findings by the mistake behind them, in the order of the findings. What may have several causes stands under the first. The
 * table is held to what it claims: the first way out of a cause, taken, removes all that stands under it alone.
 */
export function groupByCause(reader: HouseReader, findings: readonly Finding[]): readonly Cause[] {
  const reopened = new Map(
    reopenedBoxes(reader, findings).flatMap((cause) =>
      [cause.finding, ...cause.follows].map((finding) => [finding, cause] as const),
    ),
  );
  const causes = new Map<Finding, Finding[]>();
  for (const finding of findings) {
    const cause = reopened.get(finding);
    if (!cause) causes.set(finding, []);
    else if (!causes.has(cause.finding)) causes.set(cause.finding, [...cause.follows]);
  }
  for (const finding of [...causes.keys()]) {
    const cause = [...causes.keys()].find(
      (other) =>
        other !== finding &&
        TABLE.some(
          ({ cause: code, follows, where }) =>
            other.code === code && follows.test(finding.code) && belongs(reader, finding, other, where),
        ),
    );
    if (!cause) continue;
    causes.get(cause)!.push(finding, ...causes.get(finding)!);
    causes.delete(finding);
  }
  return [...causes].map(([finding, follows]) => ({ finding, follows }));
}

/** The mistakes in a house, by house id, the gravest first. */
export const HOUSE_CAUSES: Derivation<readonly Cause[]> = {
  name: 'house causes',
  compute: (reader) => groupByCause(reader, inspectHouse(reader)),
};

export const causesIn = (reader: HouseReader): readonly Cause[] =>
  reader.derive(HOUSE_CAUSES, reader.houseId);
