import type { HouseFile } from '../core/src/house/house-file.js';
import { DEVICE_TYPES } from '../core/src/rulebook/catalogue.js';

/**
 * A second opinion on joints, from the joints alone: in each lever position it unites conductors that touch, and looks what
 * every load hangs on. It shares no code with the netlist, the operating or the proof.
 */

/** A joint as far as this looks at it. */
export interface PlainJoint {
  readonly ends: readonly { readonly runId: string; readonly key: string; readonly ground: boolean }[];
  readonly landings: readonly {
    readonly deviceId?: string | undefined;
    readonly terminal: PlainTerminal;
  }[];
}
interface PlainTerminal {
  readonly kind: string;
  readonly side?: string | undefined;
  readonly lever?: number | undefined;
  readonly pair?: number | undefined;
  readonly part?: number | undefined;
  readonly of?: string | undefined;
  readonly pole?: number | undefined;
  readonly link?: string;
  readonly circuitId?: string | undefined;
}

/** A name of its own for each terminal. */
function nameOf({ kind, side, lever, pair, part, of, pole, link }: PlainTerminal): string {
  const number = lever ?? part;
  const tail = number ? ` ${number}` : '';
  if (kind === 'traveler') return `traveler ${side === 'a' ? 'A' : 'B'}${tail}`;
  if (kind === 'pair') return `pair ${pair} ${side === 'a' ? 'A' : 'B'}${tail}`;
  if (kind === 'hot' && pole === 2) return 'hot B';
  if (kind === 'breaker' && pole === 2) return 'breaker, second pole';
  if (kind === 'link') return `link ${link}`;
  return `${of ? `${of} ` : ''}${kind}${tail}`;
}

export type Complaint =
  | 'short'
  | 'other breaker'
  | 'does not follow'
  | 'not always on'
  | 'neutral on ground'
  | 'LOAD on LINE'
  | 'interconnect'
  | 'neutral at the wrong place';

const DEVICES = new Map(DEVICE_TYPES.map((type) => [type.id, type]));

class Classes {
  private readonly up = new Map<string, string>();
  constructor(from?: Classes) {
    if (from) this.up = new Map(from.up);
  }
  of(name: string): string {
    let at = name;
    for (let next = this.up.get(at); next !== undefined; next = this.up.get(at)) at = next;
    return at;
  }
  unite(a: string, b: string): void {
    const [one, other] = [this.of(a), this.of(b)];
    if (one !== other) this.up.set(one, other);
  }
}

/** Positions of so many levers: all of them up to nine; above that none up, each alone, each pair, and all but these. */
function positionsOf(count: number): ((lever: number) => boolean)[] {
  if (count <= 9)
    return Array.from({ length: 1 << count }, (_, mask) => (lever: number) => ((mask >>> lever) & 1) === 1);
  const few: ReadonlySet<number>[] = [new Set()];
  for (let a = 0; a < count; a++) for (let b = a; b < count; b++) few.push(new Set([a, b]));
  return few.flatMap((some) => [(lever: number) => some.has(lever), (lever: number) => !some.has(lever)]);
}

/** What is wrong with these joints, in the positions of the levers that are looked at. */
export function complaints(
  file: HouseFile,
  joints: ReadonlyMap<string, readonly PlainJoint[]>,
): ReadonlySet<Complaint> {
  const found = new Set<Complaint>();
  const still = new Classes();
  const used = new Set<string>();
  const grounds: string[] = [];
  const screw = (deviceId: string, terminal: string): string => `${deviceId}/${terminal}`;
  const groupOf = (circuitId: string): string => {
    const circuit = file.circuits.find(({ id }) => id === circuitId);
    return circuit?.neutralGroup ? `${circuit.panelId}/${circuit.neutralGroup}` : circuitId;
  };
  const hots: { at: string; circuitId: string; volts: number }[] = [];
  const neutrals: { at: string; group: string }[] = [];
  const runCircuits = new Map(file.runs.map(({ id, circuitIds }) => [id, circuitIds]));
  let count = 0;
  for (const [boxId, own] of joints) {
    const isPanel = file.circuits.some(({ panelId }) => panelId === boxId);
    for (const { ends, landings } of own) {
      const here = `joint ${++count}`;
      for (const end of ends) {
        still.unite(here, `wire ${end.runId}/${end.key}`);
        if (end.ground) grounds.push(here);
      }
      for (const { deviceId, terminal: data } of landings) {
        const [terminal, { circuitId }] = [nameOf(data), data];
        if (deviceId) {
          still.unite(here, screw(deviceId, terminal));
          used.add(screw(deviceId, terminal));
          if (terminal === 'ground') grounds.push(here);
        } else if (terminal.startsWith('link ')) still.unite(here, `${boxId}/${terminal}`);
        else if (terminal === 'box-ground') grounds.push(here);
        if (!isPanel || deviceId) continue;
        const first = ends.find(({ ground }) => !ground);
        const of = first ? (runCircuits.get(first.runId) ?? []) : [];
        if (circuitId && (terminal === 'breaker' || terminal === 'breaker, second pole')) {
          const circuit = file.circuits.find(({ id }) => id === circuitId)!;
          const row = circuit.spaces ? Math.floor((circuit.spaces[0]! - 1) / 2) : 0;
          const sign = (row % 2 ? -1 : 1) * (terminal === 'breaker' ? 1 : -1);
          hots.push({ at: here, circuitId, volts: file.rulebook.base.startsWith('gb') ? 230 : 120 * sign });
        }
        if (terminal === 'neutral-bar' || terminal === 'breaker-neutral') {
          const group = groupOf(circuitId ?? of[0] ?? '');
          neutrals.push({ at: here, group });
          const members = file.circuits.filter(({ id }) => of.includes(id));
          const watched = file.circuits.some(
            ({ id, protection }) => of.some((one) => groupOf(one) === groupOf(id)) && protection !== 'none',
          );
          const isRight = watched
            ? circuitId !== undefined && of.some((one) => groupOf(one) === groupOf(circuitId))
            : terminal === 'neutral-bar';
          if (members.length && !isRight) found.add('neutral at the wrong place');
        }
      }
    }
  }
  const circuitsIn = (boxId: string): string[] => [
    ...new Set(
      file.runs
        .filter(({ from, to }) => from.boxId === boxId || to.boxId === boxId)
        .flatMap(({ circuitIds }) => circuitIds),
    ),
  ];
  const levers: { pointId: string; down: [string, string][]; up: [string, string][] }[] = [];
  const loads: {
    pointId: string;
    hot: string;
    back: string;
    circuitId: string;
    places: readonly string[];
  }[] = [];
  const sides: { deviceId: string; pairs: [string, string][] }[] = [];
  const alarms: { circuitId: string; at: string }[] = [];
  for (const device of file.devices) {
    const type = DEVICES.get(device.catalogueId)!;
    const points = file.points.filter(({ deviceId }) => deviceId === device.id);
    const circuitOf = (point: (typeof points)[number]): string | undefined => {
      const there = circuitsIn(device.boxId);
      return point.circuitId ?? (there.length === 1 ? there[0] : undefined);
    };
    const at = (...names: string[]): string | undefined =>
      names.map((name) => screw(device.id, name)).find((name) => used.has(name));
    const own = points.filter(({ role }) => role === 'lever');
    own.forEach((point, index) => {
      const suffix = own.length > 1 ? ` ${index + 1}` : '';
      const t = (name: string): string => screw(device.id, name + suffix);
      const lever = { pointId: point.id, down: [] as [string, string][], up: [] as [string, string][] };
      levers.push(lever);
      if (
        used.has(t('pair 1 A')) ||
        used.has(t('pair 2 A')) ||
        used.has(t('pair 1 B')) ||
        used.has(t('pair 2 B'))
      ) {
        lever.down.push([t('pair 1 A'), t('pair 2 A')], [t('pair 1 B'), t('pair 2 B')]);
        lever.up.push([t('pair 1 A'), t('pair 2 B')], [t('pair 1 B'), t('pair 2 A')]);
      } else if (used.has(t('common')) || used.has(t('traveler A')) || used.has(t('traveler B'))) {
        lever.down.push([t('common'), t('traveler A')]);
        lever.up.push([t('common'), t('traveler B')]);
      } else lever.up.push([at(`supply ${index + 1}`, 'supply') ?? t('supply'), t('leg')]);
    });
    const served = points.filter(({ role }) => role !== 'lever');
    served.forEach((point, index) => {
      const circuitId = circuitOf(point);
      if (!circuitId || type.supply === '240' || type.supply === '120/240') return;
      const control = file.controls.find((one) => one.loads.includes(point.id));
      loads.push({
        pointId: point.id,
        hot: at(`hot ${index + 1}`, 'hot', 'line hot', 'hot 1') ?? 'nowhere',
        back: at(`neutral ${points.indexOf(point) + 1}`, 'neutral', 'line neutral') ?? 'nowhere',
        circuitId,
        places: control?.places ?? [],
      });
      if (point.role === 'alarm') alarms.push({ circuitId, at: screw(device.id, 'interconnect') });
    });
    const pairs = (['hot', 'neutral'] as const).flatMap((side): [string, string][] => {
      const [line, load] = [at(`line ${side}`), at(`load ${side}`)];
      return line && load ? [[line, load]] : [];
    });
    if (pairs.length) sides.push({ deviceId: device.id, pairs });
  }

  // Sides of each feed-through device, by what joins them outside of it.
  for (const device of sides) {
    const outside = new Classes(still);
    for (const other of sides) if (other !== device) for (const [a, b] of other.pairs) outside.unite(a, b);
    const fed = new Set([...hots, ...neutrals].map(({ at }) => outside.of(at)));
    for (const [line, load] of device.pairs)
      if (outside.of(line) === outside.of(load) || fed.has(outside.of(load))) found.add('LOAD on LINE');
  }
  for (const { pairs } of sides) for (const [a, b] of pairs) still.unite(a, b);

  const ground = new Set(grounds.map((one) => still.of(one)));
  for (const { at } of neutrals) if (ground.has(still.of(at))) found.add('neutral on ground');
  for (const { back } of loads)
    if (back !== 'nowhere' && ground.has(still.of(back))) found.add('neutral on ground');

  const groups = new Map<string, string[]>();
  for (const { circuitId, at } of alarms) {
    const name = groupOf(circuitId);
    groups.set(name, [...(groups.get(name) ?? []), at]);
  }
  for (const own of groups.values()) {
    if (own.length < 2) continue;
    const classes = new Set(own.map((at) => (used.has(at) ? still.of(at) : at)));
    const taken = new Set(
      [...hots, ...neutrals]
        .map(({ at }) => still.of(at))
        .concat(
          [...ground],
          loads.flatMap(({ hot, back }) => [still.of(hot), still.of(back)]),
        ),
    );
    if (classes.size > 1 || [...classes].some((one) => taken.has(one))) found.add('interconnect');
  }

  const lit = new Map<string, boolean>();
  for (const isUp of positionsOf(levers.length)) {
    const classes = new Classes(still);
    levers.forEach(({ down, up }, index) => {
      for (const [a, b] of isUp(index) ? up : down) if (used.has(a) && used.has(b)) classes.unite(a, b);
    });
    const tied = new Map<string, number>();
    for (const { at, volts } of [...hots, ...neutrals.map(({ at }) => ({ at, volts: 0 }))]) {
      const known = tied.get(classes.of(at));
      if (known !== undefined && known !== volts) found.add('short');
      tied.set(classes.of(at), volts);
    }
    for (const one of grounds) if ((tied.get(classes.of(one)) ?? 0) !== 0) found.add('short');
    for (const load of loads) {
      const own = hots.filter(({ at }) => classes.of(at) === classes.of(load.hot));
      if (own.some(({ circuitId }) => circuitId !== load.circuitId)) found.add('other breaker');
      const home = neutrals.some(
        ({ at, group }) => classes.of(at) === classes.of(load.back) && group === groupOf(load.circuitId),
      );
      const on = own.length > 0 && home;
      if (load.places.length === 0) {
        if (!on) found.add('not always on');
        continue;
      }
      const thrown = levers.filter(({ pointId }, index) => load.places.includes(pointId) && isUp(index));
      // Each lever of its own turns it over, and no other does: it goes by the parity of its own alone.
      const turned = on !== (thrown.length % 2 === 1);
      const known = lit.get(load.pointId);
      if (known === undefined) lit.set(load.pointId, turned);
      else if (known !== turned) found.add('does not follow');
      if (load.places.some((id) => !levers.some(({ pointId }) => pointId === id)))
        found.add('does not follow');
    }
  }
  return found;
}
