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
    readonly control: number;
    readonly room: number;
    /** A second circuit comes here too, from this one of its boxes; it feeds what is in the box if `theirs`. */
    readonly second: number | undefined;
    readonly theirs: boolean;
  }[];
  readonly controls: number;
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
        control: fc.nat(),
        room: fc.nat(1),
        second: fc.option(fc.nat(), { nil: undefined, freq: 2 }),
        theirs: fc.boolean(),
      }),
      { minLength: 2, maxLength: places + 3 },
    ),
    controls: fc.integer({ min: 1, max: 3 }),
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
function build({ boxes, controls, gfci, alarms }: SwitchingShape, places: number): HouseFile {
  const plan = new Plan('Switching');
  const rooms = [plan.room('Hall', 'hall'), plan.room('Garage', 'garage')];
  const panel = plan.box('PANEL', 'panel', { roomId: rooms[1]! });
  const first = plan.circuit(1, 'One', panel, 15);
  const other = boxes.some(({ second }) => second !== undefined)
    ? plan.circuit(2, 'Two', panel, 15)
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
  boxes.forEach(({ parent, levers, lights, receptacle, control, room, second, theirs }, at) => {
    const id = plan.box(`B${at}`, 'plastic-4g-72', { roomId: rooms[room]! });
    const reach = (circuit: string, from: number): void => {
      const own = reached.get(circuit)!;
      plan.run(own[from % own.length]!, id, undefined, circuit);
      own.push(id);
    };
    reach(first, parent);
    const both = other !== undefined && second !== undefined;
    if (both) reach(other, second);
    const circuit = both && theirs ? other : first;
    const own = members.get(circuit)!;
    for (let gang = 0; gang < levers; gang++) {
      const member = own[(control + gang) % controls]!;
      if (member.places.length < places) member.places.push(...plan.device(id, 'switch', gang + 1, circuit));
    }
    for (let light = 0; light < lights; light++)
      own[(control + light) % controls]!.loads.push(...plan.device(id, 'luminaire', 3 + light, circuit));
    if (receptacle)
      plan.device(id, gfci && at === 0 ? 'receptacle-gfci' : 'receptacle', 4, both ? other : first);
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

/**
 * Plans for every run the cable that its wiring asks for, and, where no one cable has so many conductors, raceway with
 * single wires. Gives the file, changed.
 */
export function planAsNeeded(file: HouseFile): HouseFile {
  const reader = readerOf(houseOf(file));
  for (const circuit of file.circuits) {
    for (const [id, { needed, needs }] of wireCircuit(reader, circuit.id).runs) {
      const run = file.runs.find((one) => one.id === id)!;
      if (run.kind !== 'cable') continue;
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
  shape(places).map((drawn) => planAsNeeded(build(drawn, places)));
