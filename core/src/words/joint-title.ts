import type { HouseReader } from '../derive/reader.js';
import { farName } from '../facts/naming.js';
import type { JointTitle } from '../findings/facts.js';
import { PLAIN } from './english/plain.js';
import type { Tongue } from './language/language.js';

/** The tag of the box at the other end of a run. */
export const toward = (
  reader: HouseReader,
  boxId: string,
  runId: string,
  { phrases }: Tongue = PLAIN,
): string => {
  const run = reader.get('runs', runId);
  return run ? farName(reader, run, boxId) : phrases.goneCable;
};

/** A joint as the title of its step, its first letter small where it begins with a word. */
export function jointTitle(reader: HouseReader, tongue: Tongue, title: JointTitle): string {
  const { titles, phrases } = tongue;
  const numbers =
    'circuitIds' in title
      ? title.circuitIds.map((id) => String(reader.get('circuits', id)?.number ?? '?'))
      : [];
  const on = numbers.length ? titles.ofCircuits(numbers) : '';
  const part = 'isPart' in title && title.isPart ? titles.part : '';
  const side = 'of' in title ? (title.of === 'load' ? titles.fromLoad : title.of ? titles.toLine : '') : '';
  const control =
    'controlId' in title ? ((title.controlId && reader.get('controls', title.controlId)?.name) ?? '') : '';
  switch (title.code) {
    case 'grounds-to-bar':
      return titles.groundsToBar;
    case 'grounds':
      return part ? titles.groundsPart : titles.grounds;
    case 'traveler':
      return titles.traveler(title.side, control, title.isThrough);
    case 'neutral-uncut':
      return titles.neutralUncut(on);
    case 'neutral-cap':
      return titles.neutralCap(on);
    case 'neutrals':
      return titles.neutrals(`${on}${side}${part}`);
    case 'hot-cap':
      return titles.hotCap(on);
    case 'hot':
      return titles.hot(`${on}${side}${part}`);
    case 'interconnect':
      return titles.interconnect(on);
    case 'commons':
      return titles.commons(control);
    case 'leg':
      return titles.leg(control, part);
    case 'spares-spliced':
      return titles.sparesSpliced;
    case 'spare-cap':
    case 'not-derived': {
      const say = title.code === 'spare-cap' ? titles.spareCap : titles.notDerived;
      return say(phrases.colours[title.colour], toward(reader, title.boxId, title.runId, tongue));
    }
    case 'link-unasked':
      return titles.linkUnasked;
  }
}
