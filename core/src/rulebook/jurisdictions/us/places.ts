import type { Rule } from '../../../vocabulary/rule.js';
import { practice } from '../shared/rule-makers.js';

const secured = (
  key: string,
  title: string,
  section: string,
  value: number,
  more: Partial<Rule> = {},
): Rule => ({
  key,
  title,
  unit: 'in',
  section,
  provenance: 'published, from memory',
  adjust: 'stricter-only',
  stricter: 'lower',
  value,
  ...more,
});

/** How far from a box and from one another cable is held. */
export const US_SECURING: readonly Rule[] = [
  secured('secure.fromBox', 'Cable held within, of a box with clamps', '334.30', 12),
  secured(
    'secure.fromPlainBox',
    'Cable held within, of a single-gang nonmetallic box without clamps',
    '314.17',
    8,
    {
      note: 'Measured along the sheath.',
    },
  ),
  secured('secure.every', 'Cable held at least every', '334.30', 54, {
    note: 'Bored holes no farther apart count as holding it.',
  }),
  practice('secure.habitFromBox', 'The crew staples within, of a box', 'in', 6),
  practice('secure.habitEvery', 'The crew staples every', 'in', 48),
];

const height = (kind: string, what: string, value: number, provenance: Rule['provenance']): Rule => ({
  key: `height.${kind}`,
  title: `Height of ${what}, over the finished floor`,
  unit: 'in',
  provenance,
  adjust: 'free',
  value,
});
const reference = (kind: string, what: string, value: string): Rule => ({
  key: `height.${kind}To`,
  title: `Height of ${what} is measured to`,
  provenance: 'school',
  adjust: 'free',
  options: [
    { code: 'top', text: 'the top of the box' },
    { code: 'centre', text: 'the center of the box' },
    { code: 'bottom', text: 'the bottom of the box' },
  ],
  value,
});

/** Heights at which new boxes are set: a new box starts with them. */
export const US_HEIGHTS: readonly Rule[] = [
  height('switch', 'switch boxes', 48, 'school'),
  reference('switch', 'switch boxes', 'top'),
  height('receptacle', 'receptacles', 16, 'common practice'),
  reference('receptacle', 'receptacles', 'centre'),
];

const depth = (kind: string, title: string, value: number, note?: string): Rule => ({
  key: `wall.${kind}`,
  title,
  unit: 'in',
  provenance: 'common practice',
  adjust: 'free',
  value,
  ...(note && { note }),
});

/** How walls are framed where nobody has said otherwise. */
export const US_FRAMING: readonly Rule[] = [
  depth('interior', 'Depth of the studs of inner walls', 3.5, '2 × 4: 3½ in.'),
  depth('exterior', 'Depth of the studs of outer walls', 5.5, '2 × 6: 5½ in.'),
  depth(
    'plumbing',
    'Depth of the studs of walls with pipes in them',
    5.5,
    '2 × 6: where a basin, tub or shower stands.',
  ),
  depth('spacing', 'Studs stand on center', 16),
];
