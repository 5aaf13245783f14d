import { awg } from '../vocabulary/size.js';
import * as fc from 'fast-check';
import { readerOf } from '../derive/reader.js';
import type { HouseFile } from '../house/house-file.js';
import { houseOf } from '../house/house-file.js';
import type { Circuit } from '../house/model.js';
import type { RuleOverride } from '../vocabulary/rulebook-types.js';
import type { CableId } from '../rulebook/cables.js';
import { kindOf } from '../vocabulary/signal.js';
import { wireCircuit } from '../wiring/conductors/wire-circuit.js';
import { Plan } from './plan.js';

interface BoxShape {
  readonly parent: number;
  readonly switches: readonly SwitchId[];
  readonly lights: readonly ('luminaire' | 'fan-light')[];
  readonly receptacle: 'receptacle' | 'receptacle-gfci' | undefined;
  /** One half of the receptacle is switched. */
  readonly half: boolean;
  readonly control: number;
  readonly room: number;
  readonly metal: boolean;
  /** Single wires in raceway lead to it instead of cable. */
  readonly raceway: boolean;
  /** A second circuit comes here too, from this one of its boxes; it feeds what is in the box if `theirs`. */
  readonly second: number | undefined;
  readonly theirs: boolean;
  /** A second cable beside the one that feeds it: each has to carry a balanced set of its own. */
  readonly beside: CableId | undefined;
  /** Where both circuits come, a device with a side on each. */
  readonly mixed: 'receptacle' | 'fan-light' | 'switch-double' | undefined;
}

type SwitchId = 'switch' | 'switch-double' | 'dimmer' | 'smart-switch';

interface SwitchingShape {
  readonly boxes: readonly BoxShape[];
  readonly controls: number;
  /** The second circuit shares its neutral with the first: they go everywhere together. */
  readonly multiwire: boolean;
  readonly alarms: boolean;
  readonly protection: readonly [Circuit['protection'], Circuit['protection']];
  /** What the house does another way than most. */
  readonly schools: Readonly<Record<string, RuleOverride['value']>>;
}

/** Yes in one of so many. */
const seldom = (oneIn: number): fc.Arbitrary<boolean> =>
  fc.nat(oneIn - 1).map((drawn) => drawn === oneIn - 1);

const boxShape: fc.Arbitrary<BoxShape> = fc.record({
  parent: fc.nat(),
  switches: fc.array(
    fc.constantFrom<SwitchId>('switch', 'switch', 'switch', 'switch-double', 'dimmer', 'smart-switch'),
    { maxLength: 2 },
  ),
  lights: fc.array(fc.constantFrom('luminaire' as const, 'luminaire' as const, 'fan-light' as const), {
    maxLength: 2,
  }),
  receptacle: fc.constantFrom(undefined, 'receptacle', 'receptacle', 'receptacle-gfci', 'receptacle-gfci'),
  half: fc.boolean(),
  control: fc.nat(),
  room: fc.nat(1),
  metal: seldom(4),
  raceway: seldom(8),
  second: fc.option(fc.nat(), { nil: undefined, freq: 2 }),
  theirs: fc.boolean(),
  beside: fc.constantFrom<CableId | undefined>(undefined, undefined, undefined, '14/2', '14/3'),
  mixed: fc.constantFrom<BoxShape['mixed']>(undefined, undefined, 'receptacle', 'fan-light', 'switch-double'),
});

const protection = fc.constantFrom<Circuit['protection']>('none', 'none', 'afci', 'gfci', 'dual');

const shape = (places: number): fc.Arbitrary<SwitchingShape> =>
  fc.record({
    boxes: fc.array(boxShape, { minLength: 2, maxLength: places + 3 }),
    controls: fc.integer({ min: 1, max: 3 }),
    multiwire: seldom(4),
    alarms: fc.boolean(),
    protection: fc.tuple(protection, protection),
    schools: fc.record(
      {
        'wiring.loopSupply': fc.constant('RD'),
        'wiring.gfciOnward': fc.constant('pigtailed-past'),
        'makeup.hots': fc.constantFrom('looped', 'links'),
        'makeup.spareNeutral': fc.constant(true),
        'makeup.fanColour': fc.constant('RD'),
        'neutral.atSwitch': fc.constant(false),
      },
      { requiredKeys: [] },
    ),
  });

/** The devices of a box and what switches them: numbers of controls, one for each lever, and one for each load or none. */
interface Fitted {
  readonly at: number;
  readonly theirs: boolean;
  readonly gang: number;
  readonly type: string;
  readonly levers: readonly number[];
  readonly loads: readonly (number | undefined)[];
}

/** What stands in the boxes. A lever stands only where its control has a load; a light whose control has no lever is always on. */
function fittedIn({ boxes, controls, multiwire }: SwitchingShape, places: number): Fitted[] {
  const drawn = boxes.flatMap((box, at): Fitted[] => {
    const both = multiwire || box.second !== undefined;
    const theirs = both && box.theirs;
    const number = (offset: number): number => (box.control + offset) % controls;
    const of = (type: string, gang: number, levers: number[], loads: (number | undefined)[]): Fitted => ({
      at,
      theirs,
      gang,
      type,
      levers,
      loads,
    });
    return [
      ...box.switches.map((type, index) =>
        of(
          type,
          index + 1,
          type === 'switch-double' ? [number(index), number(index + 1)] : [number(index)],
          [],
        ),
      ),
      ...box.lights.map((type, index) =>
        of(type, 1, [], type === 'fan-light' ? [number(index), number(index + 1)] : [number(index)]),
      ),
      // What is in the box is theirs, but for the receptacle: that is theirs wherever they come.
      ...(box.receptacle
        ? [
            {
              ...of(box.receptacle, 3, [], []),
              theirs: both,
              loads:
                box.receptacle === 'receptacle'
                  ? [box.half && theirs === both ? number(0) : undefined, undefined]
                  : [undefined],
            },
          ]
        : []),
    ];
  });
  const key = (theirs: boolean, control: number): string => `${theirs} ${control}`;
  const placed = new Map<string, number>();
  const loaded = new Set(
    drawn.flatMap(({ theirs, loads }) =>
      loads.flatMap((control) => (control === undefined ? [] : [key(theirs, control)])),
    ),
  );
  const switches = drawn.map((fitted): Fitted => {
    const levers = [...new Set(fitted.levers)].filter((control) => {
      const own = key(fitted.theirs, control);
      const count = placed.get(own) ?? 0;
      if (!loaded.has(own) || count >= places) return false;
      placed.set(own, count + 1);
      return true;
    });
    const type = fitted.type === 'switch-double' && levers.length < 2 ? 'switch' : fitted.type;
    return { ...fitted, type, levers };
  });
  return switches
    .filter(({ levers, loads }) => levers.length + loads.length > 0)
    .map((fitted) => ({
      ...fitted,
      loads: fitted.loads.map((control) =>
        control !== undefined && placed.has(key(fitted.theirs, control)) ? control : undefined,
      ),
    }));
}

/**
 * A house of one circuit or two that share boxes: any trees, any levers and lights in the boxes, and what switches what drawn
 * at random.
 */
function build(drawn: SwitchingShape, places: number): HouseFile {
  const { boxes, multiwire, alarms, schools } = drawn;
  const watched = (at: 0 | 1) => ({ protection: drawn.protection[at] });
  const plan = new Plan('Switching');
  for (const [key, value] of Object.entries(schools))
    plan.file.rulebook.overrides[key] = { value, reason: 'the inspector said so' };
  const rooms = [plan.room('Hall', 'hall'), plan.room('Garage', 'garage')];
  const panel = plan.box('PANEL', 'panel', { roomId: rooms[1]! });
  const shares = (space: number) => (multiwire ? { neutralGroup: 'AB', spaces: [space] } : {});
  const first = plan.circuit(1, 'One', panel, 15, { ...watched(0), ...shares(1) });
  const other =
    multiwire || boxes.some(({ second }) => second !== undefined)
      ? plan.circuit(2, 'Two', panel, 15, { ...watched(1), ...shares(3) })
      : undefined;
  const reached = new Map([
    [first, [panel]],
    [other ?? '', [panel]],
  ]);
  const ids = boxes.map(({ parent, room, metal, raceway, second, beside }, at) => {
    const id = plan.box(`B${at}`, metal ? 'metal-masonry-3.5-3g' : 'plastic-4g-72', { roomId: rooms[room]! });
    const reach = (circuit: string, from: number): void => {
      const own = reached.get(circuit)!;
      const near = own[from % own.length]!;
      const circuitIds = multiwire ? [first, other!] : [circuit];
      if (raceway) plan.run(near, id, undefined, circuit, { circuitIds, kind: 'raceway' });
      else if (beside && circuit === first) {
        plan.run(near, id, '14/2', circuit, { circuitIds });
        plan.run(near, id, beside, circuit, { circuitIds });
      } else plan.run(near, id, undefined, circuit, { circuitIds });
      own.push(id);
    };
    reach(first, parent);
    if (other && !multiwire && second !== undefined) reach(other, second);
    return id;
  });
  const members = new Map<string, { name: string; places: string[]; loads: string[] }>();
  const member = (theirs: boolean, control: number) => {
    const name = `${theirs ? 'D' : 'C'}${control}`;
    const known = members.get(name) ?? { name, places: [], loads: [] };
    members.set(name, known);
    return known;
  };
  for (const { at, theirs, gang, type, levers, loads } of fittedIn(drawn, places)) {
    const points = plan.device(ids[at]!, type, gang, theirs ? other : first);
    levers.forEach((control, index) => member(theirs, control).places.push(points[index]!));
    loads.forEach((control, index) => {
      if (control !== undefined) member(theirs, control).loads.push(points[index]!);
    });
  }
  boxes.forEach(({ mixed, second }, at) => {
    if (!mixed || !other || (!multiwire && second === undefined)) return;
    const points = plan.device(ids[at]!, mixed, 4, first);
    plan.file.points.find(({ id }) => id === points[1])!.circuitId = other;
    if (mixed !== 'switch-double') return;
    points.forEach((lever, side) => {
      const lamp = plan.device(ids[at]!, 'luminaire', 1, side ? other : first);
      plan.control(`Y${at}${side}`, [lever], lamp);
    });
  });
  if (alarms) for (const [at, id] of ids.entries()) if (at % 2) plan.device(id, 'alarm', 1, first);
  for (const { name, places: levers, loads } of members.values()) plan.control(name, levers, loads);
  return plan.file;
}

/** Whether no run of a house is short of a conductor and every run that closes a loop carries a set of its own. */
function isEnough(file: HouseFile): boolean {
  const reader = readerOf(houseOf(file));
  return file.circuits.every(({ id }) => {
    const { tree, runs } = wireCircuit(reader, id);
    return !tree.loops.length && [...runs.values()].every(({ missing }) => !missing.length);
  });
}

/** The house with as many of its second cables as do for it: where two are not enough, one cable takes everything. */
function withPairs(drawn: SwitchingShape, places: number): HouseFile {
  for (let kept = drawn.boxes.length; ; kept--) {
    const boxes = drawn.boxes.map((box, at) => (at < kept ? box : { ...box, beside: undefined }));
    if (kept && boxes[kept - 1]!.beside === undefined && kept < boxes.length) continue;
    const file = planAsNeeded(build({ ...drawn, boxes }, places));
    if (kept === 0 || isEnough(file)) return file;
  }
}

/**
 * Plans for every run the cable that its wiring asks for, and, where no one cable has so many conductors, raceway with
 * single wires. Gives the file, changed.
 */
export function planAsNeeded(file: HouseFile): HouseFile {
  const reader = readerOf(houseOf(file));
  for (const circuit of file.circuits) {
    for (const [id, { needed, needs }] of wireCircuit(reader, circuit.id).runs) {
      const run = file.runs.find((one) => one.id === id)!;
      if (run.plannedCable || run.wires) continue;
      if (run.kind === 'cable' && needed) run.plannedCable = needed as CableId;
      else {
        run.kind = 'raceway';
        run.wires = [
          ...needs.map((signal) => ({
            size: awg(14),
            colour: kindOf(signal) === 'neutral' ? ('WH' as const) : ('BK' as const),
          })),
          { size: awg(14), colour: 'GN' },
        ];
      }
    }
  }
  return file;
}

/** Houses of one or two circuits with any switching on any trees, every run planned as the wiring asks for. */
export const randomSwitching = (places = 4): fc.Arbitrary<HouseFile> =>
  shape(places).map((drawn) => withPairs(drawn, places));
