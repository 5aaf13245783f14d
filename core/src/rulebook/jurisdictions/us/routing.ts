import type { Rule } from '../../../vocabulary/rule.js';
import { practice, school } from '../shared/rule-makers.js';

const bored = (
  key: string,
  title: string,
  unit: string,
  section: string,
  stricter: 'higher' | 'lower',
  value: number,
  note?: string,
): Rule => ({
  // The residential building code numbers its sections with an R.
  ...(section.startsWith('R') && { publication: 'IRC' }),
  key: `bore.${key}`,
  title,
  unit,
  section,
  provenance: 'published, from memory',
  adjust: 'stricter-only',
  stricter,
  value,
  ...(note && { note }),
});

/** Where cables go along the framing and what that takes. */
export const US_WAYS: readonly Rule[] = [
  school(
    'route.prefer',
    'Ways go',
    'cheapest',
    { cheapest: 'as is least work and cable', stay: 'in the wall where they can', over: 'up and over' },
    'What the other way weighs stands below.',
  ),
  practice('route.price.stay', 'To stay in the wall: each plate weighs', 'min', 6),
  practice('route.price.over', 'To go up and over: each stud weighs', 'min', 1.5),
  school('route.chain', 'Studs are drilled', 'low', {
    low: 'at the height below',
    box: 'at the height of receptacles',
    top: 'along the top',
  }),
  practice('route.height', 'Height of a row of holes', 'in', 20, '18 to 24 in.'),
  practice('route.switchHeight', 'Height of a row of holes over switches', 'in', 52),
  practice('route.underPlate', 'A row along the top, below the top plate', 'in', 4),
  practice('route.plates', 'Top plates together', 'in', 3, 'Two of 1½ in.'),
  practice('route.header', 'Height of headers', 'in', 11.25, 'They block what goes over an opening.'),
  practice('route.joists', 'Joists stand on center', 'in', 16),
  practice('route.joistDepth', 'Height of joists', 'in', 9.25, '2 × 10: 9¼ in.'),
  school(
    'route.attic',
    'Across joists in an attic',
    'over',
    { over: 'over them', bored: 'through holes' },
    'Within 6 ft of a scuttle, or throughout where there are stairs, guard strips protect what runs over them (320.23, 334.23; from memory).',
  ),
  practice('route.minutesCorner', 'Minutes for a hole through a solid corner', 'min', 8),
  practice('route.minutesJoist', 'Minutes for a hole through a joist', 'min', 0.6),
  practice('route.minutesHeader', 'Minutes for a hole through a header that may be bored', 'min', 6),
  practice('route.minutesLadder', 'Minutes for each time up to a ceiling or down below', 'min', 1),
  practice('route.minutesNailPlate', 'Minutes for a nail plate', 'min', 0.5),
  practice('route.attic.times', 'A foot in an attic or crawl space takes', 'times', 1.3),
  practice(
    'route.heavy',
    'A hole takes longer for each further 14 AWG conductor in the cable, by copper',
    '%',
    10,
  ),
];

/** What may be bored, and what must then be plated and sealed. */
export const US_BORING: readonly Rule[] = [
  practice('bore.diameter', 'Bit for 14 and 12 AWG cable', 'in', 0.75),
  practice('bore.large', 'Bit for larger cable', 'in', 1),
  practice('bore.perHole', 'Cables of 14 or 12 AWG in one hole', 'cables', 2),
  bored(
    'edge',
    'A hole stays from the nearest edge, or a steel plate covers it',
    'in',
    '300.4(A)(1)',
    'higher',
    1.25,
    'To the edge of the hole. Along a framing member too: 300.4(D).',
  ),
  bored(
    'perSealed',
    'Cables in one hole that is sealed, without derating',
    'cables',
    '334.80',
    'lower',
    2,
    'Each hole through a plate or floor is sealed against fire spread.',
  ),
  bored('bearing', 'A hole through a bearing stud, of its depth at most', '%', 'R602.6', 'lower', 40),
  bored('partition', 'A hole through another stud, of its depth at most', '%', 'R602.6', 'lower', 60),
  bored('wood', 'Wood left beside a hole in a stud', 'in', 'R602.6', 'higher', 0.625),
  school('bore.inner', 'Studs of inner walls are taken', 'bearing', {
    bearing: 'as bearing',
    partition: 'as not bearing',
  }),
  bored('joist', 'A hole through a solid joist, of its depth at most', '%', 'R502.8', 'lower', 33.3),
  bored('joistEdge', 'A hole through a solid joist stays from top and bottom', 'in', 'R502.8', 'higher', 2),
  bored(
    'plateWidth',
    'A hole through a top plate, of its width at most without a steel tie',
    '%',
    'R602.6.1',
    'lower',
    50,
  ),
];
