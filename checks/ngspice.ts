import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { HouseReader } from '../core/src/derive/reader.js';
import { SPICE_CONTACT, spiceText } from '../core/src/exchange/spice.js';
import type { Netlist } from '../core/src/wiring/netlist/netlist.js';

/** What ngspice says of one position of the levers: volts across each load, amperes out of each source. */
export interface SpiceAnswer {
  readonly loads: readonly number[];
  readonly sources: readonly number[];
}

/** A deck that goes through these positions of the levers (1 for each that is up), altering only contacts between them. */
export function spiceDeck(
  reader: HouseReader,
  netlist: Netlist,
  positions: readonly Uint8Array[],
): {
  text: string;
  cards: readonly string[];
  commands: readonly string[];
  asks: readonly string[];
  loads: number;
} {
  const { cards, levers, loads } = spiceText(reader, netlist);
  const sources = cards.flatMap((card) => /^(v\d+) /.exec(card)?.[1] ?? []);
  const asks = [
    ...loads.map(({ hot, back }) => `v(${hot})-v(${back})`),
    ...sources.map((name) => `i(${name})`),
  ];
  const script: string[] = [];
  for (const position of positions) {
    levers.forEach(({ down, up }, index) => {
      const [closed, open] = position[index] ? [up, down] : [down, up];
      for (const name of closed) script.push(`alter ${name} = ${SPICE_CONTACT.closed}`);
      for (const name of open) script.push(`alter ${name} = ${SPICE_CONTACT.open}`);
    });
    script.push('op', ...asks.map((ask) => `print ${ask}`), 'destroy all');
  }
  const lines = ['* netlist', ...cards, '.control', 'set numdgt=9', ...script, 'quit', '.endc', '.end', ''];
  return { text: lines.join('\n'), cards, commands: script, asks, loads: loads.length };
}

/** Operates a netlist in ngspice, an independent simulator, in each of these positions, in one process. */
export function simulate(
  reader: HouseReader,
  netlist: Netlist,
  positions: readonly Uint8Array[],
): SpiceAnswer[] {
  const { text, asks, loads } = spiceDeck(reader, netlist, positions);
  const folder = mkdtempSync(join(tmpdir(), 'mule-tally-spice-'));
  try {
    const deck = join(folder, 'deck.cir');
    writeFileSync(deck, text);
    const output = execFileSync('ngspice', ['-b', deck], {
      encoding: 'utf8',
      stdio: ['ignore', 'pipe', 'ignore'],
      maxBuffer: 1 << 28,
    });
    const values = [...output.matchAll(/^\S.* = (\S+)\s*$/gm)]
      .filter(([line]) => line.startsWith('v(') || line.startsWith('i('))
      .map(([, value]) => Number(value));
    if (values.length !== asks.length * positions.length)
      throw new Error(
        `ngspice answered ${values.length} of ${asks.length * positions.length}: ${output.slice(0, 2000)}`,
      );
    return positions.map((_, index) => {
      const own = values.slice(index * asks.length, (index + 1) * asks.length);
      return { loads: own.slice(0, loads), sources: own.slice(loads) };
    });
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
