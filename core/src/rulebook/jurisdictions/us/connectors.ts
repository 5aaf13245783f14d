import type { Connector } from '../../../vocabulary/catalogue-types.js';

const lever = (ports: number): Connector => ({
  id: `lever-${ports}`,
  name: `${ports}-port lever connector`,
  kind: 'lever',
  from: [{ 18: 2 }],
  upTo: [{ 12: ports }],
});

/**
 * Generic connector sizes, smallest first: common practice, from memory. Makers differ: what is printed on the package
 * of the connector in hand decides.
 */
export const US_CONNECTORS: readonly Connector[] = [
  { id: 'twist-small', name: 'small twist-on', kind: 'twist-on', from: [{ 18: 2 }], upTo: [{ 14: 2 }] },
  {
    id: 'twist-medium',
    name: 'medium twist-on',
    kind: 'twist-on',
    // One wire of 12 AWG with the thin lead of a light too.
    from: [{ 14: 2 }, { 12: 1, 18: 1 }],
    upTo: [{ 14: 5 }, { 12: 4 }],
  },
  {
    id: 'twist-large',
    name: 'large twist-on',
    kind: 'twist-on',
    from: [{ 14: 2 }, { 10: 1, 18: 1 }],
    upTo: [{ 14: 6 }, { 12: 5 }, { 10: 3 }],
  },
  {
    id: 'twist-extra-large',
    name: 'extra-large twist-on',
    kind: 'twist-on',
    from: [{ 14: 6 }, { 12: 4 }, { 10: 2 }],
    upTo: [{ 14: 9 }, { 12: 7 }, { 10: 5 }, { 8: 3 }, { 6: 2 }],
  },
  {
    id: 'grounding',
    name: 'grounding twist-on with pass-through hole',
    kind: 'grounding',
    from: [{ 14: 2 }],
    upTo: [{ 14: 5 }, { 12: 4 }],
  },
  lever(2),
  lever(3),
  lever(5),
];
