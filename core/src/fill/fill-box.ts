import type { Derivation, HouseReader } from '../derive/reader.js';
import type { BoxFacts, Conductor } from '../facts/box-facts.js';
import {
  BOX_SHAPE,
  BOX_WIRES,
  boxFacts,
  conductorsOf,
  deviceType,
  devicesIn,
  gangsOf,
  runsAt,
} from '../facts/box-facts.js';
import type { CableId } from '../rulebook/cables.js';
import { cableOf } from '../rulebook/cables.js';
import type { Box, BoxModel } from '../house/model.js';
import type { Gauge } from '../vocabulary/size.js';
import { conductorIn3 } from './core-volume.js';
import type { Rulebook } from '../rulebook/rulebook.js';
import { areaOf, gaugeOf, isThicker, thickest } from '../vocabulary/size.js';
import type { FillMethod } from '../vocabulary/jurisdiction.js';
import type { BoxType, Fitting } from '../vocabulary/catalogue-types.js';
import { boxJoints, gaugeOnDevice } from '../wiring/joints/box-joints.js';
import { connectorsIn } from '../wiring/joints/connectors-in.js';
import { fanDuty } from '../wiring/conductors/fan-box.js';
import { wireCircuit } from '../wiring/conductors/wire-circuit.js';

type PlainItem =
  | 'conductors'
  | 'conductors-unchosen'
  | 'through'
  | 'loops'
  | 'fixture-wires'
  | 'clamps'
  | 'stud'
  | 'hickey'
  | 'terminal-block'
  | 'grounds-beyond'
  | 'isolated-grounds'
  | 'connectors'
  | 'connector-pairs';

/** What is counted. */
export type FillItem =
  | { readonly code: PlainItem }
  | { readonly code: 'grounds'; readonly together: number }
  | {
      readonly code: 'device';
      readonly deviceId: string;
      readonly gang: number;
      readonly gangs: number;
    };

/** One line of the count, so that a person can check it by hand: count × each = total, in cubic inches. */
export interface FillLine {
  readonly item: FillItem;
  readonly count: number;
  readonly gauge: Gauge;
  /** Volume of each counted thing: its allowances times the volume of one conductor of that gauge, in³. */
  readonly eachIn3: number;
  readonly totalIn3: number;
  /** Section or provenance. */
  readonly source: string;
  /** The gauge (or the cable) is not known yet and was taken on the safe side. */
  readonly assumed: boolean;
}

export interface CapacityLine {
  /** A fitting that adds to it; without one the box itself. */
  readonly fitting?: Fitting['kind'];
  readonly volumeIn3: number;
  readonly source: string;
}

export interface BoxFill {
  readonly boxId: string;
  readonly capacity: readonly CapacityLine[];
  readonly capacityIn3: number;
  readonly lines: readonly FillLine[];
  readonly totalIn3: number;
  /** Where a box is chosen by its depth and no rule counts: what it has, and what goes in takes with room behind it. Inches. */
  readonly depth?: { readonly hasIn: number; readonly needsIn: number };
  /** Capacity less total, in³; below zero when the box is too full. */
  readonly leftIn3: number;
  readonly fits: boolean;
  /** Smallest boxes of the catalogue of the same kind and material that would hold this, at most three. */
  readonly wouldFit: readonly BoxType[];
}

interface Contents {
  readonly insulated: readonly { readonly conductor: Conductor; readonly assumed: boolean }[];
  readonly grounds: readonly Conductor[];
  /** Unbroken conductors: they take two of `insulated` but are one. */
  readonly through: readonly { readonly gauge: Gauge; readonly loopIn: number }[];
}

/** Cables in place of some runs: what a box would hold. */
export interface Instead {
  readonly runIds: ReadonlySet<string>;
  readonly cables: readonly CableId[];
  /** The gauge on a device that is fed by them; undefined for every other. */
  readonly gaugeOn: (deviceId: string) => Gauge | undefined;
}

function contentsOf(reader: HouseReader, box: FilledBox, instead?: Instead): Contents {
  const insulated: { conductor: Conductor; assumed: boolean }[] = [];
  const grounds: Conductor[] = [];
  const uncut = new Map<string, { gauge?: Gauge; loopIn: number; used: boolean }>();
  const loops: { gauge?: Gauge; loopIn: number; used: boolean }[] = [];
  for (const joint of boxJoints(reader, box.id).joints) {
    if (joint.kind !== 'uncut') continue;
    const loop = { loopIn: joint.loopIn ?? 0, used: false };
    loops.push(loop);
    for (const end of joint.ends) uncut.set(`${end.runId} ${end.key}`, loop);
  }
  const take = (conductor: Conductor, assumed: boolean): void => {
    const loop = uncut.get(`${conductor.runId} ${conductor.key}`);
    if (loop && !conductor.ground) {
      if (loop.gauge === undefined || isThicker(conductor.gauge, loop.gauge)) loop.gauge = conductor.gauge;
      loop.used = true;
    } else if (conductor.ground) grounds.push(conductor);
    else insulated.push({ conductor, assumed });
  };
  const takeCable = (runId: string, id: CableId): void => {
    const { gauge, groundGauge, colours } = cableOf(id);
    for (const colour of colours) take({ runId, key: colour, colour, gauge, ground: false }, true);
    take({ runId, key: 'BARE', colour: 'BARE', gauge: groundGauge, ground: true }, true);
  };
  instead?.cables.forEach((id, at) => takeCable(`instead ${at}`, id));
  for (const run of runsAt(reader, box.id)) {
    if (run.kind === 'low-voltage' || instead?.runIds.has(run.id)) continue;
    const conductors = conductorsOf(reader, run);
    for (const conductor of conductors) take(conductor, false);
    if (conductors.length || run.kind !== 'cable') continue;
    // No cable chosen: count the one that the wiring asks for.
    const needed = run.circuitIds.map((id) => wireCircuit(reader, id).runs.get(run.id)?.needed).find(Boolean);
    if (needed) takeCable(run.id, needed);
  }
  return {
    insulated,
    grounds,
    through: loops.filter((loop) => loop.used).map((loop) => ({ gauge: loop.gauge!, loopIn: loop.loopIn })),
  };
}

/** What of a box its fill depends on. */
type FilledBox = Pick<Box, 'id'> &
  BoxModel &
  Pick<Box, 'fittings' | 'clamps' | 'fixtureWires' | 'isolatedGround'>;

/** How a box is counted, by the method of its country. */
const METHODS: Readonly<Record<FillMethod, typeof linesFor>> = {
  'volume-allowances': linesFor,
  'conductor-count': countedConductors,
  'free-volume': estimatedVolume,
};

/** What a box holds, line by line. */
const countedLines: typeof linesFor = (reader, ...of): FillLine[] =>
  METHODS[reader.rules().jurisdiction.fillMethod](reader, ...of);

type AddLine = (
  item: FillItem | PlainItem,
  count: number,
  gauge: Gauge,
  allowances: number,
  rule: string,
  assumed?: boolean,
) => void;

/** Adds lines to a count: so many, each so many times the volume of a conductor of a gauge. What counts for nothing is left out. */
const addingTo =
  (lines: FillLine[], rules: Rulebook): AddLine =>
  (item, count, gauge, allowances, rule, assumed = false) => {
    if (count === 0 || allowances === 0) return;
    const eachIn3 = allowances * conductorIn3(rules, gauge);
    lines.push({
      item: typeof item === 'string' ? { code: item } : item,
      count,
      gauge,
      eachIn3,
      totalIn3: count * eachIn3,
      source: rules.cite(rule),
      assumed,
    });
  };

/** The count of section 314.16(B) for a box with these facts; the contents do not depend on them. */
function linesFor(
  reader: HouseReader,
  box: FilledBox,
  facts: BoxFacts,
  contents: Contents,
  gaugeOn?: Instead['gaugeOn'],
): FillLine[] {
  const rules = reader.rules();
  const { insulated, grounds, through } = contents;
  const lines: FillLine[] = [];
  const add = addingTo(lines, rules);
  const present: Gauge[] = [
    ...insulated.map(({ conductor }) => conductor.gauge),
    ...through.map(({ gauge }) => gauge),
    ...grounds.map(({ gauge }) => gauge),
    ...(box.isolatedGround ? [gaugeOf(box.isolatedGround.size)] : []),
  ];
  const largest = thickest(present);
  const gauges = [
    ...new Set([...insulated.map((entry) => entry.conductor.gauge), ...through.map(({ gauge }) => gauge)]),
  ];
  for (const gauge of gauges.sort((a, b) => areaOf(a) - areaOf(b))) {
    for (const assumed of [false, true]) {
      const count = insulated.filter(
        (entry) => entry.conductor.gauge === gauge && entry.assumed === assumed,
      ).length;
      add(
        assumed ? 'conductors-unchosen' : 'conductors',
        count,
        gauge,
        rules.number('fill.conductor'),
        'fill.conductor',
        assumed,
      );
    }
    const own = through.filter((entry) => entry.gauge === gauge);
    const long = own.filter(({ loopIn }) => loopIn >= 2 * rules.number('free.length'));
    add('through', own.length - long.length, gauge, rules.number('fill.through'), 'fill.through');
    add('loops', long.length, gauge, rules.number('fill.loop'), 'fill.loop');
  }
  const wires = box.fixtureWires;
  if (wires) {
    const isThin = isThicker(rules.jurisdiction.sizes[0], gaugeOf(wires.size));
    const exempt = wires.fromCanopy && isThin && wires.count <= rules.number('fill.freeFixtureWires');
    if (!exempt)
      add(
        'fixture-wires',
        wires.count,
        gaugeOf(wires.size),
        rules.number('fill.conductor'),
        'fill.freeFixtureWires',
      );
  }
  groundLines(reader, box, grounds, add);
  const hasClamps =
    facts.clamps === 'internal' || (facts.clamps === 'tabs' && rules.flag('fill.tabsAreClamps'));
  if (hasClamps && largest) {
    add(
      'clamps',
      1,
      largest,
      rules.number('fill.clamps'),
      facts.clamps === 'tabs' ? 'fill.tabsAreClamps' : 'fill.clamps',
    );
  }
  for (const fitting of box.fittings ?? []) {
    if (fitting.kind === 'stud' && largest) add('stud', 1, largest, rules.number('fill.stud'), 'fill.stud');
    if (fitting.kind === 'hickey' && largest)
      add('hickey', 1, largest, rules.number('fill.hickey'), 'fill.hickey');
    if (fitting.kind !== 'terminal-block') continue;
    const gauge = fitting.size ? gaugeOf(fitting.size) : largest;
    if (gauge)
      add(
        'terminal-block',
        1,
        gauge,
        rules.number('fill.terminalBlock'),
        'fill.terminalBlock',
        !fitting.size,
      );
  }
  for (const device of devicesIn(reader, box.id)) {
    const type = deviceType(reader, device);
    if (type.mount !== 'yoke') continue;
    const known = gaugeOn?.(device.id) ?? gaugeOnDevice(reader, box.id, device.id);
    // Nothing in the box at all: the thinnest branch-circuit conductor is the least there will be.
    const gauge = known ?? largest ?? rules.jurisdiction.sizes[0];
    const gangs = gangsOf(reader, device);
    const item: FillItem = { code: 'device', deviceId: device.id, gang: device.gang, gangs };
    if (gangs > 1) {
      add(item, gangs, gauge, rules.number('fill.wideYoke'), 'fill.wideYoke', !known);
    } else add(item, 1, gauge, rules.number('fill.yoke'), 'fill.yoke', !known);
  }
  return lines;
}

/**
 * The count of rule 12-3034 of the Canadian code (from memory, less sure than other values): insulated conductors, one for every full
 * pair of connectors, two for a device on one strap, and by its depth where that is more than an inch; bare grounds and pigtails that
 * stay inside are not counted. What is no conductor counts as the thickest one in the box.
 */
function countedConductors(
  reader: HouseReader,
  box: FilledBox,
  _facts: BoxFacts,
  contents: Contents,
): FillLine[] {
  const rules = reader.rules();
  const { insulated, through } = contents;
  const lines: FillLine[] = [];
  const add = addingTo(lines, rules);
  const gauges = [
    ...new Set([...insulated.map(({ conductor }) => conductor.gauge), ...through.map(({ gauge }) => gauge)]),
  ].sort((a, b) => areaOf(a) - areaOf(b));
  for (const gauge of gauges) {
    for (const assumed of [false, true]) {
      const count = insulated.filter(
        (own) => own.conductor.gauge === gauge && own.assumed === assumed,
      ).length;
      const code = assumed ? 'conductors-unchosen' : 'conductors';
      add(code, count, gauge, rules.number('fill.conductor'), 'fill.conductor', assumed);
    }
    const uncut = through.filter((own) => own.gauge === gauge).length;
    add('through', uncut, gauge, rules.number('fill.through'), 'fill.through');
  }
  const wires = box.fixtureWires;
  if (wires && !(wires.fromCanopy && wires.count <= rules.number('fill.freeFixtureWires')))
    add(
      'fixture-wires',
      wires.count,
      gaugeOf(wires.size),
      rules.number('fill.conductor'),
      'fill.freeFixtureWires',
    );
  const largest = thickest(gauges) ?? rules.jurisdiction.sizes[0];
  const pairs = Math.floor(connectorsIn(reader, box.id) / 2);
  add('connector-pairs', pairs, largest, rules.number('fill.connectorPair'), 'fill.connectorPair');
  if (box.fittings?.some(({ kind }) => kind === 'stud' || kind === 'hickey'))
    add('stud', 1, largest, rules.number('fill.stud'), 'fill.stud');
  for (const device of devicesIn(reader, box.id)) {
    const type = deviceType(reader, device);
    if (type.mount !== 'yoke') continue;
    const gangs = gangsOf(reader, device);
    const item: FillItem = { code: 'device', deviceId: device.id, gang: device.gang, gangs };
    const deepIn = type.depthIn ?? 0;
    if (deepIn > rules.number('fill.shallowDevice') + 1e-6) {
      // A volume by its depth: so much for each inch.
      const eachIn3 = rules.number('fill.deepDevice') * deepIn;
      lines.push({
        item,
        count: 1,
        gauge: largest,
        eachIn3,
        totalIn3: eachIn3,
        source: rules.cite('fill.deepDevice'),
        assumed: false,
      });
    } else add(item, 1, largest, rules.number('fill.yoke'), 'fill.yoke');
  }
  return lines;
}

/**
 * What room is left where no rule counts conductors (Britain): cores over their free length, connectors, and the body of each accessory
 * by its depth over its part of the box. An estimate by common practice, to show free volume.
 */
function estimatedVolume(
  reader: HouseReader,
  box: FilledBox,
  facts: BoxFacts,
  contents: Contents,
): FillLine[] {
  const rules = reader.rules();
  const lines: FillLine[] = [];
  const add = (item: FillItem, count: number, gauge: Gauge, eachIn3: number, rule: string): void => {
    if (count > 0)
      lines.push({
        item,
        count,
        gauge,
        eachIn3,
        totalIn3: count * eachIn3,
        source: rules.cite(rule),
        assumed: false,
      });
  };
  const { insulated, grounds, through } = contents;
  const cores = [...insulated.map(({ conductor }) => conductor.gauge), ...through.map(({ gauge }) => gauge)];
  const each = (gauge: Gauge): number => conductorIn3(rules, gauge);
  for (const [code, gauges] of [
    ['conductors', cores],
    ['grounds', grounds.map(({ gauge }) => gauge)],
  ] as const)
    for (const gauge of [...new Set(gauges)].sort((a, b) => areaOf(a) - areaOf(b))) {
      const count = gauges.filter((one) => one === gauge).length;
      add(
        code === 'grounds' ? { code, together: count } : { code },
        count,
        gauge,
        each(gauge),
        'free.length',
      );
    }
  const thin = rules.jurisdiction.sizes[0];
  add(
    { code: 'connectors' },
    connectorsIn(reader, box.id),
    thin,
    rules.number('fill.connector'),
    'fill.connector',
  );
  const [widthIn, heightIn] = facts.insideIn ?? [0, 0];
  for (const device of devicesIn(reader, box.id)) {
    const type = deviceType(reader, device);
    if (type.mount !== 'yoke' || !facts.insideIn) continue;
    const gangs = gangsOf(reader, device);
    const faceIn2 =
      (widthIn * heightIn * Math.min(gangs, Math.max(1, facts.gangs))) / Math.max(1, facts.gangs);
    const item: FillItem = { code: 'device', deviceId: device.id, gang: device.gang, gangs };
    add(item, 1, thin, faceIn2 * (type.depthIn ?? 0), 'fill.room');
  }
  return lines;
}

/** How deep a box has to be for what goes in, where that is what it is chosen by. Inches. */
function depthFor(reader: HouseReader, boxId: string): number {
  const depths = devicesIn(reader, boxId).map((device) => deviceType(reader, device).depthIn ?? 0);
  return Math.max(0, ...depths) + (depths.length ? reader.rules().number('fill.room') : 0);
}
const isByDepth = (reader: HouseReader): boolean => reader.rules().jurisdiction.fillMethod === 'free-volume';

function groundLines(reader: HouseReader, box: FilledBox, grounds: readonly Conductor[], add: AddLine): void {
  const rules = reader.rules();
  const covered = rules.number('fill.groundsCovered');
  const isolated = box.isolatedGround;
  const separate = rules.number('fill.isolatedGrounds') > 0;
  const gauges = grounds.map(({ gauge }) => gauge);
  if (isolated && !separate) gauges.push(...Array<Gauge>(isolated.count).fill(gaugeOf(isolated.size)));
  const gauge = thickest(gauges);
  if (gauge) {
    const extra = covered === 0 ? 0 : Math.max(0, gauges.length - covered);
    const first = gauges.length - extra;
    add({ code: 'grounds', together: first }, 1, gauge, rules.number('fill.grounds'), 'fill.grounds');
    add('grounds-beyond', extra, gauge, rules.number('fill.extraGround'), 'fill.extraGround');
  }
  if (isolated && separate) {
    add(
      'isolated-grounds',
      1,
      gaugeOf(isolated.size),
      rules.number('fill.isolatedGrounds'),
      'fill.isolatedGrounds',
    );
  }
}

const sum = (numbers: readonly number[]): number => numbers.reduce((a, b) => a + b, 0);

/** Gangs that the devices of a box take, counted from the first. */
export const gangsTaken = (reader: HouseReader, boxId: string): number =>
  Math.max(
    0,
    ...devicesIn(reader, boxId)
      .filter((device) => deviceType(reader, device).mount === 'yoke')
      .map((device) => device.gang + gangsOf(reader, device) - 1),
  );

/** Boxes of the catalogue and of the house, of the kind of this one, that hold what is in it: the smallest first. */
export const boxesThatHold = (
  reader: HouseReader,
  box: FilledBox,
  kind: BoxType['kind'] = boxFacts(reader, box).kind,
): readonly BoxType[] => boxesFor(reader, box, contentsOf(reader, box), undefined, kind);

function boxesFor(
  reader: HouseReader,
  box: FilledBox,
  contents: Contents,
  gaugeOn?: Instead['gaugeOn'],
  kind: BoxType['kind'] = boxFacts(reader, box).kind,
): readonly BoxType[] {
  const facts = boxFacts(reader, box);
  const taken = gangsTaken(reader, box.id);
  const added = sum((box.fittings ?? []).map((fitting) => fitting.volumeIn3 ?? 0));
  const own = reader
    .all('catalogueBoxes')
    .map((type): BoxType => ({ ...type, provenance: 'common practice' }));
  return [...reader.rules().jurisdiction.boxes, ...own]
    .filter((type) => {
      if (type.kind !== kind || type.volumeIn3 === undefined) return false;
      if (type.gangs < Math.max(taken, facts.gangs) && type.gangs !== facts.gangs) return false;
      const clamps = box.clamps ?? type.clamps;
      const needed = sum(
        countedLines(
          reader,
          box,
          { ...facts, clamps, ...(type.insideIn && { insideIn: type.insideIn }) },
          contents,
          gaugeOn,
        ).map((line) => line.totalIn3),
      );
      const isDeep =
        !isByDepth(reader) || (type.insideIn?.[2] ?? Infinity) >= depthFor(reader, box.id) - 1e-6;
      return isDeep && reader.rules().holds(needed, type.volumeIn3 + added);
    })
    .sort((a, b) => a.gangs - b.gangs || a.volumeIn3! - b.volumeIn3!);
}

function compute(reader: HouseReader, boxId: string, instead?: Instead): BoxFill | undefined {
  const shape = reader.part(BOX_SHAPE, boxId);
  if (!shape) return undefined;
  const box: FilledBox = { id: boxId, ...shape, ...reader.part(BOX_WIRES, boxId) };
  const facts = boxFacts(reader, box);
  if (facts.volumeIn3 === undefined) return undefined;
  const added = (box.fittings ?? [])
    .filter((fitting) => fitting.volumeIn3 !== undefined)
    .map((fitting): CapacityLine => ({
      fitting: fitting.kind,
      volumeIn3: fitting.volumeIn3!,
      source: `marked volume, ${reader.rules().section('markedVolume')}`,
    }));
  const capacity = [{ volumeIn3: facts.volumeIn3, source: facts.volumeSource }, ...added];
  const capacityIn3 = sum(capacity.map((line) => line.volumeIn3));
  const contents = contentsOf(reader, box, instead);
  const lines = countedLines(reader, box, facts, contents, instead?.gaugeOn);
  const totalIn3 = sum(lines.map((line) => line.totalIn3));
  const depth =
    isByDepth(reader) && facts.insideIn
      ? { hasIn: facts.insideIn[2], needsIn: depthFor(reader, boxId) }
      : undefined;
  const fits = reader.rules().holds(totalIn3, capacityIn3) && (!depth || depth.needsIn <= depth.hasIn + 1e-6);
  const isForFan = fanDuty(reader, boxId) !== undefined;
  const wouldFit = boxesFor(reader, box, contents, instead?.gaugeOn).filter(
    (type) => type.material === facts.material && (!isForFan || type.fanRated),
  );
  return {
    boxId,
    capacity,
    capacityIn3,
    lines,
    totalIn3,
    ...(depth && { depth }),
    leftIn3: fits ? Math.max(0, capacityIn3 - totalIn3) : capacityIn3 - totalIn3,
    fits,
    wouldFit: wouldFit.slice(0, 3),
  };
}

/** Volume of a box against what it holds, by box id; undefined for what has no fill (panel, buried point, low voltage). */
const BOX_FILL: Derivation<BoxFill | undefined> = {
  name: 'box fill',
  compute: (reader, boxId) => compute(reader, boxId),
};

/**
 * Box fill by NEC 314.16 as the house's edition and overrides have it. Cubic inches throughout. Where the conductor on a
 * yoke is not known yet, the largest in the box is counted and the line says *assumed*.
 */
export const fillBox = (reader: HouseReader, boxId: string): BoxFill | undefined =>
  reader.derive(BOX_FILL, boxId);

/** The same with other cables in place of some runs: what a plan would put into the box. Not kept. */
export const fillInstead = (reader: HouseReader, boxId: string, instead: Instead): BoxFill | undefined =>
  compute(reader, boxId, instead);
