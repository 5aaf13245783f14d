import { counted, listed } from '../language/sentence.js';
import type { Phrases, Titles, TermOf } from '../language/language.js';

const LETTER = { a: 'A', b: 'B' } as const;

/** How things are named; `t` are the trade words of the country. */
export const englishPhrases = (t: TermOf): Phrases => ({
  and: (words) => listed(words),
  or: (words) => listed(words, ' or '),
  some: (words, left) => `${words.join(', ')} and ${left} more`,
  circuit: (number, name) => `${t('circuit')} ${number} (${name})`,
  circuits: (numbers) => `${t('circuits')} ${listed(numbers.map(String))}`,
  aCircuit: `a ${t('circuit')}`,
  aBox: 'a box',
  aRoom: 'a room',
  anotherBox: 'another box',
  aDevice: 'a device',
  aControl: 'a switching',
  goneRun: 'a run that is gone',
  goneCable: 'a cable that is gone',
  run: (cable, from, to) => `the ${cable ?? 'run'} from ${from} to ${to}`,
  ends: (from, to) => `from ${from} to ${to}`,
  cableTo: (cable, to) => `the ${cable ?? 'run'} to ${to}`,
  conductor: (colour, run) => `the ${colour} in ${run}`,
  wireTo: (colour, to) => `${colour} to ${to}`,
  breaker: (number, name, amps) => `${t('breaker')} ${number} (${name}, ${amps} A)`,
  atGang: (words, gang) => `${words}, gang ${gang}`,
  ofGang: (words, gang) => `${words} of gang ${gang}`,
  loadIn: (load, box) => `${load} in ${box}`,
  insideOfSwitch: (box) => `the inside of the switch in ${box}`,
  colours: {
    BK: 'black',
    WH: 'white',
    RD: 'red',
    BU: 'blue',
    GN: 'green',
    GY: 'gray',
    BN: 'brown',
    OG: 'orange',
    YE: 'yellow',
    VT: 'violet',
    PK: 'pink',
    BARE: 'bare',
  },
  roles: {
    lever: 'switch',
    receptacle: t('receptacle'),
    lamp: 'light',
    fan: 'fan',
    alarm: 'alarm',
    appliance: 'appliance',
  },
  joints: {
    ground: t('ground'),
    neutral: t('neutral'),
    traveler: t('traveler'),
    hot: t('hot'),
    leg: t('leg'),
    common: 'link of the commons',
    interconnect: t('interconnect'),
    spare: t('spare'),
    undecided: 'not worked out yet',
  },
  hotToGround: `${t('hot')} is joined to ${t('ground')}`,
  joined: (one, other) => `${one} is joined to ${other} without a load between`,
  anotherLeg: 'another leg',
  wall: (number) => `wall ${number}`,
  slot: (number) => `slot ${number}`,
  cables: (count) => counted(count, 'cable'),
  slots: (count) => counted(count, 'slot'),
  fanRatedBox: 'fan-rated box',
  practice: {
    common: 'common practice',
    package: 'common practice; what is printed on its package decides',
    sheet: 'common practice; the device’s own sheet decides',
  },
  commonOf: (control) => `link of the commons of ${control}`,
  legOf: (control) => `${t('leg')} of ${control}`,
  travelerOf: (side, control) => `${t('traveler')} ${LETTER[side]} of ${control}`,
  undecided: 'not worked out yet',
  protectedNeutral: `protected ${t('neutral')}`,
  protectedHot: `protected ${t('hot')}`,
  firstHot: `first ${t('hot')}`,
  secondHot: `second ${t('hot')}`,
  hotOf: (circuit) => `${t('hot')} of ${t('circuit')} ${circuit}`,
  supply: 'supply',
  common: 'common',
  traveler: (side) => `${t('traveler')} ${LETTER[side]}`,
  pair: (pair, side) => `pair ${pair} ${LETTER[side]}`,
  hotB: `${t('hot')} B`,
  onSide: (of, words) => `${of} ${words}`,
  boxGround: `${t('ground')} screw of the box`,
  capped: 'capped, for a later device',
  link: 'link to the other splice',
  groundBar: `${t('ground')} bar`,
  neutralBar: `${t('neutral')} bar`,
  lug: (pole) => `main lug ${pole}`,
  secondPole: 'second pole',
  halves: ['upper half', 'lower half'],
  half: (terminal, name, control) =>
    `${terminal}, ${name}, ${control ? `switched by ${control}` : 'always hot'}`,
  leads: {
    supply: 'line lead',
    leg: 'load lead',
    fan: 'fan lead',
    lamp: 'light lead',
    both: 'fan lead and light lead',
    lead: (terminal) => `${terminal} lead`,
  },
  landsOn: (terminal) => `lands on ${terminal}`,
  isCapped: 'capped',
  passesUncut: 'passes uncut',
  spliceOf: (count, pigtails) =>
    `splice of ${count}${pigtails.length ? ` with ${t('pigtails')} to ${pigtails.join(', ')}` : ''}`,
  fill: (item, device) => {
    switch (item.code) {
      case 'conductors':
        return 'insulated conductors';
      case 'conductors-unchosen':
        return 'insulated conductors of a cable not chosen yet';
      case 'through':
        return 'conductors passing through unbroken';
      case 'connectors':
        return 'connectors';
      case 'loops':
        return 'unbroken loops, twice the free length or more';
      case 'fixture-wires':
        return 'fixture wires';
      case 'clamps':
        return 'internal clamps, all together';
      case 'stud':
        return 'luminaire stud';
      case 'hickey':
        return 'hickey';
      case 'terminal-block':
        return 'terminal block';
      case 'grounds':
        return `equipment grounds, ${item.together} together`;
      case 'grounds-beyond':
        return 'equipment grounds beyond those';
      case 'isolated-grounds':
        return 'isolated grounds, all together';
      case 'connector-pairs':
        return 'full pairs of connectors';
      case 'device':
        return item.gangs > 1
          ? `${device}, gang ${item.gang}, for each of ${item.gangs} gangs`
          : `${device}, gang ${item.gang}`;
    }
  },
  fittings: {
    ring: 'ring',
    extension: 'extension',
    'raised-cover': 'raised cover',
    stud: 'stud',
    hickey: 'hickey',
    'terminal-block': 'terminal block',
  },
});

/** The titles of steps. */
export const englishTitles = (t: TermOf): Titles => ({
  ofCircuits: (numbers) =>
    numbers.length === 1
      ? ` of ${t('circuit')} ${numbers[0]}`
      : ` of ${t('circuits')} ${listed(numbers)}, which share it`,
  part: ', one part',
  fromLoad: ' from LOAD, protected',
  toLine: ' to LINE',
  groundsToBar: `all ${t('grounds')} to the bar`,
  grounds: `all ${t('grounds')} together`,
  groundsPart: `${t('grounds')}, one part`,
  traveler: (side, control, isThrough) =>
    `${t('traveler')} ${LETTER[side]} of ${control}${isThrough ? ', straight through' : ''}`,
  neutralUncut: (on) => `${t('neutral')}${on} goes through uncut`,
  neutralCap: (on) => `cap the ${t('neutral')}${on}, left long`,
  neutrals: (rest) => `${t('neutrals')}${rest}`,
  hotCap: (on) => `cap the ${t('hot')}${on}`,
  hot: (rest) => `${t('hot')}${rest}`,
  interconnect: (on) => `alarm ${t('interconnect')}${on}`,
  commons: (control) => `commons of ${control}`,
  leg: (control, part) => `${t('leg')}: ${control}${part}`,
  sparesSpliced: `${t('spares')} left spliced to each other`,
  spareCap: (colour, far) => `cap ${t('spare')} ${colour} of the cable to ${far}`,
  notDerived: (colour, far) => `${colour} of the cable to ${far}: not worked out yet`,
  linkUnasked: 'a link that nothing asks for',
});
