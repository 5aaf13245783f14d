import type { HouseFile } from '../house/house-file.js';
import { Plan } from './plan.js';

/** A regular house of any size: each room has a circuit of its own with ten boxes. */
export function manyRooms(rooms: number): { file: HouseFile; box: string; run: string } {
  const plan = new Plan(`${rooms} rooms`);
  const garage = plan.room('Garage', 'garage');
  const panel = plan.box('PANEL', 'panel', { roomId: garage });
  let box = '';
  let run = '';
  for (let index = 0; index < rooms; index++) {
    const roomId = plan.room(`Room ${index}`, 'bedroom');
    const circuit = plan.circuit(index + 1, `Room ${index}`, panel, 15);
    const switches = plan.fed(`S${index}`, panel, '14/2', circuit, 'plastic-2g-34', { roomId });
    if (!box) [box, run] = [switches, plan.file.runs.at(-1)!.id];
    for (const gang of [1, 2]) {
      const light = plan.fed(`L${index}-${gang}`, switches, '14/2', circuit, 'plastic-round-20', { roomId });
      plan.control(`Light ${gang}`, plan.device(switches, 'switch', gang), plan.device(light, 'luminaire'));
    }
    let at = switches;
    for (let n = 0; n < 7; n++) {
      at = plan.fed(`R${index}-${n}`, at, '14/2', circuit, 'plastic-1g-20', { roomId });
      plan.device(at, 'receptacle');
      if (n % 2) plan.pull(plan.file.runs.at(-1)!.id, '14/2', 150);
    }
  }
  return { file: plan.file, box, run };
}
