/**
 * Builds the third demo house: an invented terraced house by the British wiring rules, small enough to read whole. Run with
 * `npx tsx demo/build-plot-7.ts`; the result is committed.
 */
import { Plan } from '../core/src/testing/plan.js';
import { placeBoxes } from './place-boxes.js';
import { roomsInMeters } from './rooms-in-meters.js';
import { settleAndWrite } from './settle-and-write.js';

const plan = new Plan('Plot 7, terraced house', 'gb-2018', 'de000007');
const { file } = plan;
const { inches, room, opening } = roomsInMeters(plan);
Object.assign(file.storeys[0]!, { name: 'Ground floor', ceilingIn: inches(2.4), below: 'slab', level: 0 });
const upstairs = plan.storey('Upstairs');
Object.assign(file.storeys.at(-1)!, { ceilingIn: inches(2.4), overhead: 'attic', level: 1 });

const BACK = 'gb-back-1g-35';
const WIDE = 'gb-back-2g-35';
const ROSE = 'gb-rose';

const hall = room('Hall', 'hall', 0, 0, 1.4, 5);
opening(hall, 0, 0.3, 'door');
const panel = plan.box('CU', 'panel');
const circuit = (number: number, name: string, amps: number, more = {}) =>
  plan.circuit(number, name, panel, amps, { protection: 'gfci', spaces: [number], ...more });
const sockets = circuit(1, 'Socket outlets, ring', 32, { ring: true });
const kitchenRing = circuit(2, 'Kitchen, ring', 32, { ring: true });
const cooker = circuit(3, 'Cooker', 32);
const down = circuit(4, 'Lights downstairs', 6);
const up = circuit(5, 'Lights upstairs', 6);
const alarms = circuit(6, 'Smoke alarms', 6);

// Two-way on the stairs by conversion would do as well; this house goes by strappers.
const l1 = plan.fed('L1', panel, '1.5 T&E', down, ROSE);
const s1 = plan.fed('S1', l1, '1.0 3C&E', down, BACK);
const [hallHere, landingHere] = plan.device(s1, 'gb-plate-2', 1, down);
const a1 = plan.fed('A1', panel, '1.5 T&E', alarms, ROSE);
plan.device(a1, 'alarm', 1, alarms);

const kitchen = room('Kitchen', 'kitchen', 1.4, 0, 3.4, 2.8);
opening(kitchen, 3, 0.9, 'door');
opening(kitchen, 0, 1.2, 'window');
file.bands.push({
  ...{ id: plan.id(), roomId: kitchen, kind: 'counter', corner: 'c0', alongIn: inches(0.1) },
  ...{ widthIn: inches(3.2), depthIn: inches(0.6), fromIn: 0, toIn: inches(0.91) },
});
// Looped at the switch: its neutral is joined there.
const s2 = plan.fed('S2', l1, '1.5 T&E', down, 'gb-back-1g-25');
const l2 = plan.fed('L2', s2, '1.0 T&E', down, ROSE);
const l3 = plan.fed('L3', s2, '1.0 T&E', down, ROSE);
const [ceiling, worktop] = plan.device(s2, 'gb-plate-2', 1, down);
plan.control('Kitchen light', [ceiling!], plan.device(l2, 'luminaire', 1, down));
plan.control('Worktop light', [worktop!], plan.device(l3, 'luminaire', 1, down));
let at = panel;
for (const tag of ['R1', 'R2', 'R3']) {
  at = plan.fed(tag, at, '2.5 T&E', kitchenRing, WIDE);
  plan.device(at, 'receptacle', 1, kitchenRing);
}
plan.run(at, panel, '2.5 T&E', kitchenRing);
const cook = plan.fed('K1', panel, '6.0 T&E', cooker, WIDE);
plan.device(cook, 'appliance', 1, cooker);

const living = room('Living room', 'living', 1.4, 2.8, 3.4, 4.2);
opening(living, 3, 0.4, 'door');
opening(living, 2, 1, 'window');
const l4 = plan.fed('L4', s2, '1.5 T&E', down, ROSE);
// Set too shallow: a dimmer reaches deeper than a plain plate.
const s3 = plan.fed('S3', l4, '1.0 T&E', down, 'gb-back-1g-25');
plan.control('Living room light', plan.device(s3, 'dimmer', 1, down), plan.device(l4, 'luminaire', 1, down));
let from = panel;
const chain = (tags: readonly string[]): void => {
  for (const tag of tags) {
    from = plan.fed(tag, from, '2.5 T&E', sockets, WIDE);
    plan.device(from, 'receptacle', 1, sockets);
  }
};
chain(['R4', 'R5', 'R6']);

const landing = room('Landing', 'stairs', 0, 0, 1.4, 5, upstairs);
const s4 = plan.fed('S4', s1, '1.0 3C&E', down, BACK);
const l5 = plan.fed('L5', s4, '1.0 T&E', down, ROSE);
const a2 = plan.fed('A2', a1, '1.5 3C&E', alarms, ROSE);
plan.device(a2, 'alarm', 1, alarms);
plan.control('Hall light', [hallHere!], plan.device(l1, 'luminaire', 1, down));
plan.control(
  'Landing light',
  [landingHere!, ...plan.device(s4, 'gb-plate-1', 1, down)],
  plan.device(l5, 'luminaire', 1, down),
);

const front = room('Front bedroom', 'bedroom', 1.4, 2.8, 3.4, 4.2, upstairs);
opening(front, 3, 0.4, 'door');
opening(front, 2, 1, 'window');
const l6 = plan.fed('L6', panel, '1.5 T&E', up, ROSE);
const s5 = plan.fed('S5', l6, '1.0 T&E', up, BACK);
plan.control(
  'Front bedroom light',
  plan.device(s5, 'gb-plate-1', 1, up),
  plan.device(l6, 'luminaire', 1, up),
);
chain(['R7', 'R8']);

const bath = room('Bathroom', 'bath', 1.4, 0, 2, 2.8, upstairs);
opening(bath, 3, 0.3, 'door');
file.bands.push({
  ...{ id: plan.id(), roomId: bath, kind: 'tub', corner: 'c0', alongIn: inches(0.2) },
  ...{ widthIn: inches(1.7), depthIn: inches(0.7), fromIn: 0, toIn: inches(0.55) },
});
const l7 = plan.fed('L7', l6, '1.5 T&E', up, ROSE);
const s6 = plan.fed('S6', l7, '1.0 T&E', up, BACK, { roomId: landing });
plan.control('Bathroom light', plan.device(s6, 'gb-plate-1', 1, up), plan.device(l7, 'luminaire', 1, up));

const back = room('Back bedroom', 'bedroom', 3.4, 0, 1.4, 2.8, upstairs);
opening(back, 2, 0.3, 'door');
const l8 = plan.fed('L8', l7, '1.5 T&E', up, ROSE);
const s7 = plan.fed('S7', l8, '1.0 T&E', up, BACK);
plan.control('Back bedroom light', plan.device(s7, 'gb-plate-1', 1, up), plan.device(l8, 'luminaire', 1, up));
chain(['R9']);
plan.run(from, panel, '2.5 T&E', sockets);
// A spur to the hall, and by mistake another one from it.
const r10 = plan.fed('R10', file.boxes.find(({ tag }) => tag === 'R6')!.id, '2.5 T&E', sockets, BACK, {
  roomId: hall,
});
plan.device(r10, 'receptacle-single', 1, sockets);
const r11 = plan.fed('R11', r10, '2.5 T&E', sockets, BACK, { roomId: hall });
plan.device(r11, 'receptacle-single', 1, sockets);

placeBoxes(file, [hall, kitchen, living, landing, front, bath, back]);
// The crew has begun with the lights downstairs, the day before.
const names = ['Idris', 'Maud'];
file.runs
  .filter(({ circuitIds }) => circuitIds.includes(down))
  .slice(0, 7)
  .forEach(({ id, plannedCable }, index) =>
    file.pulls.push({
      ...{ id: plan.id(), runId: id, cable: plannedCable!, by: plan.person(names[index % 2]!), state: 'in' },
      at: `2026-03-18T1${index % 6}:10:00Z`,
    }),
  );

settleAndWrite(file, './plot-7.house.json');
