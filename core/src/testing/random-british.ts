import * as fc from 'fast-check';
import { readerOf } from '../derive/reader.js';
import type { HouseFile } from '../house/house-file.js';
import { houseOf } from '../house/house-file.js';
import { wireCircuit } from '../wiring/conductors/wire-circuit.js';
import { Plan } from './plan.js';

const ROSE = 'gb-rose';

/**
 * Houses by the British rules: lights looped at the ceiling or at the switch, some from one another; one to four places by strappers or
 * by conversion, the first of them on a plate that has gangs for other lights; a ring with a spur.
 */
export const randomBritish: fc.Arbitrary<HouseFile> = fc
  .record({
    parts: fc.array(
      fc.record({
        feed: fc.constantFrom('rose', 'switch'),
        ways: fc.integer({ min: 1, max: 4 }),
        gangs: fc.integer({ min: 1, max: 3 }),
        parent: fc.nat(),
      }),
      { minLength: 1, maxLength: 6 },
    ),
    twoWay: fc.constantFrom('strappers', 'conversion'),
    ring: fc.integer({ min: 0, max: 5 }),
  })
  .map(({ parts, twoWay, ring }) => {
    const plan = new Plan('Random British', 'gb-2018');
    plan.file.rulebook.overrides = { 'wiring.twoWay': { value: twoWay } };
    plan.room('Room', 'living');
    const panel = plan.box('CU', 'panel');
    const lights = plan.circuit(1, 'Lights', panel, 6, { protection: 'gfci', spaces: [1] });
    const light = (box: string): string[] => plan.device(box, 'luminaire', 1, lights);
    const roses = [panel];
    parts.forEach(({ feed, ways, gangs, parent }, at) => {
      const from = roses[parent % roses.length]!;
      const isAtRose = feed === 'rose';
      const first = isAtRose ? plan.fed(`L${at}`, from, '1.5 T&E', lights, ROSE) : from;
      let box = plan.fed(`S${at}`, first, isAtRose ? '1.0 T&E' : '1.5 T&E', lights, 'gb-back-2g-47');
      // A drop from a rose has no neutral for other lights, an intermediate no other gangs.
      const [own, ...others] = plan.device(box, `gb-plate-${ways > 2 || isAtRose ? 1 : gangs}`, 1, lights);
      const levers = [own!];
      others.forEach((lever, other) => {
        const rose = plan.fed(`M${at}${other}`, box, '1.0 T&E', lights, ROSE);
        plan.control(`Other ${at} ${other}`, [lever], light(rose));
      });
      for (let way = 1; way < ways; way++) {
        box = plan.fed(`T${at}${way}`, box, '1.0 3C&E', lights, 'gb-back-1g-47');
        levers.push(...plan.device(box, 'gb-plate-1', 1, lights));
      }
      const rose = isAtRose ? first : plan.fed(`L${at}`, box, '1.0 T&E', lights, ROSE);
      plan.control(`Light ${at}`, levers, light(rose));
      if (isAtRose) roses.push(rose);
    });
    if (ring > 1) {
      const sockets = plan.circuit(2, 'Ring', panel, 32, { ring: true, protection: 'gfci', spaces: [2] });
      const boxes: string[] = [];
      for (let at = 0; at < ring; at++)
        boxes.push(plan.fed(`R${at}`, boxes.at(-1) ?? panel, '2.5 T&E', sockets, 'gb-back-2g-35'));
      plan.run(boxes.at(-1)!, panel, '2.5 T&E', sockets);
      boxes.push(plan.fed('P1', boxes[0]!, '2.5 T&E', sockets, 'gb-back-2g-35'));
      for (const box of boxes) plan.device(box, 'receptacle', 1, sockets);
    }
    return plan.file;
  });

/** Those of which every cable has cores enough: by conversion a light beyond the last switch asks for more than there are. */
export const soundBritish: fc.Arbitrary<HouseFile> = randomBritish.filter((file) => {
  const reader = readerOf(houseOf(file));
  return file.circuits.every(({ id }) =>
    [...wireCircuit(reader, id).runs.values()].every(({ missing }) => missing.length === 0),
  );
});
