import type { HouseFile } from '../house/house-file.js';
import { inRows } from '../plan/arrange.js';
import { Plan } from './plan.js';

/** Numbers that are the same every time (a linear congruential generator, from memory). */
export function numbersFrom(seed: number): (least: number, most: number) => number {
  let state = seed * 7919 + 13;
  return (least, most) => {
    state = (state * 1103515245 + 12345) % 2147483648;
    return least + Math.floor((state / 2147483648) * (most - least + 1));
  };
}

/** What is asked of a circuit whose runs are to be planned, as data: for models of their own. */
export interface CircuitToPlan {
  readonly file: HouseFile;
  readonly circuitId: string;
  /** The panel, then its boxes. */
  readonly nodes: readonly string[];
  /** Which nodes need a hot that nothing switches, and which a neutral. */
  readonly hots: readonly number[];
  readonly neutrals: readonly number[];
  readonly controls: readonly { readonly places: readonly number[]; readonly loads: readonly number[] }[];
  /** Volume and yokes of each box, in³; of the panel none. */
  readonly volumes: readonly number[];
  readonly yokes: readonly number[];
}

/**
 * A circuit of so many boxes on the walls and ceilings of drawn rooms, in small and large boxes, with plain and three-way switches,
 * and runs that somebody has put in without much thought. What only costs money is left in the rulebook's objective: cable by length,
 * cost for each run, the next larger box.
 */
export function circuitToPlan(seed: number, size: number): CircuitToPlan {
  const pick = numbersFrom(seed);
  const plan = new Plan(`To plan ${seed}`, 'us-2017');
  const rooms = Array.from({ length: Math.max(1, Math.ceil(size / 4)) }, (_, at) =>
    plan.room(`Room ${at}`, 'other'),
  );
  const sized = rooms.map((id) => ({ id, lengthIn: pick(100, 220), widthIn: pick(100, 200) }));
  const outlines = inRows(sized);
  for (const room of plan.file.rooms) room.outline = outlines.get(room.id)!.map((corner) => ({ ...corner }));
  const panel = plan.box('PANEL', 'panel', { roomId: rooms[0]!, corner: 'c0', alongIn: 10 });
  const circuitId = plan.circuit(1, 'One', panel, 15);
  const [nodes, volumes, yokes] = [[panel], [0], [0]];
  const hots: number[] = [];
  const neutrals: number[] = [];
  const levers: { node: number; point: string }[] = [];
  const lamps: { node: number; point: string }[] = [];
  for (let node = 1; node <= size; node++) {
    const at = pick(0, rooms.length - 1);
    const { lengthIn, widthIn } = sized[at]!;
    const kind = node === 1 ? 0 : node === 2 ? 1 : pick(0, 3);
    const outline = outlines.get(rooms[at]!)!;
    const stands =
      kind === 1
        ? { xIn: outline[0]!.xIn + pick(20, lengthIn - 20), yIn: outline[0]!.yIn + pick(20, widthIn - 20) }
        : { corner: `c${pick(0, 3)}`, alongIn: pick(5, 90) };
    const volume = kind === 1 ? 20 : kind === 0 && pick(0, 2) === 0 ? 34 : [18, 20, 22.5][pick(0, 2)]!;
    const model = kind === 1 ? 'plastic-round-20' : volume === 34 ? 'plastic-2g-34' : `plastic-1g-${volume}`;
    const box = plan.box(`B${node}`, model, { roomId: rooms[at]!, ...stands });
    nodes.push(box);
    volumes.push(volume);
    if (kind === 1) {
      yokes.push(0);
      neutrals.push(node);
      lamps.push({ node, point: plan.device(box, 'luminaire', 1, circuitId)[0]! });
    } else if (kind === 0) {
      const gangs = volume === 34 ? 2 : 1;
      yokes.push(gangs);
      for (let gang = 1; gang <= gangs; gang++)
        levers.push({ node, point: plan.device(box, 'switch', gang, circuitId)[0]! });
    } else {
      yokes.push(1);
      hots.push(node);
      neutrals.push(node);
      plan.device(box, 'receptacle', 1, circuitId);
    }
  }
  const controls: { places: number[]; loads: number[] }[] = [];
  const boxesOf = (all: readonly { node: number }[]): number[] => [...new Set(all.map(({ node }) => node))];
  while (levers.length && lamps.length) {
    const places = levers.splice(0, 1);
    const other = levers.findIndex(({ node }) => node !== places[0]!.node);
    if (other >= 0 && pick(0, 1)) places.push(...levers.splice(other, 1));
    const loads = lamps.splice(0, pick(1, 2));
    plan.control(
      `C${controls.length}`,
      places.map(({ point }) => point),
      loads.map(({ point }) => point),
    );
    controls.push({ places: boxesOf(places), loads: boxesOf(loads) });
  }
  // What no control is for is fed all the same.
  for (const { node } of [...levers, ...lamps]) if (!hots.includes(node)) hots.push(node);
  for (let node = 1; node <= size; node++)
    plan.run(nodes[pick(0, node - 1)]!, nodes[node]!, '14/3', circuitId);
  for (const [key, value] of [
    ['plan.minutesPerFoot', 0],
    ['plan.minutesPerStud', 0],
    ['plan.minutesPerPlate', 0],
    ['plan.minutesPerSplice', 0],
    ['route.minutesLadder', 0],
    ['route.minutesCorner', 0],
    ['route.minutesJoist', 0],
    ['route.minutesHeader', 0],
    ['neutral.atSwitch', false],
  ] as const)
    plan.file.rulebook.overrides[key] = { value };
  return { file: plan.file, circuitId, nodes, hots, neutrals, controls, volumes, yokes };
}
