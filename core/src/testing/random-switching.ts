import * as fc from 'fast-check';
import { readerOf } from '../derive/reader.js';
import type { HouseFile } from '../house/house-file.js';
import { houseOf } from '../house/house-file.js';
import type { CableId } from '../house/cables.js';
import { wireCircuit } from '../wiring/wire-circuit.js';
import { Plan } from './plan.js';

interface SwitchingShape {
  readonly boxes: readonly {
    readonly parent: number;
    readonly levers: number;
    readonly lights: number;
    readonly receptacle: boolean;
    /** One half of the receptacle is switched. */
    readonly half: boolean;
    readonly control: number;
    readonly room: number;
    /** A second circuit comes here too, from this one of its boxes; it feeds what is in the box if `theirs`. */
    readonly second: number | undefined;
    readonly theirs: boolean;
    /** A second cable beside the one that feeds it: each has to carry a balanced set of its own. */
    readonly beside: CableId | undefined;
  }[];
  readonly controls: number;
  /** The second circuit shares its neutral with the first: they go everywhere together. */
  readonly multiwire: boolean;
  readonly gfci: boolean;
  readonly alarms: boolean;
}

const shape = (places: number): fc.Arbitrary<SwitchingShape> =>
  fc.record({
    boxes: fc.array(
      fc.record({
        parent: fc.nat(),
        levers: fc.nat(2),
        lights: fc.nat(2),
        receptacle: fc.boolean(),
        half: fc.boolean(),
        control: fc.nat(),
        room: fc.nat(1),
        second: fc.option(fc.nat(), { nil: undefined, freq: 2 }),
        theirs: fc.boolean(),
        beside: fc.constantFrom<CableId | undefined>(undefined, undefined, undefined, '14/2', '14/3'),
      }),
      { minLength: 2, maxLength: places + 3 },
    ),
    controls: fc.integer({ min: 1, max: 3 }),
    multiwire: fc.nat(3).map((drawn) => drawn === 0),
    gfci: fc.boolean(),
    alarms: fc.boolean(),
  });

interface Member {
  readonly places: string[];
  readonly loads: string[];
}

/**
 * A house of one circuit or two that share boxes: any trees, any levers and lights in the boxes, and what switches what drawn
 * at random.
 */
function build({ boxes, controls, multiwire, gfci, alarms }: SwitchingShape, places: number): HouseFile {
  const plan = new Plan('Switching');
  const rooms = [plan.room('Hall', 'hall'), plan.room('Garage', 'garage')];
  const panel = plan.box('PANEL', 'panel', { roomId: rooms[1]! });
  const shares = (space: number) => (multiwire ? { neutralGroup: 'AB', spaces: [space] } : {});
  const first = plan.circuit(1, 'One', panel, 15, shares(1));
  const other =
    multiwire || boxes.some(({ second }) => second !== undefined)
      ? plan.circuit(2, 'Two', panel, 15, shares(3))
      : undefined;
  const reached = new Map([
    [first, [panel]],
    [other ?? '', [panel]],
  ]);
  const members = new Map(
    [first, other ?? ''].map((circuit) => [
      circuit,
      Array.from({ length: controls }, (): Member => ({ places: [], loads: [] })),
    ]),
  );
  boxes.forEach(({ parent, levers, lights, receptacle, half, control, room, second, theirs, beside }, at) => {
    const id = plan.box(`B${at}`, 'plastic-4g-72', { roomId: rooms[room]! });
    const reach = (circuit: string, from: number): void => {
      const own = reached.get(circuit)!;
      const [near, all] = [own[from % own.length]!, multiwire ? [first, other!] : [circuit]];
      if (beside && circuit === first) {
        plan.run(near, id, '14/2', circuit, { circuitIds: all });
        plan.run(near, id, beside, circuit, { circuitIds: all });
      } else plan.run(near, id, undefined, circuit, { circuitIds: all });
      own.push(id);
    };
    reach(first, parent);
    const both = other !== undefined && (multiwire || second !== undefined);
    if (both && !multiwire) reach(other, second!);
    const circuit = both && theirs ? other : first;
    const own = members.get(circuit)!;
    for (let gang = 0; gang < levers; gang++) {
      const member = own[(control + gang) % controls]!;
      if (member.places.length < places) member.places.push(...plan.device(id, 'switch', gang + 1, circuit));
    }
    for (let light = 0; light < lights; light++)
      own[(control + light) % controls]!.loads.push(...plan.device(id, 'luminaire', 3 + light, circuit));
    if (receptacle) {
      const kind = gfci && at === 0 ? 'receptacle-gfci' : 'receptacle';
      const fedFrom = both ? other : first;
      const [upper] = plan.device(id, kind, 4, fedFrom);
      if (half && kind === 'receptacle' && fedFrom === circuit) own[control % controls]!.loads.push(upper!);
    }
    if (alarms && at % 2) plan.device(id, 'alarm', 1, first);
  });
  for (const [circuit, list] of members) {
    list.forEach((member, index) => {
      if (member.places.length && member.loads.length)
        plan.control(`${circuit === first ? 'C' : 'D'}${index}`, member.places, member.loads);
      else {
        // A lever without a load, or a light without a switch: not part of this house.
        const gone = new Set(member.places);
        const devices = new Set(
          plan.file.points.filter(({ id }) => gone.has(id)).map(({ deviceId }) => deviceId),
        );
        plan.file.devices = plan.file.devices.filter(({ id }) => !devices.has(id));
        plan.file.points = plan.file.points.filter(({ id }) => !gone.has(id));
      }
    });
  }
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
      if (run.kind !== 'cable' || run.plannedCable) continue;
      if (needed) run.plannedCable = needed as CableId;
      else {
        run.kind = 'raceway';
        run.wires = [
          { awg: 14, colour: 'WH' },
          ...needs.map(() => ({ awg: 14 as const, colour: 'BK' as const })),
          { awg: 14, colour: 'GN' },
        ];
      }
    }
  }
  return file;
}

/** Houses of one or two circuits with any switching on any trees, every run planned as the wiring asks for. */
export const randomSwitching = (places = 4): fc.Arbitrary<HouseFile> =>
  shape(places).map((drawn) => withPairs(drawn, places));
