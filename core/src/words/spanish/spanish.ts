import type { FindingWords, Language, Say, Told } from '../language/language.js';
import { SPANISH_FINDINGS } from './finding-words.js';
import { SPANISH_FIXES } from './fix-words.js';
import { causeWords } from './cause-words.js';
import { spanishCaution, spanishMakeUp } from './make-up.js';
import { spanishPhrases, spanishTitles } from './phrases.js';
import { spanishText } from './told.js';

/** "de el" and "a el" are said as one word, whatever was put together. */
const said = (text: string): string =>
  text.replace(/\b([Dd])e el\b/g, '$1el').replace(/\b([Aa]) el\b/g, '$1l');

const contracted = (findings: FindingWords): FindingWords =>
  Object.fromEntries(
    Object.entries(findings).map(([code, write]) => [
      code,
      (say: Say, of: never): Told => {
        const told = write(say, of);
        return typeof told === 'string' ? said(told) : [said(told[0]), said(told[1])];
      },
    ]),
  ) as unknown as FindingWords;

/**
 * Spanish as it is spoken on jobsites in the United States: complete for pulling, making up, cautions, findings and the make-up
 * sheets. What it has no words for stays English.
 */
export const SPANISH: Language = {
  code: 'es',
  glossary: (own) => ({
    ...own,
    'single-pole': 'sencillo',
    'three-way': 'tres vías',
    'four-way': 'cuatro vías',
    pigtail: 'colita',
    pigtails: 'colitas',
    traveler: 'viajero',
    travelers: 'viajeros',
    hot: 'vivo',
    hots: 'vivos',
    neutral: 'neutro',
    neutrals: 'neutros',
    ground: 'tierra',
    grounds: 'tierras',
    'ground terminal': 'tierra',
    leg: 'retorno',
    'switch leg': 'retorno de interruptor',
    'switch legs': 'retornos de interruptor',
    interconnect: 'interconexión',
    spare: 'reserva',
    spares: 'reservas',
    panel: 'panel',
    breaker: 'breaker',
    circuit: 'circuito',
    circuits: 'circuitos',
    'home run': 'línea al panel',
    jumper: 'puente',
    raceway: 'tubo',
    tape: 'cinta',
    'common disconnect': 'desconexión común',
    receptacle: 'tomacorriente',
    yoke: 'yugo',
  }),
  told: spanishText,
  phrases: spanishPhrases,
  titles: spanishTitles,
  findings: contracted(SPANISH_FINDINGS),
  lookAt: (conductor) => `Mire ${conductor}. `,
  fixes: SPANISH_FIXES,
  makeUp: spanishMakeUp,
  caution: spanishCaution,
  causes: causeWords,
};
