import type { HouseReader } from '../derive/reader.js';
import { circuitsAt } from '../facts/box-facts.js';
import { roomName } from '../facts/naming.js';
import { sentence } from '../words/language/sentence.js';
import { sayingOf } from '../words/say.js';
import { csvOf } from './csv.js';

const HEADINGS = ['Spaces', 'Circuit', 'Name', 'Amps', 'Poles', 'Protection', 'Rooms'];

/**
 * The directory of every panel as CSV (RFC 4180): a line for each breaker, by panel and number, in the trade words of where the house
 * stands.
 */
export function panelDirectoryCsv(reader: HouseReader): string {
  const rooms = new Map<string, Set<string>>();
  for (const { id } of reader.all('boxes'))
    for (const circuitId of circuitsAt(reader, id)) {
      const name = roomName(reader, id);
      if (!name) continue;
      const known = rooms.get(circuitId);
      if (known) known.add(name);
      else rooms.set(circuitId, new Set([name]));
    }
  const circuits = reader.all('circuits').map((circuit) => ({
    ...circuit,
    panel: reader.get('boxes', circuit.panelId)?.tag ?? '',
  }));
  const sorted = circuits.sort((a, b) =>
    a.panel === b.panel ? a.number - b.number : a.panel < b.panel ? -1 : 1,
  );
  const { term } = sayingOf(reader);
  const guards = { none: [], afci: ['AFCI'], gfci: ['GFCI'], dual: ['AFCI', 'GFCI'] } as const;
  return csvOf([
    [sentence(term('panel')), ...HEADINGS],
    ...sorted.map(({ id, panel, spaces, number, name, breakerAmps, poles, protection }) => [
      panel,
      (spaces ?? []).join('+'),
      number,
      name,
      breakerAmps,
      poles,
      guards[protection].map((guard) => term(guard)).join(' + '),
      [...(rooms.get(id) ?? [])].sort().join('; '),
    ]),
  ]);
}
