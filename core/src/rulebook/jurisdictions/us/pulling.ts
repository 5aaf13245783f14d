import type { Rule } from '../../../vocabulary/rule.js';
import { practice } from './practice.js';

/** What a length to cut is made of, and what cable is kept. */
export const US_PULLING: readonly Rule[] = [
  {
    key: 'cut.sheath',
    title: 'Sheath that shows inside the box',
    unit: 'in',
    section: '314.17',
    provenance: 'published, from memory',
    adjust: 'amendable',
    stricter: 'higher',
    value: 0.25,
  },
  practice('cut.droop', 'Droop, of the way', '%', 2),
  practice('cut.leastDroop', 'Droop at least', 'in', 6),
  practice('cut.tailLight', 'Tail at a light that is finished later', 'in', 30, 'Two to three feet.'),
  practice('cut.tailPanel', 'Tail at the panel', 'in', 60, 'Four to six feet, by the height of the panel.'),
  practice(
    'cut.habit',
    'Of that, as the crew really pulls it',
    '%',
    100,
    'What the log says is offered on the pull sheet.',
  ),
  practice('cut.round', 'Cut in steps of', 'in', 12),
  practice('cut.between', 'From a ceiling to the floor above it', 'in', 12),
  {
    key: 'pull.stapled',
    title: 'Stapled and plated is ticked',
    value: 'room',
    provenance: 'school',
    adjust: 'free',
    options: [
      { code: 'room', text: 'by room, when all of it is in' },
      { code: 'run', text: 'by run, as you go' },
    ],
  },
  practice('plan.rate', 'An hour of the crew costs', 'an hour', 60, 'In the crew’s money.'),
  practice(
    'plan.perConductorFoot',
    'A foot of 14 AWG conductor costs',
    'a foot',
    0.2,
    'Where the crew has no price.',
  ),
  practice('plan.minutesPerRun', 'Minutes for each run', 'min', 2),
  practice('plan.minutesPerFoot', 'Minutes for each foot', 'min', 0.15),
  practice('plan.largerBox', 'The next larger box costs', 'a box', 4),
  practice('takeoff.waste', 'Cable that is lost in cutting', '%', 5),
  practice('takeoff.platesPerRun', 'Nail plates for each run', 'plates', 0.5, 'Until its way is known.'),
  practice('takeoff.holesPerTube', 'Holes that a tube of seal closes', 'holes', 25),
  practice('reel.coil', 'A new coil has', 'ft', 250, 'Reels have 500 or 1,000 ft.'),
  practice('reel.useful', 'An offcut is kept from', 'ft', 8, 'A shorter one is scrap, but for pigtails.'),
];
