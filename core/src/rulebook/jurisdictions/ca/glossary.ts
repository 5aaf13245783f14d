import type { Glossary } from '../../../vocabulary/glossary.js';
import type { SaidHere } from '../../../vocabulary/said-in.js';
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

/** The same in sentences that are written in the words of the United States. */
export const CA_SAID: SaidHere = [
  [/\bpanel(s?)\b/gi, 'panelboard$1'],
  [/traveler/gi, 'traveller'],
  [/\bgrounds\b/gi, 'bonding conductors'],
  [/(?<!from the )\bground\b(?!-fault)/gi, 'bonding conductor'],
  [/\byoke/gi, 'strap'],
];
