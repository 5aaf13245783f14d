import type { Marking } from '../../findings/facts.js';
import type { Say } from '../language/language.js';
import { listed } from '../language/sentence.js';

const NAMED: Readonly<Record<string, string>> = {
  hot: 'vivo',
  traveler: 'un viajero',
  leg: 'un retorno de interruptor',
  neutral: 'neutro',
  common: 'la unión de comunes',
};

/** Qué es un conductor marcado: "es vivo", "es un viajero". */
export const markedWhite = (role: string): string => `es ${NAMED[role] ?? role}`;

/** "Marque el blanco todo alrededor con cinta de color negro o rojo" */
export const markWith = (say: Say, { colours, with: others }: Marking, where = ''): string =>
  `Marque el ${listed(colours.map(say.colour), ' y ')}${where} todo alrededor con cinta de color ${listed(others.map(say.colour), ' o ')}`;
