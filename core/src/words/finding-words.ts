import { gaugeText } from '../vocabulary/size.js';
import type { FindingCode } from '../findings/facts.js';
import type { FindingOf, Where } from '../findings/finding.js';
import { bundleText } from '../rulebook/connectors.js';
import type { Say } from './say.js';
import { counted, listed } from './sentence.js';

/** What a sentence is made of: the facts of a finding, and where it is. */
type Told<C extends FindingCode> = Pick<FindingOf<C>, 'facts'> & { readonly where: Where };
type Sentences = { readonly [C in FindingCode]: (say: Say, told: Told<C>) => string };

/** What a white that is marked is. */
const isWords = (say: Say, role: string): string =>
  role === 'hot'
    ? `it is ${say.term('hot')}`
    : role === 'traveler'
      ? `it is a ${say.term('traveler')}`
      : role === 'leg'
        ? `it is a ${say.term('switch leg')}`
        : `it is ${role}`;

const article = (name: string): string => `${/^[aeiou]/i.test(name) ? 'an' : 'a'} ${name}`;

/** The sentence of every kind of finding: the only place where it is written. */
export const FINDING_WORDS: Sentences = {
  'box.fan-could-hang': (say, { facts }) =>
    `${say.boxes(facts.boxIds)}: a fan could hang here later. From 2020 on the ceiling box of a habitable room is made for one, or opens to framing that can carry one. Ask the inspector.`,
  'box.not-for-fan': (say, { facts, where }) =>
    facts.duty === 'fan'
      ? `A fan hangs on ${say.box(where.boxId)}, which is not made for one.`
      : `Spare conductors that can be switched by themselves come to ${say.box(where.boxId)}, where a fan could hang: the box has to be made for one.`,
  'box.reopen': (say, { facts, where }) => {
    const tag = say.box(where.boxId);
    if ('places' in facts)
      return `${tag} was made another way in ${facts.places} places. Reopen it once and make them all again.`;
    const joint = ({ ends, landings, signal }: (typeof facts)['undo']): string =>
      `${say.members(where.boxId, ends, landings)}${signal ? ` (${say.signals([signal])})` : ''}`;
    return `Reopen ${tag}. Undo: ${joint(facts.undo)}. Make instead: ${facts.make.length ? facts.make.map(joint).join('; ') : 'nothing, cap it'}.`;
  },
  'breaker.above-nameplate': (say, { facts, where }) =>
    `${say.circuit(where.circuitId)}: the nameplate allows a ${say.term('breaker')} of ${facts.mocp} A at most.`,
  'breaker.two-runs': (say, { facts, where }) =>
    `${facts.count} cables of ${say.circuit(where.circuitId)} come to the ${say.term('panel')}. Its ${say.term('breaker')} takes one wire unless it is marked for two; else splice them in the ${say.term('panel')} and bring one wire to the ${say.term('breaker')}. Each ${say.term('neutral')} has a hole of its own on the bar (${say.source({ section: 'oneNeutralPerHole' })}).`,
  'circuit.breaker-unknown': (say, { facts, where }) =>
    `${say.circuit(where.circuitId)}: the rulebook has no wire for a ${say.term('breaker')} of ${facts.amps} A.`,
  'circuit.no-home-run': (say, { where }) =>
    `${say.circuit(where.circuitId)} has no ${say.term('home run')}: none of its runs comes from the ${say.term('panel')}.`,
  'circuit.number-twice': (say, { facts, where }) =>
    `${facts.circuitIds.length} ${say.term('circuits')} of ${say.box(where.boxId)} have number ${facts.number} (${facts.circuitIds.map((id) => say.circuit(id)).join(', ')}). Whoever turns ${say.term('breaker')} ${facts.number} off must know which it is.`,
  'control.240-volt': (say, { where }) =>
    `Control ${say.control(where.controlId)} is on a ${say.volts(2)} ${say.term('circuit')}: switching both its ${say.term('hots')} is not a matter of a switch box.`,
  'control.no-load': (say, { where }) =>
    `Control ${say.control(where.controlId)} switches nothing. Say what it switches.`,
  'control.no-place': (say, { where }) =>
    `Control ${say.control(where.controlId)} has no switch. Say what switches it.`,
  'control.not-a-switch': (say, { where }) =>
    `Control ${say.control(where.controlId)}: a switch is expected among its places.`,
  'control.order-not-proven': (say, { where }) =>
    `The order of the switches of ${say.control(where.controlId)} is the best that was found, not proven to be the best there is.`,
  'control.pinned-wrong': (say, { where }) =>
    `Control ${say.control(where.controlId)}: its pinned order does not name exactly its switches. Pin it again, or let it be derived.`,
  'control.point-twice': (say, { where }) =>
    `Control ${say.control(where.controlId)} names a switch or a load twice. It is counted once.`,
  'control.shared-point': (say, { where }) =>
    `Control ${say.control(where.controlId)} shares a switch or a load with another control. Give each point to one control.`,
  'control.switch-as-load': (say, { where }) =>
    `Control ${say.control(where.controlId)}: a switch cannot be a load.`,
  'control.switch-without': (say, { where }) =>
    `A switch in ${say.box(where.boxId)} switches nothing yet. Say what it controls.`,
  'control.two-circuits': (say, { facts, where }) =>
    `Control ${say.control(where.controlId)} lies on ${listed(
      facts.circuitIds.map((id) => say.circuit(id)),
      ' and on ',
    )}. Put its switches and its loads on one ${say.term('circuit')}.`,
  'control.unreached': (say, { facts, where }) =>
    `Control ${say.control(where.controlId)}: power from ${say.circuit(facts.circuitId)} does not reach all of its points yet.`,
  'device.cannot-serve': (say, { facts, where }) =>
    `${say.device(where.deviceId)} in ${say.box(where.boxId)} stands where ${say.control(where.controlId)} needs a ${facts.kind}: its kind is made as ${facts.serves.join(' or ')}.`,
  'device.wrong-voltage': (say, { facts, where }) =>
    `${say.device(where.deviceId)} in ${say.box(where.boxId)} wants ${say.volts(facts.hots)}; ${say.circuit(where.circuitId)} has ${facts.hots === 2 ? 'one pole' : 'two poles'}.`,
  'fill.too-full': (say, { facts, where }) =>
    `${say.box(where.boxId)} is too full by ${say.units.volume(facts.overIn3)}.`,
  'gang.none-such': (say, { facts, where }) =>
    `${say.box(where.boxId)} has ${counted(facts.has, 'gang')}; its devices take ${facts.takes}.`,
  'gang.taken-twice': (say, { facts, where }) =>
    `Two devices of ${say.box(where.boxId)} are at gang ${facts.gang}.`,
  'gfci.crossed': (say, { facts }) => {
    const device = `the ${say.term('GFCI')} ${say.term('receptacle')} in ${say.box(facts.deviceBoxId)}`;
    const reason =
      facts.why === 'control'
        ? `A control reaches across ${device}`
        : `${say.term('circuits')} that share a ${say.term('neutral')} go on together past ${device}`;
    return facts.askedIn.length
      ? `${reason}: ${say.boxes(facts.askedIn)} ${facts.askedIn.length === 1 ? 'is' : 'are'} fed past it and not protected, where the room asks for it. Put a ${say.term('GFCI')} ${say.term('receptacle')} there, or a ${say.term('GFCI')} ${say.term('breaker')} on the ${say.term('circuit')}.`
      : `${reason}: what is fed on to its side is ${say.term('pigtail')}ed past the ${say.term('receptacle')}, not protected by it.`;
  },
  'made.conductor-twice': (say, { facts, where }) =>
    `${say.box(where.boxId)}: conductor ${facts.conductor} is recorded in two joints. The first one counts.`,
  'made.connector-misfit': (say, { facts, where }) =>
    `${say.box(where.boxId)}: the ${say.connector(facts.connectorId)} that is recorded does not take ${bundleText(facts.bundle)}; ${
      facts.instead
        ? `${article(say.connector(facts.instead))} does`
        : 'no connector of the table does: make two splices'
    }.`,
  'made.unknown-conductor': (say, { facts, where }) =>
    `${say.box(where.boxId)}: a joint names conductor ${facts.conductor}, which no cable here has. It is left out.`,
  'made.unknown-terminal': (say, { facts, where }) =>
    `${say.box(where.boxId)}: a joint names ${facts.conductor}, which nothing here has. It is left out.`,
  'made.white-unmarked': (say, { facts, where }) =>
    `${say.box(where.boxId)}: a white is not marked, and ${isWords(say, facts.is)}. Mark it all round in black or red ${say.term('tape')}: the next hand takes it for ${say.term('neutral')}.`,
  'makeup.no-connector': (say, { facts, where }) =>
    `${say.box(where.boxId)}, ${say.jointTitle(facts.title)}: no connector of the table takes so many. Open it and make two splices with a link between them.`,
  'multiwire.same-leg': (say, { facts }) =>
    `${say.circuits(facts.circuitIds)} share a ${say.term('neutral')} and stand on the same leg of the ${say.term('panel')}: the ${say.term('neutral')} carries both. Move one ${say.term('breaker')} by a row.`,
  'multiwire.too-many': (say, { facts }) =>
    `${say.circuits(facts.circuitIds)} share one ${say.term('neutral')}. The service has two legs: only two ${say.term('hots')} can share a ${say.term('neutral')}, one on each; the third adds to its current. Give one a ${say.term('neutral')} of its own.`,
  'neutral.missing-at-switch': (say, { facts, where }) =>
    `No ${say.term('neutral')} reaches the switch of ${say.control(where.controlId)} in ${say.box(where.boxId)}: ${facts.runIds.map((id) => say.run(id)).join(', ')} ${facts.runIds.length === 1 ? 'has' : 'have'} no conductor left for it.`,
  'panel.not-derived': (say, { where }) =>
    `${say.circuit(where.circuitId)} ends in ${say.term('panel')} ${say.box(where.boxId)}. A ${say.term('panel')} is fed by a ${say.term('circuit')} of two poles; this one is not derived there.`,
  'point.circuit-unsaid': (say, { facts, where }) =>
    `${say.box(where.boxId)} holds ${say.circuits(facts.circuitIds)}. Say which of them ${say.device(where.deviceId).toLowerCase()} (gang ${say.gangOf(where.deviceId)}) is on.`,
  'proof.always-on-is-not': (say, { facts }) =>
    `${say.load(facts.load)} should always be on; it is dead${facts.inPosition ? ' in this position' : ''}.`,
  'proof.circuits-joined': (say, { facts, where }) => {
    const [one, other] = facts.circuitIds.map((id) => say.circuit(id));
    if (facts.what === 'load')
      return `The ${say.term('neutral')} of ${say.load(facts.load)} is that of ${one}, not of ${other}: current returns on the wrong one.`;
    const at = where.boxId ? ` in ${say.box(where.boxId)}` : '';
    return facts.what === 'neutrals'
      ? `The ${say.term('neutrals')} of ${one} and ${other} are joined${at}: current returns on the wrong one.`
      : `The ${say.term('hots')} of ${one} and ${other} are joined${at}: opening one ${say.term('breaker')} leaves it live.`;
  },
  'proof.does-not-follow': (say, { facts, where }) => {
    const load = say.load(facts.load);
    switch (facts.how) {
      case 'stays':
        return `${load} does not follow the switch in ${say.box(facts.switchBoxId)} in this position: it stays ${facts.isOn ? 'on' : 'off'}.`;
      case 'changes':
        return `${load} changes with a switch in ${say.box(facts.switchBoxId)} that is not to switch it.`;
      case 'apart':
        return `${load} has nothing to do with a switch of ${say.control(where.controlId)}: they are not joined.`;
    }
  },
  'proof.feeder': (say, { facts, where }) =>
    facts.lacks === 'neutral'
      ? `The ${say.term('neutral')} of ${say.circuit(facts.circuitId)} does not reach the ${say.term('neutral')} bar of ${say.box(where.boxId)}.`
      : `${say.circuit(facts.circuitId)} does not bring two ${say.term('hots')} to ${say.box(where.boxId)}.`,
  'proof.interconnect': (say, { facts, where }) =>
    facts.touches
      ? `The ${say.term('interconnect')} of the alarm in ${say.box(where.boxId)} is joined with something else: one alarm cannot wake the others, or is destroyed.`
      : `The ${say.term('interconnect')} does not join the alarm in ${say.box(where.boxId)} with the others: it does not sound when they do.`,
  'proof.load-on-line': (say, { facts, where }) =>
    facts.isBackwards
      ? `The ${say.term('GFCI')} device in ${say.box(where.boxId)} is fed on its LOAD side: it protects nothing and cannot be reset.`
      : `LOAD of the ${say.term('GFCI')} device in ${say.box(where.boxId)} is joined with LINE: what lies beyond is not protected, or it trips at once.`,
  'proof.neutral-broken': (say, { facts }) =>
    `No ${say.term('neutral')} comes back from ${say.load(facts.load)}: a splice is missing.`,
  'proof.neutral-grounded': (say, { where }) =>
    `${say.term('neutral')} and ${say.term('ground')} touch in ${say.box(where.boxId)}: part of the current comes back on the bare wires, and a ${say.term('GFCI')} or ${say.term('AFCI')} ${say.term('breaker')} trips.`,
  'proof.neutral-on-bar': (say, { facts }) =>
    facts.watched
      ? `The ${say.term('neutral')} of ${say.circuit(facts.circuitId)} does not land on its own ${say.term('breaker')} (${facts.watched.toUpperCase()}): the ${say.term('breaker')} trips as soon as something is on.`
      : `The ${say.term('neutral')} of ${say.circuit(facts.circuitId)} lands on the ${say.term('breaker')} of ${say.circuit(facts.landsOn)}: that ${say.term('breaker')} trips.`,
  'proof.no-ground': (say, { where }) =>
    where.deviceId
      ? `${say.term('ground')} does not reach a device in ${say.box(where.boxId)}.`
      : `Metal box ${say.box(where.boxId)} is not bonded to ${say.term('ground')}.`,
  'proof.off-position': (say, { where }) =>
    `${say.control(where.controlId)} is on with all levers down. Turn one ${say.term('three-way')} over, or swap its ${say.term('travelers')}, if the house wants down to be off.`,
  'proof.other-breaker': (say, { facts }) =>
    `${say.load(facts.load)} is of ${say.circuit(facts.own)} and hangs on the ${say.term('breaker')} of ${say.circuit(facts.other)}: with its own ${say.term('breaker')} off it is live.`,
  'proof.series': (say, { facts }) =>
    facts.state === 'dim'
      ? `${say.load(facts.load)} is in series with another load: ${facts.volts.toFixed(0)} V instead of ${facts.rated}.`
      : `${say.load(facts.load)} gets ${facts.volts.toFixed(0)} V instead of ${facts.rated}: its ${say.term('neutral')} is open or missing.`,
  'proof.short': (say, { facts, where }) =>
    `The ${say.term('breaker')} trips: ${say.short(facts.short)} (${say.box(where.boxId)}).`,
  'proof.spare-joined': (say, { where }) =>
    `A ${say.term('spare')} conductor in ${say.box(where.boxId)} is joined to something.`,
  'proof.switched-neutral': (say, { facts }) =>
    `The switch of ${say.load(facts.load)} opens its ${say.term('neutral')}: it is off but live.`,
  'proof.unbalanced': (say, { facts, where }) =>
    `The currents in ${say.run(where.runId)} do not cancel (${facts.amps.toFixed(facts.amps < 0.05 ? 3 : 1)} A left over): ${say.term('hot')} and ${say.term('neutral')} go different ways.${facts.more ? ` So in ${facts.more} more.` : ''}`,
  'proof.white-unmarked': (say, { where }) =>
    `A white of ${say.run(where.runId)} is ${say.term('hot')} in ${say.box(where.boxId)} and not marked: the next hand takes it for ${say.term('neutral')}.`,
  'raceway.cannot-count': (say, { facts, where }) =>
    `${say.run(where.runId)}: the rulebook has no area for one of its wires (${facts.gauges.map(gaugeText).join(', ')}), so its fill cannot be counted.`,
  'raceway.no-size': (say, { where }) =>
    `${say.run(where.runId)}: say the trade size of the ${say.term('raceway')}, so that its fill can be counted.`,
  'raceway.too-full': (say, { facts, where }) =>
    `${say.run(where.runId)}: ${facts.wires} wires fill ${facts.tradeSize} in EMT beyond ${facts.percent} %.`,
  'rule.loosened': (say, { facts }) =>
    `House rule “${say.rule(facts.key)}” is less strict than the code edition. Reason given: ${facts.reason}`,
  'rule.loosened-without-reason': (say, { facts }) =>
    `House rule “${say.rule(facts.key)}” is less strict than the code edition and no reason is written down.`,
  'run.circuits-apart': (say, { facts, where }) =>
    `${say.run(where.runId)} carries ${say.circuits(facts.circuitIds)}, which share no ${say.term('neutral')}. Give them one ${say.term('neutral')} group and a ${say.term('common disconnect')}, or a run each.`,
  'run.loose-end': (say, { where }) =>
    `${say.run(where.runId)} ends loose. Say which box it goes to, or what hangs there; until then its conductors are left open.`,
  'run.no-cable': (say, { facts, where }) =>
    `${say.run(where.runId)} has no cable yet.${facts.needed ? ` It needs ${facts.needed}.` : ''}`,
  'run.no-circuit': (say, { where }) =>
    `${say.run(where.runId)} belongs to no ${say.term('circuit')}. Say which one.`,
  'run.no-one-cable': (say, { facts, where }) =>
    `${say.run(where.runId)} has no cable yet, and no one cable has the ${facts.count} conductors that it needs. Run two side by side, each with a complete set of its own, or ${say.term('raceway')}.`,
  'slot.none-such': (say, { facts, where }) =>
    `${say.box(where.boxId)} has ${facts.slots} slots; a cable is entered at slot ${facts.slot}.`,
  'slot.too-many': (say, { facts, where }) =>
    `Slot ${facts.slot} of ${say.box(where.boxId)} has ${facts.count} cables; it takes ${facts.limit}.`,
  'wire.too-thin': (say, { facts, where }) =>
    `${say.run(where.runId)}: ${gaugeText(facts.thinnest)} ${facts.isIn ? 'is in' : 'is planned'} ${
      facts.mca === undefined
        ? `on the ${facts.amps} A ${say.term('breaker')}`
        : `for the ${facts.mca} A of the nameplate`
    } of ${say.circuit(where.circuitId)}. It needs ${gaugeText(facts.least)} or thicker.`,
  'wiring.cut-off': (say, { facts, where }) =>
    `${say.boxes(facts.boxIds)} hang together on ${say.circuit(where.circuitId)} but nothing joins them to the ${say.term('panel')}: a ${say.term('jumper')} is missing.`,
  'wiring.loop': (say, { where }) =>
    `${say.run(where.runId)} closes a loop on ${say.circuit(where.circuitId)}: both its ends are already fed. Take it out, or change which boxes it joins. Its conductors are left open.`,
  'wiring.too-few-conductors': (say, { facts, where }) => {
    const { has, needed } = facts;
    const there =
      'cable' in has
        ? `${has.cable} is ${has.isIn ? 'in the wall' : 'planned'} and has`
        : has.usable === has.wires
          ? `${has.wires} wires are in it and there is`
          : `${has.usable} of its ${has.wires} wires are said to be of this ${say.term('circuit')} and there is`;
    const needs = needed
      ? ` It needs ${needed}.`
      : 'cable' in has
        ? ' No one cable has so many: a second run is needed.'
        : '';
    return `${say.run(where.runId)} must carry ${say.signals(facts.wanted)}; ${there} no conductor for ${say.signals(facts.missing)}.${needs}`;
  },
  'wiring.unreached': (say, { facts, where }) =>
    where.circuitId
      ? `Nothing of ${say.circuit(where.circuitId)} reaches ${say.box(where.boxId)} from the ${say.term('panel')}: a ${say.term('jumper')} or a ${say.term('home run')} is missing.`
      : `No run reaches ${say.box(where.boxId)}: ${say.deviceType(facts.catalogueId).toLowerCase()} has no power.`,
  'yoke.two-circuits': (say, { facts, where }) =>
    `Gang ${facts.gang} of ${say.box(where.boxId)} has ${say.circuits(facts.circuitIds)} on one yoke. Break the tab between its sides; their ${say.term('breaker')}s need a ${say.term('common disconnect')}.`,
};
