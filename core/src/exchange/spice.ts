import type { HouseReader } from '../derive/reader.js';
import { boxName } from '../facts/naming.js';
import type { Netlist } from '../wiring/netlist/netlist.js';

/** Resistances that stand for a closed and an open contact, and what holds a floating node, in ohms. */
const CLOSED = 1e-3;
const OPEN = 1e12;
const BLEEDER = 1e9;

export interface SpiceText {
  /** The circuit, all levers down, without a title line or `.end`. */
  readonly cards: readonly string[];
  /** For each lever, in the order of the netlist: its parameter, and its contacts when down and when up. */
  readonly levers: readonly {
    readonly parameter: string;
    readonly down: readonly string[];
    readonly up: readonly string[];
  }[];
  /** For each load, in the order of the netlist: the nodes whose difference is its voltage. */
  readonly loads: readonly { readonly name: string; readonly hot: string; readonly back: string }[];
}

const word = (text: string): string => text.replace(/[^A-Za-z0-9]+/g, '_').toLowerCase();

/**
 * A netlist in SPICE's terms. Nodes are nets, `0` is what the panel ties to neutral or ground; each source is a DC voltage
 * with its sign for the leg of the service, each load a resistor of its rated watts, each contact of a lever a resistor that
 * its parameter opens and closes, and every node hangs on a bleeder of 1 GΩ so that none floats.
 */
export function spiceText(reader: HouseReader, netlist: Netlist): SpiceText {
  const net = (joint: number | undefined): string | undefined =>
    joint === undefined ? undefined : `n${netlist.joints[joint]!.net}`;
  const cards: string[] = [];
  const seen = new Set<string>();
  let count = 0;
  const source = (node: string, volts: number): void => {
    // Two sources of one voltage on one node are one; through a small resistance two that differ are a short, not an error.
    cards.push(`v${++count} s${count} 0 dc ${volts}`, `rs${count} s${count} ${node} ${CLOSED}`);
  };
  for (const { joint, volts } of netlist.sources) source(net(joint)!, volts);
  for (const joint of netlist.ground) {
    const node = net(joint)!;
    if (!seen.has(node)) source(node, 0);
    seen.add(node);
  }
  netlist.through.forEach(([a, b], index) => cards.push(`rt${index} ${net(a)} ${net(b)} ${CLOSED}`));
  const levers = netlist.levers.map(({ pointId, boxId, down, up }, index) => {
    const gang = reader.get('points', pointId)?.name ?? index;
    const parameter = `lever_${index}_${word(`${boxName(reader, boxId)}_${gang}`)}`;
    cards.push(`.param ${parameter}=0`);
    const contacts = (pairs: readonly (readonly [number, number])[], side: string): string[] =>
      pairs.map(([a, b], at) => {
        const name = `rl${index}${side}${at}`;
        const closed = side === 'u' ? parameter : `(1-${parameter})`;
        cards.push(`${name} ${net(a)} ${net(b)} {${OPEN}-(${OPEN}-${CLOSED})*${closed}}`);
        return name;
      });
    return { parameter, down: contacts(down, 'd'), up: contacts(up, 'u') };
  });
  const loads = netlist.loads.map((load, index) => {
    const name = `rload_${index}_${word(`${boxName(reader, load.boxId)}_${load.role}`)}`;
    const [hot, back] = [net(load.hot) ?? `f${index}h`, net(load.back) ?? `f${index}b`];
    cards.push(`${name} ${hot} ${back} ${load.ohms}`);
    return { name, hot, back };
  });
  const nodes = new Set(loads.flatMap(({ hot, back }) => [hot, back]));
  for (let one = 0; one < netlist.nets; one++) nodes.add(`n${one}`);
  [...nodes].forEach((node, index) => cards.push(`rb${index} ${node} 0 ${BLEEDER}`));
  return { cards, levers, loads };
}

/** A whole SPICE deck that prints the voltage across every load once, for the levers as given in the parameters. */
export function writeSpice(reader: HouseReader, netlist: Netlist, title: string): string {
  const { cards, loads } = spiceText(reader, netlist);
  return [
    `* ${title}`,
    '* levers: 0 is down, 1 is up; loads are named by box and kind',
    ...cards,
    '.control',
    'op',
    ...loads.map(({ hot, back }) => `print v(${hot})-v(${back})`),
    '.endc',
    '.end',
    '',
  ].join('\n');
}

export const SPICE_CONTACT = { closed: CLOSED, open: OPEN };
