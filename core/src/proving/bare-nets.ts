import type { HouseReader } from '../derive/reader.js';
import { boxesOf, conductorsOf, shapeOfBox } from '../facts/box-facts.js';
import { Union } from '../structures/union.js';
import { isLink } from '../wiring/circuit/panel-terminals.js';
import type { BoxJoint } from '../wiring/joints/box-joint.js';
import type { JointsByBox } from '../wiring/netlist/netlist.js';

/** The end of a conductor in a box, as two leads of a meter find it. */
export interface WireEnd {
  readonly boxId: string;
  readonly runId: string;
  readonly key: string;
  readonly isGround: boolean;
  /** What the conductor is there for. */
  readonly role: BoxJoint['role'];
  /** Which joint of the house it is in, by a number. */
  readonly joint: number;
}

const keyOf = ({ boxId, runId, key }: Pick<WireEnd, 'boxId' | 'runId' | 'key'>): string =>
  `${boxId} ${runId} ${key}`;

/**
 * What is joined in a house of which splices are made and nothing else is there: no device is in, light points are open, nothing
 * lands in a panel. Conductors and the splices between them.
 */
export class BareNets {
  readonly ends: readonly WireEnd[];
  private readonly union = new Union();
  private readonly at = new Map<string, number>();

  constructor(reader: HouseReader, joints: JointsByBox) {
    const ends: WireEnd[] = [];
    let count = 0;
    const byConductor = new Map<string, number>();
    const links = new Map<string, number>();
    for (const [boxId, own] of joints) {
      const isPanel = shapeOfBox(reader, boxId).kind === 'panel';
      for (const joint of own) {
        const number = count++;
        let first: number | undefined;
        for (const { runId, key, ground } of joint.ends) {
          const end: WireEnd = {
            boxId,
            runId,
            key,
            isGround: ground,
            role: ground ? 'ground' : joint.role,
            joint: isPanel ? -1 - ends.length : number,
          };
          const index = ends.push(end) - 1;
          this.union.make();
          this.at.set(keyOf(end), index);
          const other = byConductor.get(`${runId} ${key}`);
          if (other === undefined) byConductor.set(`${runId} ${key}`, index);
          else this.union.join(index, other);
          if (isPanel || joint.kind === 'undecided') continue;
          if (first === undefined) first = index;
          else this.union.join(first, index);
        }
        if (first === undefined) continue;
        for (const landing of joint.landings.filter(isLink)) {
          const link = `${boxId} ${landing.terminal.kind === 'link' ? landing.terminal.link : ''}`;
          const other = links.get(link);
          if (other === undefined) links.set(link, first);
          else this.union.join(first, other);
        }
      }
    }
    this.ends = ends;
  }

  /** The net of a conductor's end, by a number; undefined where it is not there. */
  net(end: Pick<WireEnd, 'boxId' | 'runId' | 'key'>): number | undefined {
    const index = this.at.get(keyOf(end));
    return index === undefined ? undefined : this.union.find(index);
  }

  /** Whether a meter rings between two ends, with two others joined for the time. */
  rings([a, b]: readonly [WireEnd, WireEnd], joined?: readonly [WireEnd, WireEnd]): boolean {
    const [na, nb] = [this.net(a), this.net(b)];
    if (na === undefined || nb === undefined) return false;
    if (na === nb) return true;
    if (!joined) return false;
    const [nc, nd] = [this.net(joined[0]), this.net(joined[1])];
    return (na === nc && nb === nd) || (na === nd && nb === nc);
  }
}

/** Joints of boxes by box, as they are found by `of`. */
export const jointsOfBoxes = (
  boxIds: Iterable<string>,
  of: (boxId: string) => readonly BoxJoint[],
): Map<string, readonly BoxJoint[]> => new Map([...boxIds].map((id) => [id, of(id)]));

/** Boxes at the ends of these runs, each once; of a run without conductors none. */
export const boxesOfRuns = (reader: HouseReader, runIds: Iterable<string>): Set<string> =>
  new Set(
    [...runIds].flatMap((id) => {
      const run = reader.get('runs', id);
      return run && conductorsOf(reader, run).length ? boxesOf(run) : [];
    }),
  );
