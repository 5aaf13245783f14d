import type { Glossary } from '../../../vocabulary/glossary.js';
import { US_GLOSSARY } from '../us/glossary.js';

/** What crews in Canada call things where that is something else than to the south: common practice. */
export const CA_GLOSSARY: Glossary = {
  ...US_GLOSSARY,
  traveler: 'traveller',
  travelers: 'travellers',
  ground: 'bonding conductor',
  grounds: 'bonding conductors',
  'ground terminal': 'bond',
  panel: 'panelboard',
  yoke: 'strap',
};
