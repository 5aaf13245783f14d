import type { Jurisdiction } from '../../../vocabulary/jurisdiction.js';
import { US_CHAPTERS } from '../us/chapters.js';
import { saidHere } from './said-here.js';

const OWN: Readonly<Record<string, string>> = {
  fill: 'Depth of back boxes',
  wire: 'Cable and MCB',
  gfci: 'RCD protection',
};

/** In the order in which the rulebook page shows them. */
export const GB_CHAPTERS: Jurisdiction['chapters'] = [
  ...US_CHAPTERS.flatMap(({ id, title }) => {
    const own = { id, title: OWN[id] ?? saidHere(title) };
    return id === 'wire'
      ? [own, { id: 'ring', title: 'Ring finals' }, { id: 'zone', title: 'Safe zones' }]
      : id === 'wiring'
        ? [own, { id: 'plates', title: 'Switch plates' }, { id: 'test', title: 'Dead tests' }]
        : [own];
  }),
];
