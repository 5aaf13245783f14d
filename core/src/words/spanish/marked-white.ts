const NAMED: Readonly<Record<string, string>> = {
  hot: 'vivo',
  traveler: 'un viajero',
  leg: 'un retorno de interruptor',
  neutral: 'neutro',
};

/** Qué es un blanco marcado: "es vivo", "es un viajero". */
export const markedWhite = (role: string): string => `es ${NAMED[role] ?? role}`;
