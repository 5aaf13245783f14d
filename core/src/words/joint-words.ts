import type { HouseReader } from '../derive/reader.js';
import { isGroundBar } from '../wiring/circuit/panel-terminals.js';
import type { BoxJoint } from '../wiring/joints/box-joint.js';
import { PLAIN } from './english/plain.js';
import { landingText } from './landing-text.js';
import type { Tongue } from './language/language.js';

/** What a conductor meets in a box, in words: "lands on common of gang 1", "splice of 3 with pigtails to …", "capped". */
export function jointWords(reader: HouseReader, joint: BoxJoint, tongue: Tongue = PLAIN): string {
  const { phrases } = tongue;
  const terminal = (landing: BoxJoint['landings'][number]): string => {
    const device = landing.deviceId ? reader.get('devices', landing.deviceId) : undefined;
    const name = landingText(reader, landing, tongue);
    return device ? phrases.ofGang(name, device.gang) : name;
  };
  const bar = joint.landings.find(isGroundBar);
  if (bar) return phrases.landsOn(terminal(bar));
  switch (joint.kind) {
    case 'land':
      return phrases.landsOn(terminal(joint.landings[0]!));
    case 'cap':
      return phrases.isCapped;
    case 'uncut':
      return phrases.passesUncut;
    case 'undecided':
      return phrases.undecided;
    case 'splice':
      return phrases.spliceOf(joint.ends.length, joint.landings.map(terminal));
  }
}
