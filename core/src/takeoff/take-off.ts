import type { HouseReader } from '../derive/reader.js';
import { boxFacts, boxesInRoom, devicesIn, isLooseEnd, runsAt, standingPull } from '../facts/box-facts.js';
import { wiringGroup } from '../facts/circuit-facts.js';
import type { Box, Run } from '../house/model.js';
import { makeUpBox } from '../makeup/make-up-box.js';
import { cutOf } from '../routing/cut.js';
import { neededCable } from '../routing/run-cable.js';
import { holesOfRun } from '../routing/holes.js';
import { staplesOf } from '../routing/securing.js';
import { holesOf } from '../routing/way.js';
import type { CableId } from '../rulebook/cables.js';

/** Cable of one type. Feet. */
export interface CableLine {
  readonly cable: CableId;
  readonly runs: number;
  /** As it is measured or estimated, ends included. */
  readonly netFt: number;
  /** As this crew really pulls it: the value `cut.habit` of the rulebook. */
  readonly habitFt: number;
  /** With what is lost in cutting: the value `takeoff.waste`. */
  readonly wasteFt: number;
  /** Of that, what is not in yet. */
  readonly leftFt: number;
  /** Runs of which the length is an estimate. */
  readonly estimated: number;
}

/** So many of something. */
export interface PieceLine {
  readonly kind:
    'box' | 'marked-box' | 'ring' | 'device' | 'connector' | 'staple' | 'plate' | 'seal' | 'breaker';
  /** Of the catalogue, the kind of fitting, the connector, or what the breaker is: "20/1/afci". */
  readonly item: string;
  /** With one spare in ten where that is usual. */
  readonly count: number;
}

export interface TakeOff {
  readonly cables: readonly CableLine[];
  readonly pieces: readonly PieceLine[];
  /** Boxes that something is mounted on or in: what bids and piece pay go by. */
  readonly openings: number;
}

const INCHES = 12;

class Counts {
  private readonly counts = new Map<string, { kind: PieceLine['kind']; item: string; count: number }>();
  add(kind: PieceLine['kind'], item: string, count = 1): void {
    const key = `${kind} ${item}`;
    const known = this.counts.get(key);
    if (known) known.count += count;
    else this.counts.set(key, { kind, item, count });
  }
  lines(): PieceLine[] {
    return [...this.counts.values()].filter(({ count }) => count > 0);
  }
}

/** One spare in ten: common practice. */
const withSpare = (count: number): number => Math.ceil(count * 1.1 - 1e-9);

/** What secures, protects and closes runs: by their ways, each shared hole once; of a way that is not known as is usual. */
class Securing {
  staples = 0;
  plates = 0;
  sealed = 0;
  private readonly seen = new Set<string>();

  constructor(private readonly reader: HouseReader) {}

  add(run: Run): void {
    const { reader } = this;
    const { way } = cutOf(reader, run);
    this.staples += staplesOf(reader, way, run.from.boxId, run.to.boxId).habit;
    if (way.unknown !== undefined) {
      this.sealed += holesOf(reader, way).plates;
      this.plates += reader.rules().number('takeoff.platesPerRun');
      return;
    }
    for (const { member, number, needsPlate, isSealed } of holesOfRun(reader, run.id)) {
      const key = `${member} #${number}`;
      if (this.seen.has(key)) continue;
      this.seen.add(key);
      if (needsPlate) this.plates++;
      if (isSealed) this.sealed++;
    }
  }
}

/**
 * What a house, or one room of it, takes: cable by type, boxes by model, rings, devices, connectors by size from the make-up,
 * staples, plates, seal, breakers. Runs are counted where they arrive, breakers with the whole house. What secures and protects cable
 * follows its way; where that is not known it is as is usual (common practice).
 */
export function takeOff(reader: HouseReader, roomId?: string): TakeOff {
  const rules = reader.rules();
  const boxes: readonly Box[] = roomId === undefined ? reader.all('boxes') : boxesInRoom(reader, roomId);
  const inScope = new Set(boxes.map(({ id }) => id));
  const runs = reader.all('runs').filter(({ to }) => inScope.has(to.boxId));
  const counts = new Counts();
  let openings = 0;
  const connectors = new Map<string, number>();
  for (const box of boxes) {
    const facts = boxFacts(reader, box);
    if (facts.kind !== 'buried-point')
      counts.add(box.catalogueId ? 'box' : 'marked-box', box.catalogueId ?? facts.name);
    for (const { kind } of box.fittings ?? []) counts.add('ring', kind);
    const devices = devicesIn(reader, box.id);
    for (const { catalogueId } of devices) counts.add('device', catalogueId);
    if (facts.kind !== 'panel' && devices.length > 0) openings++;
    if (facts.kind === 'panel' || runsAt(reader, box.id).length === 0 || isLooseEnd(reader, box.id)) continue;
    for (const { connector } of makeUpBox(reader, box.id).steps)
      if (connector) connectors.set(connector.id, (connectors.get(connector.id) ?? 0) + 1);
  }
  for (const [id, count] of connectors) counts.add('connector', id, withSpare(count));

  const cables = new Map<
    CableId,
    { runs: number; netIn: number; habitIn: number; leftIn: number; estimated: number }
  >();
  const securing = new Securing(reader);
  for (const run of runs) {
    if (run.kind === 'raceway') continue;
    securing.add(run);
    const cable = neededCable(reader, run);
    if (!cable) continue;
    const { lengthIn, isEstimate, parts } = cutOf(reader, run);
    const habit = parts.find(({ part }) => part === 'habit')?.lengthIn ?? 0;
    const line = cables.get(cable) ?? { runs: 0, netIn: 0, habitIn: 0, leftIn: 0, estimated: 0 };
    cables.set(cable, {
      runs: line.runs + 1,
      netIn: line.netIn + lengthIn - habit,
      habitIn: line.habitIn + lengthIn,
      leftIn: line.leftIn + (standingPull(reader, run.id)?.state === 'in' ? 0 : lengthIn),
      estimated: line.estimated + (isEstimate ? 1 : 0),
    });
  }
  counts.add('staple', 'staple', withSpare(securing.staples));
  counts.add('plate', 'plate', withSpare(securing.plates));
  counts.add('seal', 'seal', Math.ceil(securing.sealed / rules.number('takeoff.holesPerTube')));
  if (roomId === undefined)
    for (const circuit of reader.all('circuits')) {
      const { id, breakerAmps, poles, protection } = circuit;
      const [first, other, more] = wiringGroup(reader, id);
      // Two that share a neutral have one handle: a breaker of two poles (NEC 210.4(B), from memory).
      const isPair =
        !more &&
        [first, other].every((one) => one?.poles === 1) &&
        first!.breakerAmps === other!.breakerAmps &&
        first!.protection === other!.protection;
      if (!isPair) counts.add('breaker', `${breakerAmps}/${poles}/${protection}`);
      else if (id === first!.id) counts.add('breaker', `${breakerAmps}/2/${protection}`);
    }

  const waste = 1 + rules.number('takeoff.waste') / 100;
  return {
    cables: [...cables]
      .map(([cable, { runs: of, netIn, habitIn, leftIn, estimated }]): CableLine => ({
        cable,
        runs: of,
        netFt: Math.ceil(netIn / INCHES),
        habitFt: Math.ceil(habitIn / INCHES),
        wasteFt: Math.ceil((habitIn / INCHES) * waste),
        leftFt: Math.ceil((leftIn / INCHES) * waste),
        estimated,
      }))
      .sort((a, b) => b.wasteFt - a.wasteFt),
    pieces: counts.lines(),
    openings,
  };
}

/** Several houses together: for the order of the next lots. */
export function together(parts: readonly TakeOff[]): TakeOff {
  const cables = new Map<CableId, CableLine>();
  const counts = new Counts();
  for (const part of parts) {
    for (const line of part.cables) {
      const old = cables.get(line.cable);
      cables.set(
        line.cable,
        old
          ? {
              cable: line.cable,
              runs: old.runs + line.runs,
              netFt: old.netFt + line.netFt,
              habitFt: old.habitFt + line.habitFt,
              wasteFt: old.wasteFt + line.wasteFt,
              leftFt: old.leftFt + line.leftFt,
              estimated: old.estimated + line.estimated,
            }
          : line,
      );
    }
    for (const { kind, item, count } of part.pieces) counts.add(kind, item, count);
  }
  return {
    cables: [...cables.values()].sort((a, b) => b.wasteFt - a.wasteFt),
    pieces: counts.lines(),
    openings: parts.reduce((sum, { openings }) => sum + openings, 0),
  };
}

/** What has to be bought of a cable for what is not in yet, against what is in stock: in coils as they are sold. */
export interface ToBuy {
  readonly cable: CableId;
  readonly needFt: number;
  readonly stockFt: number;
  readonly coils: number;
}

/** Against what lies in stock, in feet by cable; coils of so many feet. */
export function toBuy(
  { cables }: TakeOff,
  stockFt: ReadonlyMap<CableId, number>,
  coilFt: number,
): readonly ToBuy[] {
  return cables.map(({ cable, leftFt }) => {
    const has = stockFt.get(cable) ?? 0;
    return { cable, needFt: leftFt, stockFt: has, coils: Math.max(0, Math.ceil((leftFt - has) / coilFt)) };
  });
}
