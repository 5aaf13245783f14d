import type { CautionWords, MakeUpWords, TermOf } from '../language/language.js';
import { counted, listed, sentence } from '../language/sentence.js';
import { markWith, markedWhite } from './marked-white.js';

/** The make-up of a box; `t` are the trade words of the country. */
export const englishMakeUp = (t: TermOf): MakeUpWords => ({
  notes: {
    'link-only': () => 'One link from terminal to terminal; no splice.',
    'left-long-looped': (_say, { to }, { landed }) =>
      `Leave it long and loop it unbroken round the screws: ${landed(to)}. No splice.`,
    'landed-then-links': (_say, { to }, { landed }) =>
      `Land it on ${landed(to)}; short links from there to the others. No splice.`,
    'together-in-terminal': (_say, { to }, { landed }) =>
      `All go into ${landed(to)} together, each seen to be held.`,
    'links-on': () => 'Short links from there to the others.',
    'one-loop': () => 'One wire, looped unbroken round the screws from supply to supply.',
    'one-pigtail-and-links': () => `One ${t('pigtail')}; short links from supply to supply.`,
    'clip-back': (say, { lengthIn }) => `Pre-twist, then clip back to ${say.units.short(lengthIn)}.`,
    'other-link-here': () => 'The link from the other splice goes in here too.',
    'longest-is-pigtail': (_say, { to }, { list }) =>
      `Let the longest ${t('ground')} through the hole: it is the first ${t('pigtail')}, to ${list(to)}.`,
    hooks: () => 'Hooks clockwise, half round the screw or more.',
    'own-bar-screw': () =>
      `Each under a screw of its own on the ${t('ground')} bar, or as the ${t('panel')} is marked.`,
    'clamp-straight': () =>
      'A clamp takes the wire straight, no hook: strip as it is marked, and torque as it says.',
    'shared-neutral': (_say, _note, { section }) =>
      `A ${t('neutral')} that ${t('circuits')} share is spliced through with a ${t('pigtail')}, never through the device (${section('neutralWhole')}).`,
    'more-may-join': () => 'More may join here: something in this box is not worked out yet.',
    'mark-white': (say, { is, ...marking }) =>
      `${markWith(say, marking)}, here and wherever it is seen: ${markedWhite(t, is)}.`,
    'travelers-together': () =>
      `Both ${t('travelers')} of a pair lie in one cable; keep this color on this side along the whole chain.`,
    'colour-changes': (say, { side, ends }, { far }) =>
      `${t('traveler')} ${side.toUpperCase()} changes its color in this box: ${ends
        .map(({ colour, runId }) => say.wireTo(colour, far(runId)))
        .join(', ')}.`,
    'leave-loop': (say, { lengthIn }) =>
      `Leave a loop of ${say.units.short(lengthIn)}, so that a later device can be put in.`,
    'capped-both-ends': () => 'Cap it at both ends and note it.',
    'raceway-is-ground': () => `The metal ${t('raceway')} is the ${t('ground')} of this box.`,
    'label-it': (_say, { controlId }, { control }) => `Label it: ${control(controlId) ?? t('leg')}.`,
    'at-its-gang': () => 'Hang it at its gang.',
    'tug-and-fold': () => 'Tug every wire, then fold the splice to the back before the next.',
  },
  from: {
    cable: (colour, far, looped) => `${colour} of the cable to ${far}${looped ? ', looped on' : ''}`,
    other: {
      'loop-from-splice': `loop from the ${t('hot')} splice`,
      'loop-from-screw': 'loop from the screw before',
      'link-from-screw': 'link from the screw before',
      link: 'link from terminal to terminal',
    },
    pigtail: (of) => `${t('pigtail')} of the ${of} splice`,
  },
  seen: { front: 'seen from the front', behind: 'seen from behind' },
  sheetNotes: {
    'seen-from-behind': () =>
      'Seen from behind, as it is wired: gang 1, on the left from the front, is on the right here.',
    'seen-from-front': () => 'Seen from the front: behind the plate left and right change places.',
    'second-empty': () => `Used ${t('single-pole')}: COM and L1, L2 stays empty.`,
    'common-is-odd': () =>
      `The common is the odd-colored screw, the other two are the ${t('travelers')}; where they sit differs by maker.`,
    'four-way-pairs': () =>
      `A ${t('four-way')} has no common. Which screws make a pair differs by maker: follow its sheet.`,
    'break-tab-hot': () => `Break the tab between the two ${t('hot')} screws.`,
    'break-tab-supply': () => 'Break the tab between the two supply screws.',
    'break-tab-neutral': () => `Break the tab between the two ${t('neutral')} screws too.`,
    'line-and-load': () => 'Incoming pair on LINE, onward pair on LOAD; never join the two sides.',
    'needs-neutral': () => `This device needs its ${t('neutral')}.`,
    'hand-tools': (torque) => `Hand tools only; torque as the device marks it (${torque}).`,
  },
  test: {
    singlePole: (supply, leg) => `Join supply (${supply}) and ${leg}: on.`,
    threeWay: (common, traveler, other) =>
      `Join common (${common}) and ${t('traveler')} A (${traveler}); cap ${other}.`,
    fourWay: (a, b, c, d) => `Straight through: join A (${a}) to A (${b}), B (${c}) to B (${d}).`,
  },
  inShort: ({ wires, pigtails, landsOn, strip, connector, marks }) =>
    [
      wires.join('; '),
      pigtails && `${counted(pigtails, t('pigtail'), t('pigtails'))}`,
      landsOn && `on ${landsOn}`,
      strip && `strip ${strip}`,
      connector,
      marks && `mark ${marks === 1 ? 'the white' : `${marks} whites`}`,
    ]
      .filter(Boolean)
      .map((part) => sentence(`${part}.`))
      .join(' '),
  onTo: (landings) => landings.join(', on to '),
  labels: { powerIn: 'power in', on: (far) => `on to ${far}`, to: (far) => `to ${far}` },
});

/** The usual cautions; `t` are the trade words of the country. */
export const englishCaution = (t: TermOf): CautionWords => ({
  atPanel: (power, breakers) => {
    if (power === 'no-service')
      return `No service yet: the ${t('panel')} is not connected. Still look that nobody has brought in temporary power.`;
    const turn = breakers.length
      ? `Turn ${listed(breakers)} OFF and lock or tag ${breakers.length === 1 ? 'it' : 'each'} “crew working, leave off”.`
      : `Turn its ${t('breaker')} OFF and lock or tag it “crew working, leave off”.`;
    return power === 'temporary'
      ? `The house is on temporary power. ${turn} Unplug what feeds the temporary ${t('circuits')}.`
      : turn;
  },
  short: (power, numbers) => {
    if (power === 'no-service') return 'No service yet · prove dead all the same';
    const which = numbers.length
      ? `${t('breaker')} ${listed(numbers.map(String))} OFF`
      : `${t('breaker')} OFF`;
    return `${which}, locked or tagged · proven dead`;
  },
  proveDead:
    'Then prove dead: tester on a known live source, on the work, on the live source again. A non-contact tester alone can miss.',
  who: 'Local code, the inspector and a licensed electrician decide; this sheet only advises.',
  power: {
    'no-service': 'No service',
    temporary: 'Temporary power',
    live: 'Live',
    'not-said': 'Power not said: take it as live',
  },
});
