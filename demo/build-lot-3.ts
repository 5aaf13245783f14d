/**
 * Builds the second demo house: an invented bungalow by the Canadian code, small enough to read whole. Run with
 * `npx tsx demo/build-lot-3.ts`; the result is committed.
 */
import { Plan } from '../core/src/testing/plan.js';
import { placeBoxes } from './place-boxes.js';
import { settleAndWrite } from './settle-and-write.js';
import { roomsInMeters } from './rooms-in-meters.js';

const plan = new Plan('Lot 3, bungalow', 'ca-2021', 'de000003');
const { file } = plan;
Object.assign(file.storeys[0]!, {
  ceilingIn: 2440 / 25.4,
  overhead: 'attic',
  below: 'crawl-space',
  level: 0,
});

const { inches, room, opening } = roomsInMeters(plan);
const DEVICE = 'ca-device-76-1g';
const ROUND = 'ca-plastic-round-368';

const utility = room('Utility', 'utility', 0, 0, 2.4, 3.6);
opening(utility, 2, 0.8, 'door');
const panel = plan.box('PANEL', 'panel');
const circuit = (
  number: number,
  name: string,
  amps: number,
  protection: 'none' | 'afci' | 'gfci' = 'none',
  more = {},
) => plan.circuit(number, name, panel, amps, { protection, spaces: [number], ...more });
// Counters as is done there: two circuits on one cable of three conductors, each receptacle split, one handle.
const counterA = circuit(1, 'Kitchen counter, upper halves', 15, 'gfci', {
  neutralGroup: 'counter',
  spaces: [1],
});
const counterB = circuit(3, 'Kitchen counter, lower halves', 15, 'gfci', {
  neutralGroup: 'counter',
  spaces: [3],
});
const lights = circuit(5, 'Lights', 15);
const outlets = circuit(7, 'Living room and bedroom', 15, 'afci');
const bathing = circuit(9, 'Bath and utility', 20, 'gfci');
const fridge = circuit(11, 'Refrigerator', 15);
const heat = plan.circuit(2, 'Bedroom heat', panel, 15, { poles: 2, spaces: [2, 4] });

const s5 = plan.fed('S1', panel, '14/2', lights, DEVICE);
const l4 = plan.fed('L1', s5, '14/2', lights, ROUND);
plan.control('Utility light', plan.device(s5, 'switch'), plan.device(l4, 'luminaire'));
const r5 = plan.fed('R1', panel, '12/2', bathing, 'ca-plastic-1g-368');
plan.device(r5, 'receptacle', 1, bathing);

const kitchen = room('Kitchen', 'kitchen', 2.4, 0, 4.2, 3.6);
opening(kitchen, 2, 1.2, 'opening');
opening(kitchen, 0, 1.6, 'window');
for (const [kind, fromIn, toIn, depth] of [
  ['counter', 0, 0.91, 0.63],
  ['cabinet', 1.37, 2.2, 0.3],
] as const)
  file.bands.push({
    ...{
      id: plan.id(),
      roomId: kitchen,
      kind,
      corner: 'c0',
      alongIn: inches(kind === 'counter' ? 0.1 : 0.1),
    },
    ...{
      widthIn: inches(kind === 'counter' ? 3.9 : 1.4),
      depthIn: inches(depth),
      fromIn: inches(fromIn),
      toIn: inches(toIn),
    },
  });
const split = (tag: string, from: string): string => {
  const id = plan.box(tag, 'ca-plastic-1g-368');
  plan.run(from, id, '14/3', counterA, { circuitIds: [counterA, counterB] });
  plan.device(id, 'receptacle', 1, counterA);
  file.points.at(-1)!.circuitId = counterB;
  return id;
};
split('R3', split('R2', panel));
const r3 = plan.fed('F1', panel, '14/2', fridge, 'ca-plastic-1g-295', { heightIn: inches(0.4) });
plan.device(r3, 'receptacle', 1, fridge);
// Set too small: three cables and a switch in the box of 204 mL.
const s1 = plan.fed('S2', s5, '14/2', lights, 'ca-device-64-1g');
const l1 = plan.fed('L2', s1, '14/2', lights, ROUND);
plan.control('Kitchen light', plan.device(s1, 'switch'), plan.device(l1, 'luminaire'));

const hall = room('Hall', 'hall', 0, 3.6, 8.6, 1.2);
opening(hall, 3, 0.2, 'door');
const s2 = plan.fed('S3', s1, '14/2', lights, DEVICE);
const s3 = plan.fed('S4', s2, '14/3', lights, DEVICE);
const l2 = plan.fed('L3', s3, '14/2', lights, ROUND);
plan.control(
  'Hall light',
  [...plan.device(s2, 'switch'), ...plan.device(s3, 'switch')],
  plan.device(l2, 'luminaire'),
);

const bath = room('Bath', 'bath', 6.6, 0, 2, 3.6);
opening(bath, 2, 0.3, 'door');
for (const [kind, wall, along, width, depth, from, to] of [
  ['vanity', 0, 0.2, 1.2, 0.53, 0, 0.86],
  ['basin', 0, 0.5, 0.46, 0.46, 0.76, 0.86],
  ['tub', 1, 1.6, 1.5, 0.76, 0, 0.5],
] as const)
  file.bands.push({
    ...{
      id: plan.id(),
      roomId: bath,
      kind,
      corner: `c${wall}`,
      alongIn: inches(along),
      widthIn: inches(width),
    },
    ...{ depthIn: inches(depth), fromIn: inches(from), toIn: inches(to) },
  });
const s4 = plan.fed('S5', s2, '14/2', lights, 'ca-plastic-1g-368');
const l3 = plan.fed('L4', s4, '14/2', lights, ROUND);
plan.control('Bath light', plan.device(s4, 'switch'), plan.device(l3, 'luminaire'));
const r4 = plan.fed('R4', r5, '12/2', bathing, 'ca-plastic-1g-368');
plan.device(r4, 'receptacle-gfci', 1, bathing);

const living = room('Living room', 'living', 0, 4.8, 4.4, 4);
opening(living, 0, 1.4, 'opening');
opening(living, 2, 1.4, 'window');
const s7 = plan.fed('S6', s4, '14/2', lights, 'ca-plastic-1g-368');
const l5 = plan.fed('L5', s7, '14/2', lights, ROUND);
plan.control('Living room light', plan.device(s7, 'switch'), plan.device(l5, 'luminaire'));
let from = panel;
for (const tag of ['R5', 'R6', 'R7']) {
  from = plan.fed(tag, from, '14/2', outlets, 'ca-plastic-1g-295');
  plan.device(from, 'receptacle', 1, outlets);
}

const bedroom = room('Bedroom', 'bedroom', 4.4, 4.8, 4.2, 4);
opening(bedroom, 0, 0.6, 'door');
opening(bedroom, 1, 1.2, 'window');
// A loop of two conductors from the light: no neutral comes to its switch.
const l6 = plan.fed('L6', s7, '14/2', lights, ROUND);
const s8 = plan.fed('S7', l6, '14/2', lights, 'ca-device-64-1g');
plan.control('Bedroom light', plan.device(s8, 'switch'), plan.device(l6, 'luminaire'));
for (const tag of ['R8', 'R9', 'R10']) {
  from = plan.fed(tag, from, '14/2', outlets, 'ca-plastic-1g-295');
  plan.device(from, 'receptacle', 1, outlets);
}
const heater = plan.fed('H1', panel, '12/2 heat', heat, 'ca-square-38');
plan.device(heater, 'appliance-240', 1, heat);

placeBoxes(file, [utility, kitchen, hall, bath, living, bedroom]);
// The crew has begun with the lights, the day before.
const names = ['Ansel', 'Mireille'];
file.runs
  .filter(({ circuitIds }) => circuitIds.includes(lights))
  .slice(0, 9)
  .forEach(({ id, plannedCable }, at) =>
    file.pulls.push({
      ...{ id: plan.id(), runId: id, cable: plannedCable!, by: plan.person(names[at % 2]!), state: 'in' },
      at: `2026-03-17T1${at % 6}:20:00Z`,
    }),
  );

settleAndWrite(file, './lot-3.house.json');
