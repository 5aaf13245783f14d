import type { HouseFile } from '../house/house-file.js';
import { Plan } from './plan.js';

/** Ways of the planner under which only cable, work and boxes decide about a shared home run. */
export const SHARED_BY_COST = {
  'plan.price.multiwire': { value: 0 },
  'plan.oneWay': { value: 'no' },
  'plan.twoCables': { value: 'no' },
};

/** Two circuits of one far room, on breakers next to each other in the panel: their home runs could be one. */
export function twoBedrooms(overrides: HouseFile['rulebook']['overrides']): HouseFile {
  const plan = new Plan('Two bedrooms');
  const rooms = Array.from({ length: 12 }, (_, at) => plan.room(`Room ${at}`, 'bedroom'));
  const panel = plan.box('PANEL', 'panel', { roomId: rooms[0]! });
  for (const number of [1, 2]) {
    const circuit = plan.circuit(number, `Bedroom ${number}`, panel, 15);
    Object.assign(plan.file.circuits.at(-1)!, { spaces: [2 * number - 1], protection: 'afci' });
    let last = panel;
    for (const at of [0, 1, 2]) {
      const box = plan.box(`R${number}${at}`, 'plastic-1g-22.5', { roomId: rooms[11]! });
      plan.device(box, 'receptacle', 1, circuit);
      plan.run(last, box, '14/2', circuit);
      last = box;
    }
  }
  plan.file.rulebook.overrides = overrides;
  return plan.file;
}
