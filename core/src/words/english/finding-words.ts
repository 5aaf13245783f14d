import { gaugeText } from '../../vocabulary/size.js';
import { bundleText } from '../../rulebook/connectors.js';
import type { BandKind } from '../../vocabulary/kinds.js';
import type { FindingWords } from '../language/language.js';
import { counted, listed } from '../language/sentence.js';
import { markWith, markedWhite } from './marked-white.js';
import { WALK_WORDS } from './walk-words.js';

const article = (name: string): string => `${/^[aeiou]/i.test(name) ? 'an' : 'a'} ${name}`;

/** What a box stands in. */
const THING: Readonly<Record<'doorway' | 'window' | BandKind, string>> = {
  doorway: 'a doorway',
  window: 'a window',
  cabinet: 'a cabinet',
  counter: 'a counter',
  island: 'an island',
  peninsula: 'a peninsula',
  vanity: 'a vanity',
  basin: 'a basin',
  mirror: 'a mirror',
  tub: 'a tub',
  shower: 'a shower',
  trim: 'trim',
  fireplace: 'a fireplace',
};

/** Letters that three lines of a phone hold. */
const THREE_LINES = 115;

/** What to do first, and why. */
export const ENGLISH_FINDINGS: FindingWords = {
  'box.buried': (say, { where }) => [
    `Find ${say.box(where.boxId)} and open the board there: what is in a box must stay in reach.`,
    'Its photo and its tape measure stand in After the board.',
  ],
  'box.face': (say, { facts, where }) =>
    facts.isBehind
      ? `Set ${say.box(where.boxId)} out ${say.units.short(facts.finishIn)} from the studs, or put a ring on it: its front would be too far behind the finish.`
      : `Set ${say.box(where.boxId)} back to ${say.units.short(facts.finishIn)} from the studs: it stands out in front of the finish, and no plate lies flat.`,
  'box.low-voltage': (say, { facts, where }) =>
    `Give ${facts.runIds.length === 1 ? 'the low-voltage cable' : `the ${facts.runIds.length} low-voltage cables`} in ${say.box(where.boxId)} a box of ${facts.runIds.length === 1 ? 'its' : 'their'} own, or a barrier: power is in it.`,
  'box.splice-without': (say, { facts, where }) =>
    `Set a box at ${say.box(where.boxId)}: ${facts.count} cables come together there, and a splice is in a box.`,
  'box.fan-could-hang': (say, { facts }) => [
    `Ask the inspector about ${say.boxes(facts.boxIds)}: a fan could hang there later, and the box is not made for one.`,
    'From 2020 on the ceiling box of a habitable room where a fan could hang is made for one, or opens to framing that can carry one.',
  ],
  'box.not-for-fan': (say, { facts, where }) =>
    facts.duty === 'fan'
      ? `Set a fan-rated box at ${say.box(where.boxId)}: a fan hangs on it, and it is not made for one.`
      : `Set a fan-rated box at ${say.box(where.boxId)}: spare switched conductors come to it, so a fan could hang there.`,
  'box.reopen': (say, { facts, where }) => {
    const tag = say.box(where.boxId);
    if ('places' in facts)
      return `Reopen ${tag}: ${facts.places} joints in it were made another way. Make them up again.`;
    const joint = ({ ends, landings, signal }: (typeof facts)['undo']): string =>
      `${say.members(where.boxId, ends, landings)}${signal ? ` (${say.signals([signal])})` : ''}`;
    const make = `Make instead: ${facts.make.length ? facts.make.map(joint).join('; ') : 'nothing, cap it'}.`;
    const undo = `Reopen ${tag} and undo ${joint(facts.undo)}.`;
    return undo.length + make.length > THREE_LINES ? [undo, make] : `${undo} ${make}`;
  },
  'breaker.above-nameplate': (say, { facts, where }) =>
    `Put a ${say.term('breaker')} of ${facts.mocp} A at most on ${say.circuit(where.circuitId)}: its nameplate allows no more.`,
  'breaker.two-runs': (say, { facts, where }) => [
    `Splice the ${facts.count} cables of ${say.circuit(where.circuitId)} in the ${say.term('panel')}: its ${say.term('breaker')} takes one wire unless it is marked for two.`,
    `Bring one wire from the splice to the ${say.term('breaker')}. Each ${say.term('neutral')} has a hole of its own on the bar (${say.source({ section: 'oneNeutralPerHole' })}).`,
  ],
  'circuit.too-many-outlets': (say, { facts, where }) =>
    `Put ${counted(facts.count - facts.limit, 'outlet', 'outlets')} of ${say.circuit(where.circuitId)} on another circuit: it has ${facts.count}, ${facts.limit} may be on it.`,
  'circuit.breaker-unknown': (say, { facts, where }) =>
    `Check the ${say.term('breaker')} of ${say.circuit(where.circuitId)}: the rulebook has no wire for ${facts.amps} A.`,
  'circuit.no-home-run': (say, { where }) =>
    `Pull a ${say.term('home run')} for ${say.circuit(where.circuitId)}: none of its runs comes from the ${say.term('panel')}.`,
  'circuit.number-twice': (say, { facts, where }) => [
    `Renumber: ${facts.circuitIds.length} ${say.term('circuits')} of ${say.box(where.boxId)} have number ${facts.number}. Whoever turns it off must know which it is.`,
    `${listed(facts.circuitIds.map((id) => say.circuit(id)))}.`,
  ],
  'control.240-volt': (say, { where }) =>
    `Take ${say.control(where.controlId)} off its ${say.volts(2)} ${say.term('circuit')}: switching both ${say.term('hots')} is not a matter of a switch box.`,
  'control.no-load': (say, { where }) => `Say what ${say.control(where.controlId)} switches: nothing yet.`,
  'control.no-place': (say, { where }) =>
    `Say what switches ${say.control(where.controlId)}: no switch location yet.`,
  'control.not-a-switch': (say, { where }) =>
    `Name only switches as the switch locations of ${say.control(where.controlId)}.`,
  'control.order-not-proven': (say, { where }) =>
    `The order of the switches of ${say.control(where.controlId)} is the best that was found, not proven the best there is.`,
  'control.pinned-wrong': (say, { where }) =>
    `Lock the order of ${say.control(where.controlId)} again, or let it be worked out: what is locked is not exactly its switches.`,
  'control.point-twice': (say, { where }) =>
    `Name each switch and light of ${say.control(where.controlId)} once: one is named twice, and counted once.`,
  'control.shared-point': (say, { where }) =>
    `Give each switch and light to one switching: ${say.control(where.controlId)} shares one with another.`,
  'control.switch-as-load': (say, { where }) =>
    `Take the switch out of what ${say.control(where.controlId)} switches: a switch cannot be switched.`,
  'control.switch-without': (say, { where }) =>
    `Say what the switch in ${say.box(where.boxId)} switches: nothing yet.`,
  'control.two-circuits': (say, { facts, where }) =>
    `Put ${say.control(where.controlId)} on one ${say.term('circuit')}: it lies on ${say.circuits(facts.circuitIds)}.`,
  'control.unreached': (say, { facts, where }) =>
    `Bring power to all of ${say.control(where.controlId)}: ${say.circuit(facts.circuitId)} does not reach every switch and light of it yet.`,
  'device.cannot-serve': (say, { facts, where }) =>
    `Put a ${facts.kind} in ${say.box(where.boxId)}: ${say.control(where.controlId)} needs one, and ${say.device(where.deviceId).toLowerCase()} is made as ${listed(facts.serves, ' or ')}.`,
  'device.wrong-voltage': (say, { facts, where }) =>
    `Put ${say.device(where.deviceId).toLowerCase()} in ${say.box(where.boxId)} on a ${say.volts(facts.hots)} ${say.term('circuit')}: ${say.circuit(where.circuitId)} has ${facts.hots === 2 ? 'one pole' : 'two poles'}.`,
  'fill.too-shallow': (say, { facts, where }) =>
    `Take a deeper box at ${say.box(where.boxId)}: it has ${say.units.short(facts.hasIn)}, what goes in wants ${say.units.short(facts.needsIn)} or more room. No rule counts.`,
  'fill.too-full': (say, { facts, where }) =>
    `Set a larger box at ${say.box(where.boxId)}, or take a cable out: it is too full by ${say.units.volume(facts.overIn3)}.`,
  'box.too-many-cables': (say, { facts, where }) =>
    `Take a cable out of ${say.box(where.boxId)}: ${facts.count} enter, ${facts.limit} are marked on it.`,
  'gang.none-such': (say, { facts, where }) =>
    `Set a wider box at ${say.box(where.boxId)}: it has ${counted(facts.has, 'gang')}, its devices take ${facts.takes}.`,
  'gang.taken-twice': (say, { facts, where }) =>
    `Move a device in ${say.box(where.boxId)}: two are at gang ${facts.gang}.`,
  'gfci.crossed': (say, { facts }) => {
    const device = `the ${say.term('GFCI')} ${say.term('receptacle')} in ${say.box(facts.deviceBoxId)}`;
    const reason =
      facts.why === 'control'
        ? `A switching reaches across ${device}.`
        : `${say.term('circuits')} that share a ${say.term('neutral')} go on together past ${device}.`;
    return facts.askedIn.length
      ? [
          `Put a ${say.term('GFCI')} ${say.term('receptacle')} at ${say.boxes(facts.askedIn)}, or a ${say.term('GFCI')} ${say.term('breaker')} on the ${say.term('circuit')}: ${device} does not protect it.`,
          reason,
        ]
      : [
          `${device} does not protect what goes on from it: that is ${say.term('pigtail')}ed past it.`,
          reason,
        ];
  },
  'layout.far-counter': (say, { facts, where }) =>
    `Set a ${say.term('receptacle')} at the counter of ${say.room(where.roomId)}, wall ${facts.wall}: part of it is too far from one.`,
  'layout.far-wall': (say, { facts, where }) =>
    `Set a ${say.term('receptacle')} in ${say.room(where.roomId)}, wall ${facts.wall}: part of it is too far from one.`,
  'layout.height': (say, { facts, where }) =>
    facts.what === 'ceiling'
      ? `Lower ${say.box(where.boxId)}: it stands above the ceiling.`
      : facts.what === 'switch'
        ? `Lower ${say.box(where.boxId)}: its switch is too high to reach.`
        : `Lower ${say.box(where.boxId)}: so far above its counter it does not serve it.`,
  'layout.in-the-way': (say, { facts, where }) =>
    `Move ${say.box(where.boxId)}: it stands ${facts.what === 'behind-door' ? 'behind an open door' : `in ${THING[facts.what]}`}.`,
  'layout.island': (say, { facts, where }) => {
    const thing = `the ${facts.kind} in ${say.room(where.roomId)}`;
    if (facts.needs === 0)
      return `Bring a way for a ${say.term('receptacle')} to ${thing}: none is asked for, but it must be possible to add one.`;
    if (facts.atEnd)
      return `Set a ${say.term('receptacle')} of ${thing} within 2 ft of its end: none is there.`;
    return `Set ${counted(facts.needs - facts.has, `more ${say.term('receptacle')}`)} at ${thing}: it has ${facts.has} of ${facts.needs}.`;
  },
  'layout.no-light': (say, { facts, where }) =>
    facts.lacks === 'light'
      ? `Set a light and its switch in ${say.room(where.roomId)}: it has none.`
      : facts.lacks === 'switch'
        ? `Set a switch for the light in ${say.room(where.roomId)}: none switches it.`
        : `Set a switch location at each end of ${say.room(where.roomId)}: its light has one.`,
  'layout.no-outlet': (say, { facts, where }) => {
    const [one, room] = [`a ${say.term('receptacle')}`, say.room(where.roomId)];
    switch (facts.what) {
      case 'basin':
        return `Set ${one} beside the basin in ${room}: none is near enough.`;
      case 'foyer-wall':
        return `Set ${one} in ${room}, wall ${facts.needs}: each wall that is long enough has one.`;
      case 'service':
        return `Set ${one} in ${room}: equipment there needs service.`;
      case 'outside':
        return `Set ${one} at the front and at the back of the house: ${facts.has} outside so far.`;
      default:
        return facts.needs > 1
          ? `Set ${counted(facts.needs - facts.has, `more ${say.term('receptacle')}`)} in ${room}: it has ${facts.has} of ${facts.needs}.`
          : `Set ${one} in ${room}: it has none that counts.`;
    }
  },
  'layout.own-circuit': (say, { facts, where }) =>
    facts.what === 'kitchen'
      ? `Put the counter of ${say.room(where.roomId)} on two ${facts.amps} A ${say.term('circuits')} that serve nothing else.`
      : `Put the ${say.term('receptacle')}s of ${say.room(where.roomId)} on a ${facts.amps} A ${say.term('circuit')} that serves nothing else.`,
  'layout.panel': (say, { facts, where }) =>
    facts.why === 'room'
      ? `Hang ${say.term('panel')} ${say.box(where.boxId)} in another room: none may hang in ${say.room(where.roomId)}.`
      : `Keep clear what is in front of ${say.term('panel')} ${say.box(where.boxId)}, or hang it elsewhere: there is not room enough to work.`,
  'layout.protection': (say, { facts, where }) =>
    `Give ${say.circuit(where.circuitId)} ${facts.needs === 'dual' ? `a ${say.term('breaker')} with ${say.term('AFCI')} and ${say.term('GFCI')}` : `${facts.needs === 'afci' ? say.term('AFCI') : say.term('GFCI')} protection`}: it comes to ${listed(facts.roomIds.map((id) => say.room(id)))}.`,
  'layout.same-bay': (say, { facts, where }) =>
    `Move ${say.box(where.boxId)} by a bay: it stands in that of ${say.box(facts.otherBoxId)}.`,
  'layout.switch-order': (say, { where }) =>
    `Change the order of the switches in ${say.box(where.boxId)}: the light first that is wanted first.`,
  'layout.tub': (say, { facts, where }) =>
    `Move ${say.box(where.boxId)} away from the tub or shower: ${facts.what === 'switch' ? 'no switch stands in its space' : facts.what === 'fan' ? 'no fan hangs over it' : `no ${say.term('receptacle')} is so near to it`}.`,
  'made.conductor-twice': (say, { facts, where }) =>
    `Look into ${say.box(where.boxId)}: ${facts.conductor} is recorded in two joints. The first one counts.`,
  'made.connector-misfit': (say, { facts, where }) =>
    facts.instead
      ? `Use ${article(say.connector(facts.instead))} in ${say.box(where.boxId)}: the ${say.connector(facts.connectorId)} that is recorded does not take ${bundleText(facts.bundle)}.`
      : `Make two splices in ${say.box(where.boxId)}: no connector of the table takes ${bundleText(facts.bundle)}.`,
  'made.unknown-conductor': (say, { facts, where }) =>
    `Look into ${say.box(where.boxId)}: a joint is recorded with ${facts.conductor}, which no cable here has. It is left out.`,
  'made.unknown-terminal': (say, { facts, where }) =>
    `Look into ${say.box(where.boxId)}: a joint is recorded with ${facts.conductor}, which nothing here has. It is left out.`,
  'made.white-unmarked': (say, { facts, where }) =>
    `${markWith(say, facts, ` in ${say.box(where.boxId)}`)}: ${markedWhite(say.term, facts.is)}, and the next hand takes it for something else.`,
  'makeup.no-connector': (say, { facts, where }) =>
    `Make two splices with a link in ${say.box(where.boxId)}: no connector of the table takes so many (${say.jointTitle(facts.title)}).`,
  'multiwire.same-leg': (say, { facts }) =>
    `Move one ${say.term('breaker')} by a row: ${say.circuits(facts.circuitIds)} share a ${say.term('neutral')} on the same leg of the ${say.term('panel')}, so it carries both.`,
  'multiwire.too-many': (say, { facts }) => [
    `Give one of ${say.circuits(facts.circuitIds)} a ${say.term('neutral')} of its own: only two ${say.term('hots')} can share one.`,
    'The service has two legs, one for each; the third adds to the current of the neutral.',
  ],
  'neutral.on-ground': (say, { facts, where }) =>
    `Bring a ${say.term('neutral')} to ${counted(facts.count - facts.limit, 'more electronic switch', 'more electronic switches')} of ${facts.of === 'circuit' ? say.circuit(where.circuitId) : say.box(where.boxId)}: ${facts.count} go by the ground, ${facts.limit} may.`,
  'neutral.missing-at-switch': (say, { facts, where }) =>
    `Bring a ${say.term('neutral')} to ${say.control(where.controlId)} in ${say.box(where.boxId)}: ${listed(facts.runIds.map((id) => say.run(id)))} ${facts.runIds.length === 1 ? 'has' : 'have'} no conductor left for it.`,
  'panel.not-derived': (say, { where }) =>
    `Feed ${say.term('panel')} ${say.box(where.boxId)} by a two-pole ${say.term('circuit')}: ${say.circuit(where.circuitId)} is none, and is not worked out there.`,
  'point.circuit-unsaid': (say, { facts, where }) =>
    `Say which ${say.term('circuit')} ${say.device(where.deviceId).toLowerCase()} (gang ${say.gangOf(where.deviceId)}) in ${say.box(where.boxId)} is on: ${say.circuits(facts.circuitIds)} are there.`,
  'proof.always-on-is-not': (say, { facts }) =>
    `${say.load(facts.load)} should always be hot and is dead${facts.inPosition ? ' with the switches so' : ''}.`,
  'proof.circuits-joined': (say, { facts, where }) => {
    const [one, other] = facts.circuitIds.map((id) => say.circuit(id));
    if (facts.what === 'load')
      return `Take the ${say.term('neutral')} of ${say.load(facts.load)} to ${other}: its current returns on ${one}.`;
    const both = say.circuits(facts.circuitIds);
    const at = where.boxId ? ` in ${say.box(where.boxId)}` : '';
    return facts.what === 'neutrals'
      ? `Take the ${say.term('neutrals')} of ${both} apart${at}: they are tied together.`
      : `Take the ${say.term('hots')} of ${both} apart${at}: they are tied together, and one ${say.term('breaker')} off leaves it live.`;
  },
  'proof.does-not-follow': (say, { facts, where }) => {
    const load = say.load(facts.load);
    switch (facts.how) {
      case 'stays':
        return `${load} stays ${facts.isOn ? 'on' : 'off'} when the switch in ${say.box(facts.switchBoxId)} is flipped with the others so.`;
      case 'changes':
        return `${load} changes with a switch in ${say.box(facts.switchBoxId)} that is not to switch it.`;
      case 'apart':
        return `${load} and a switch of ${say.control(where.controlId)} are not joined: it cannot follow.`;
    }
  },
  'proof.feeder': (say, { facts, where }) =>
    facts.lacks === 'neutral'
      ? `Bring the ${say.term('neutral')} of ${say.circuit(facts.circuitId)} to the ${say.term('neutral')} bar of ${say.box(where.boxId)}: it does not reach it.`
      : `Bring two ${say.term('hots')} of ${say.circuit(facts.circuitId)} to ${say.box(where.boxId)}: they do not both come.`,
  'proof.interconnect': (say, { facts, where }) =>
    facts.touches
      ? `Take the ${say.term('interconnect')} of the alarm in ${say.box(where.boxId)} off what else it is tied to: the alarm is destroyed, or cannot wake the others.`
      : `Join the ${say.term('interconnect')} of the alarm in ${say.box(where.boxId)} with the others: it does not sound when they do.`,
  'proof.load-on-line': (say, { facts, where }) =>
    facts.isBackwards
      ? `Turn LINE and LOAD of the ${say.term('GFCI')} device in ${say.box(where.boxId)} round: fed on LOAD it protects nothing and cannot be reset.`
      : `Take LOAD of the ${say.term('GFCI')} device in ${say.box(where.boxId)} off LINE: what lies beyond is not protected, or it trips at once.`,
  'proof.neutral-broken': (say, { facts }) =>
    `No ${say.term('neutral')} comes back from ${say.load(facts.load)}: a splice is missing.`,
  'proof.neutral-grounded': (say, { where }) => [
    `Take ${say.term('neutral')} and ${say.term('ground')} apart in ${say.box(where.boxId)}: they touch.`,
    `Part of the current comes back on the bare wires, and a ${say.term('GFCI')} or ${say.term('AFCI')} ${say.term('breaker')} trips.`,
  ],
  'proof.neutral-on-bar': (say, { facts }) =>
    facts.watched
      ? `Land the ${say.term('neutral')} of ${say.circuit(facts.circuitId)} on its own ${say.term('breaker')} (${facts.watched.toUpperCase()}), or it trips as soon as something is on.`
      : `Land the ${say.term('neutral')} of ${say.circuit(facts.circuitId)} elsewhere: it is on the ${say.term('breaker')} of ${say.circuit(facts.landsOn)}, which trips.`,
  'proof.no-ground': (say, { where }) =>
    where.deviceId
      ? `Bring ${say.term('ground')} to the device in ${say.box(where.boxId)}: none reaches it.`
      : `Bond metal box ${say.box(where.boxId)} to ${say.term('ground')}: nothing does.`,
  'proof.off-position': (say, { where }) =>
    `${say.control(where.controlId)} is on with all switches down. Turn one ${say.term('three-way')} over, or swap its ${say.term('travelers')}, if the house wants down to be off.`,
  'proof.other-breaker': (say, { facts }) => [
    `${say.load(facts.load)} hangs on the ${say.term('breaker')} of ${say.circuit(facts.other)}: with its own off it is live.`,
    `It is of ${say.circuit(facts.own)}.`,
  ],
  'proof.ring-open': (say, { facts, where }) =>
    `Close the ring of ${say.circuit(where.circuitId)} again: its ${say.term(facts.core)} does not come home by both ends. ${where.runId ? `It parts at ${say.run(where.runId)}.` : ''}`,
  'proof.series': (say, { facts }) =>
    facts.state === 'dim'
      ? `${say.load(facts.load)} is in series with another: ${facts.volts.toFixed(0)} V instead of ${facts.rated}.`
      : `${say.load(facts.load)} gets ${facts.volts.toFixed(0)} V instead of ${facts.rated}: its ${say.term('neutral')} is open or missing.`,
  'proof.short': (say, { facts, where }) =>
    `The ${say.term('breaker')} trips: ${say.short(facts.short)}, in ${say.box(where.boxId)}.`,
  'proof.spare-joined': (say, { where }) =>
    `Cap the ${say.term('spare')} in ${say.box(where.boxId)}: it is joined to something.`,
  'proof.switched-neutral': (say, { facts }) =>
    `Put the switch of ${say.load(facts.load)} in the ${say.term('hot')}: it opens the ${say.term('neutral')}, so what is off is live.`,
  'proof.unbalanced': (say, { facts, where }) => [
    `Bring ${say.term('hot')} and ${say.term('neutral')} together: they are in different cables. ${facts.amps.toFixed(facts.amps < 0.05 ? 3 : 1)} A are left over in ${say.run(where.runId)}.`,
    `All conductors of a ${say.term('circuit')} go the same way, or the sheath heats and hums.${facts.more ? ` The same shows in ${counted(facts.more, 'more cable')}.` : ''}`,
  ],
  'proof.white-unmarked': (say, { facts, where }) =>
    `Mark the ${listed(facts.colours.map(say.colour))} of ${say.cableAt(where.runId, where.boxId)} in ${say.box(where.boxId)}: it is ${say.term('hot')}, and the next hand takes it for something else.`,
  'raceway.cannot-count': (say, { facts, where }) =>
    `Count ${say.run(where.runId)} by hand: the rulebook has no area for ${facts.gauges.map(gaugeText).join(', ')}.`,
  'raceway.no-size': (say, { where }) =>
    `Say the trade size of ${say.run(where.runId)}, so that its fill can be counted.`,
  'raceway.too-full': (say, { facts, where }) =>
    `Take wires out of ${say.run(where.runId)}, or a larger ${say.term('raceway')}: ${facts.wires} wires fill ${say.raceway(facts.tradeSize)} beyond ${facts.percent} %.`,
  'rule.loosened': (say, { facts }) =>
    `House rule “${say.rule(facts.key)}” is looser than the code edition. Reason given: ${facts.reason}`,
  'rule.loosened-without-reason': (say, { facts }) =>
    `Write down why house rule “${say.rule(facts.key)}” is looser than the code edition, or go back.`,
  'run.circuits-apart': (say, { facts, where }) => [
    `Give ${say.circuits(facts.circuitIds)} a cable each: both are in ${say.run(where.runId)} and share no ${say.term('neutral')}.`,
    `Or give them one ${say.term('neutral')} group and a ${say.term('common disconnect')}.`,
  ],
  'run.loose-end': (say, { where }) =>
    `Say where ${say.run(where.runId)} goes, or what hangs there: it ends loose, and its conductors are left open.`,
  'run.struck': (say, { facts, where }) => {
    const told = facts.note ? ` (${facts.note})` : '';
    return facts.isCut
      ? `Pull ${say.run(where.runId)} again: another trade cut it${told}.`
      : `Look at ${say.run(where.runId)}: another trade moved it${told}. Staples, edges and plates may no longer be right.`;
  },
  'run.no-cable': (say, { facts, where }) =>
    `Choose a cable ${say.ends(where.runId)}${facts.needed ? `: it needs ${facts.needed}` : ''}.`,
  'run.no-circuit': (say, { where }) =>
    `Say which ${say.term('circuit')} ${say.run(where.runId)} is of: none yet.`,
  'run.no-one-cable': (say, { facts, where }) =>
    `Run two cables side by side for ${say.run(where.runId)}, each with a complete set, or ${say.term('raceway')}: no one cable has ${facts.count} conductors.`,
  'slot.none-such': (say, { facts, where }) =>
    `Say another slot in ${say.box(where.boxId)}: a cable is entered at slot ${facts.slot}, and it has ${facts.slots}.`,
  'slot.too-many': (say, { facts, where }) =>
    `Move a cable in ${say.box(where.boxId)}: slot ${facts.slot} has ${facts.count} and takes ${facts.limit}.`,
  ...WALK_WORDS,
  'way.bored': (say, { facts, where }) =>
    `Go another way with ${say.run(where.runId)}: its hole is ${facts.isLarge ? 'larger than' : 'nearer to the edge than'} a ${facts.through} may ${facts.isLarge ? 'lose' : 'bear'}.`,
  'way.derated': (say, { facts, where }) =>
    `Bore another hole for ${say.run(where.runId)}: ${facts.cables} cables lie in one, in insulation, and carry ${facts.percent} % of 90 °C there, ${facts.amps} A.`,
  'way.none': (say, { facts, where }) =>
    facts.why === 'no-wall'
      ? `Drag ${say.box(where.boxId)} or its other end to a wall: the length of ${say.run(where.runId)} is a guess, one of its boxes stands in no wall.`
      : facts.why === 'no-space'
        ? `Look at both ends of ${say.run(where.runId)}: cable cannot get to one of them, and its length is a guess.`
        : `Measure ${say.run(where.runId)}, or say what may be bored: no way along the framing leads from end to end.`,
  'way.shut': (say, { where }) =>
    `Let ${say.run(where.runId)} through a wall again: there is no way round what is shut out.`,
  'way.unreached': (say, { facts, where }) =>
    `Move ${facts.points === 1 ? 'the point' : 'the points'} that ${say.run(where.runId)} is forced through: cable cannot get there.`,
  'zone.outside': (say, { facts, where }) =>
    `Take ${say.run(where.runId)} into a safe zone: ${say.units.long(facts.lengthIn)} of it are hidden where nobody looks for cable.`,
  'zone.no-rcd': (say, { facts, where }) =>
    `Give ${say.circuit(where.circuitId)} an ${say.term('GFCI')}: its cable is hidden ${facts.anyDepth ? 'in walls with metal in them' : 'less deep than asked'}, ${say.run(where.runId)} first.`,
  'wire.too-thin': (say, { facts, where }) =>
    `${facts.isIn ? 'Pull' : 'Plan'} ${gaugeText(facts.least)} or thicker ${say.ends(where.runId)}: ${gaugeText(facts.thinnest)} is too thin ${
      facts.mca === undefined ? `on ${facts.amps} A` : `for the ${facts.mca} A of the nameplate`
    } of ${say.circuit(where.circuitId)}.`,
  'wiring.cut-off': (say, { facts, where }) =>
    `Pull the missing ${say.term('jumper')} to ${say.boxes(facts.boxIds)}: nothing joins them to the ${say.term('panel')} on ${say.circuit(where.circuitId)}.`,
  'ring.leg-missing': (say, { where }) => [
    `Bring the other end of ${say.circuit(where.circuitId)} home, from ${say.box(where.boxId)}: it is a ring, and only one end is at its ${say.term('breaker')}.`,
    'As it is, half the cable carries all of it.',
  ],
  'ring.bridged': (say, { where }) => [
    `Take out ${say.run(where.runId)}: it bridges the ring of ${say.circuit(where.circuitId)}.`,
    'Neither end would show an open ring any more.',
  ],
  'ring.spur': (say, { facts, where }) =>
    facts.onward
      ? `Bring ${say.box(where.boxId)} into the ring: it hangs on a spur that feeds another already. ${facts.has} on it, ${facts.takes} may be.`
      : `Leave ${facts.takes} of ${facts.has} at ${say.box(where.boxId)}: it hangs on a spur.`,
  'wiring.loop': (say, { where }) => [
    `Take out ${say.run(where.runId)}, or change which boxes it joins: it closes a loop on ${say.circuit(where.circuitId)}.`,
    'Both its ends are already fed; its conductors are left open.',
  ],
  'wiring.too-few-conductors': (say, { facts, where }) => {
    const { has, needed } = facts;
    const there =
      'cable' in has
        ? `${has.cable} is ${has.isIn ? 'in the wall' : 'planned'}`
        : has.usable === has.wires
          ? `it has ${has.wires} wires`
          : `${has.usable} of its ${has.wires} wires are said to be of this ${say.term('circuit')}`;
    const first = needed
      ? `${'cable' in has && has.isIn ? 'Pull' : 'Plan'} ${needed} ${say.ends(where.runId)}`
      : 'cable' in has
        ? `Run a second cable beside ${say.run(where.runId)}`
        : `Draw more wires into ${say.run(where.runId)}`;
    return [
      `${first}: no conductor for ${say.signals(facts.missing)}.`,
      `It must carry ${say.signals(facts.wanted)}; ${there}.`,
    ];
  },
  'wiring.unreached': (say, { facts, where }) =>
    where.circuitId
      ? `Pull a ${say.term('jumper')} or ${say.term('home run')} to ${say.box(where.boxId)}: nothing of ${say.circuit(where.circuitId)} reaches it.`
      : `Pull power to ${say.box(where.boxId)}: no run reaches it, and ${say.deviceType(facts.catalogueId).toLowerCase()} needs it.`,
  'yoke.two-circuits': (say, { facts, where }) => [
    `Break the tab at gang ${facts.gang} of ${say.box(where.boxId)}: ${say.circuits(facts.circuitIds)} are on one ${say.term('yoke')}.`,
    `Their ${say.term('breaker')}s need a ${say.term('common disconnect')}.`,
  ],
};
