import type { Phrases, Titles, TermOf } from '../language/language.js';
import { listed } from '../language/sentence.js';

const LETTER = { a: 'A', b: 'B' } as const;

/** Cómo se nombran las cosas; `t` son las palabras del oficio. */
export const spanishPhrases = (t: TermOf): Phrases => ({
  and: (words) => listed(words, ' y '),
  or: (words) => listed(words, ' o '),
  some: (words, left) => `${words.join(', ')} y ${left} más`,
  circuit: (number, name) => `circuito ${number} (${name})`,
  circuits: (numbers) => `circuitos ${listed(numbers.map(String), ' y ')}`,
  aCircuit: 'un circuito',
  aBox: 'una caja',
  aRoom: 'un cuarto',
  anotherBox: 'otra caja',
  aDevice: 'un dispositivo',
  aControl: 'un control',
  goneRun: 'un tramo que ya no está',
  goneCable: 'un cable que ya no está',
  run: (cable, from, to) => `el ${cable ?? 'tramo'} de ${from} a ${to}`,
  ends: (from, to) => `de ${from} a ${to}`,
  cableTo: (cable, to) => `el ${cable ?? 'tramo'} a ${to}`,
  conductor: (colour, run) => `el ${colour} en ${run}`,
  wireTo: (colour, to) => `${colour} a ${to}`,
  breaker: (number, name, amps) => `breaker ${number} (${name}, ${amps} A)`,
  atGang: (words, gang) => `${words}, lugar ${gang}`,
  ofGang: (words, gang) => `${words} del lugar ${gang}`,
  loadIn: (load, box) => `${load} en ${box}`,
  insideOfSwitch: (box) => `el interior del interruptor de ${box}`,
  colours: {
    BK: 'negro',
    WH: 'blanco',
    RD: 'rojo',
    BU: 'azul',
    GN: 'verde',
    GY: 'gris',
    BN: 'café',
    OG: 'naranja',
    YE: 'amarillo',
    VT: 'morado',
    PK: 'rosa',
    BARE: 'desnudo',
  },
  roles: {
    lever: 'interruptor',
    receptacle: t('receptacle'),
    lamp: 'luz',
    fan: 'ventilador',
    alarm: 'alarma',
    appliance: 'aparato',
  },
  joints: {
    ground: t('ground'),
    neutral: t('neutral'),
    traveler: t('traveler'),
    hot: t('hot'),
    leg: t('leg'),
    common: 'unión de comunes',
    interconnect: t('interconnect'),
    spare: t('spare'),
    undecided: 'todavía sin calcular',
  },
  hotToGround: 'el vivo está unido a tierra',
  joined: (one, other) => `${one} está unido a ${other} sin carga en medio`,
  anotherLeg: 'otra fase',
  wall: (number) => `pared ${number}`,
  slot: (number) => `entrada ${number}`,
  cables: (count) => (count === 1 ? '1 cable' : `${count} cables`),
  slots: (count) => (count === 1 ? '1 entrada' : `${count} entradas`),
  fanRatedBox: 'caja para ventilador',
  practice: {
    common: 'práctica común',
    package: 'práctica común; decide lo impreso en su empaque',
    sheet: 'práctica común; decide la hoja del dispositivo',
  },
  commonOf: (control) => `unión de comunes de ${control}`,
  legOf: (control) => `retorno de ${control}`,
  travelerOf: (side, control) => `viajero ${LETTER[side]} de ${control}`,
  undecided: 'todavía sin calcular',
  protectedNeutral: 'neutro protegido',
  protectedHot: 'vivo protegido',
  firstHot: 'primer vivo',
  secondHot: 'segundo vivo',
  hotOf: (circuit) => `vivo del circuito ${circuit}`,
  supply: 'entrada',
  common: 'común',
  traveler: (side) => `viajero ${LETTER[side]}`,
  pair: (pair, side) => `par ${pair} ${LETTER[side]}`,
  hotB: 'vivo B',
  onSide: (of, words) => `${words} ${of.toUpperCase()}`,
  boxGround: 'tornillo de tierra de la caja',
  capped: 'tapado, para un dispositivo futuro',
  link: 'puente al otro empalme',
  groundBar: 'barra de tierra',
  neutralBar: 'barra de neutro',
  lug: (pole) => `zapata principal ${pole}`,
  secondPole: 'segundo polo',
  halves: ['mitad de arriba', 'mitad de abajo'],
  half: (terminal, name, control) =>
    `${terminal}, ${name}, ${control ? `con interruptor de ${control}` : 'siempre vivo'}`,
  leads: {
    supply: 'cable de línea',
    leg: 'cable de carga',
    fan: 'cable del ventilador',
    lamp: 'cable de la luz',
    both: 'cables del ventilador y de la luz',
    lead: (terminal) => `cable de ${terminal}`,
  },
  landsOn: (terminal) => `se conecta en ${terminal}`,
  isCapped: 'tapado',
  passesUncut: 'pasa sin cortar',
  spliceOf: (count, pigtails) =>
    `empalme de ${count}${pigtails.length ? ` con colitas a ${pigtails.join(', ')}` : ''}`,
  fill: (item, device) => {
    switch (item.code) {
      case 'conductors':
        return 'conductores aislados';
      case 'conductors-unchosen':
        return 'conductores aislados de un cable sin escoger';
      case 'through':
        return 'conductores que pasan sin cortar';
      case 'connectors':
        return 'conectores';
      case 'loops':
        return 'vueltas sin cortar, el doble del largo libre o más';
      case 'fixture-wires':
        return 'alambres de luminaria';
      case 'clamps':
        return 'mordazas internas, todas juntas';
      case 'stud':
        return 'perno de luminaria';
      case 'hickey':
        return 'hickey';
      case 'terminal-block':
        return 'bloque de terminales';
      case 'grounds':
        return `tierras de equipo, ${item.together} juntas`;
      case 'grounds-beyond':
        return 'tierras de equipo además de esas';
      case 'isolated-grounds':
        return 'tierras aisladas, todas juntas';
      case 'connector-pairs':
        return 'pares completos de conectores';
      case 'device':
        return item.gangs > 1
          ? `${device}, lugar ${item.gang}, por cada uno de ${item.gangs} lugares`
          : `${device}, lugar ${item.gang}`;
    }
  },
  fittings: {
    ring: 'anillo',
    extension: 'extensión',
    'raised-cover': 'tapa levantada',
    stud: 'perno',
    hickey: 'hickey',
    'terminal-block': 'bloque de terminales',
  },
});

/** Los títulos de los pasos. */
export const spanishTitles = (): Titles => ({
  ofCircuits: (numbers) =>
    numbers.length === 1
      ? ` del circuito ${numbers[0]}`
      : ` de los circuitos ${listed(numbers, ' y ')}, que lo comparten`,
  part: ', una parte',
  fromLoad: ' desde LOAD, protegido',
  toLine: ' a LINE',
  groundsToBar: 'todas las tierras a la barra',
  grounds: 'todas las tierras juntas',
  groundsPart: 'tierras, una parte',
  traveler: (side, control, isThrough) =>
    `viajero ${LETTER[side]} de ${control}${isThrough ? ', derecho' : ''}`,
  neutralUncut: (on) => `el neutro${on} pasa sin cortar`,
  neutralCap: (on) => `tape el neutro${on}, déjelo largo`,
  neutrals: (rest) => `neutros${rest}`,
  hotCap: (on) => `tape el vivo${on}`,
  hot: (rest) => `vivo${rest}`,
  interconnect: (on) => `interconexión de alarmas${on}`,
  commons: (control) => `comunes de ${control}`,
  leg: (control, part) => `retorno: ${control}${part}`,
  sparesSpliced: 'reservas que quedan empalmadas entre sí',
  spareCap: (colour, far) => `tape la reserva: ${colour} del cable a ${far}`,
  notDerived: (colour, far) => `${colour} del cable a ${far}: todavía sin calcular`,
  linkUnasked: 'un puente que nada pide',
});
