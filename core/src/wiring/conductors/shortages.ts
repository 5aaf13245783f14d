import type { HouseReader } from '../../derive/reader.js';
import { cableIn, conductorsOf, standingPull } from '../../facts/box-facts.js';
import type { CableId } from '../../vocabulary/cables.js';
import type { Circuit, Run } from '../../house/model.js';
import { boxName, runName } from '../../facts/naming.js';
import type { Awg, Colour } from '../../vocabulary/text.js';
import type { Finding, Fix } from '../../findings/finding.js';
import { circuitTree } from '../circuit/circuit-tree.js';
import type { RacewayPalette } from './conductors.js';
import { paletteColour } from './conductors.js';
import type { TreeNeeds } from '../needs/needs.js';
import { conductorsFor, needsOn } from '../needs/needs.js';
import { NEUTRAL_EXCEPTIONS } from '../../rulebook/neutral-rooms.js';
import { signalName } from '../circuit/signal-names.js';
import type { Signal } from '../circuit/signal.js';
import { circuitOfHot, controlOf } from '../circuit/signal.js';
import type { RunWiring } from './circuit-wiring.js';
import { runsOfGroup } from '../circuit/wiring-group.js';

/** The colours of single wires in raceway, by the schools of the house. */
export function paletteOf(reader: HouseReader): RacewayPalette {
  const rules = reader.rules();
  const [one, other] = rules.text('raceway.travelerColours').split(' and ') as [Colour, Colour];
  return {
    hot: rules.text('raceway.hotColour') as Colour,
    leg: rules.text('raceway.legColour') as Colour,
    travelers: [one, other],
  };
}

/** Plans a cable for a run. */
export const planCable = (run: Run, cable: CableId): Fix => ({
  label: `Plan ${cable} for this run`,
  change: { kind: 'run.set', recordId: run.id, fields: { plannedCable: cable } },
});

/** A run of a wiring group that has too few conductors. */
export interface Shortage {
  readonly group: readonly Circuit[];
  readonly needs: TreeNeeds;
  readonly run: Run;
  readonly wanted: readonly Signal[];
  readonly missing: readonly Signal[];
  /** The cable that would do; undefined where there is none, and for raceway. */
  readonly needed: CableId | undefined;
  readonly gauge: Awg | undefined;
  /** How many signals would go without on this run if the group were wired that way. */
  readonly lackOf: (tried: TreeNeeds) => number;
}

/** Draws the wires that are missing into a raceway, in the house's colours. */
function addWires(reader: HouseReader, { group, run, missing }: Shortage, awg: Awg): Fix {
  const palette = paletteOf(reader);
  const isShared = run.circuitIds.some((id) => group.every((circuit) => circuit.id !== id));
  const more = missing.map((signal) => ({
    awg,
    colour: paletteColour(signal, palette) ?? ('BN' as const),
    // Where circuits with a neutral each share the raceway, a wire says whose it is.
    ...(isShared && { circuitId: circuitOfHot(signal) ?? group[0]!.id }),
  }));
  return {
    label: `Draw ${more.map(({ colour }) => `${awg} ${colour}`).join(', ')} into it`,
    change: { kind: 'run.set', recordId: run.id, fields: { wires: [...(run.wires ?? []), ...more] } },
  };
}

/** What the run has, as it is called in a sentence. */
function has(reader: HouseReader, { group, run }: Shortage): string {
  if (run.kind !== 'raceway')
    return `${cableIn(reader, run)} is ${standingPull(reader, run.id) ? 'in the wall' : 'planned'} and has`;
  const all = conductorsOf(reader, run).filter(({ ground }) => !ground).length;
  const circuitIds = group.map(({ id }) => id);
  const usable = conductorsFor(reader, run, circuitIds)?.length ?? 0;
  return usable === all
    ? `${all} wires are in it and there is`
    : `${usable} of its ${all} wires are said to be of this circuit and there is`;
}

/** Which signal goes without, and the ways out, the cheapest first. */
export function tooFew(reader: HouseReader, shortage: Shortage): Finding {
  const { group, run, wanted, missing, needed, gauge } = shortage;
  const pulled = standingPull(reader, run.id) !== undefined;
  const cable = cableIn(reader, run);
  const names = (signals: readonly Signal[]): string =>
    signals.map((signal) => signalName(reader, signal)).join(', ');
  const ways = otherWays(reader, shortage);
  return {
    code: 'wiring.too-few-conductors',
    severity: 'stop',
    where: { circuitId: group[0]!.id, runId: run.id },
    message: `${runName(reader, run)} must carry ${names(wanted)}; ${has(reader, shortage)} no conductor for ${names(missing)}.${needed ? ` It needs ${needed}.` : run.kind === 'cable' ? ' No one cable has so many: a second run is needed.' : ''}`,
    ...(cable && { measured: cable }),
    ...(needed && { allowed: needed }),
    fixes: [
      ...(needed && !pulled ? [planCable(run, needed)] : []),
      ...(run.kind === 'raceway' && gauge ? [addWires(reader, shortage, gauge)] : []),
      ...ways,
    ],
  };
}

/** Ways out of a shortage besides another cable: the derived order instead of a pinned one, the feed at the other end. */
function otherWays(reader: HouseReader, { group, needs, run, missing, lackOf }: Shortage): Fix[] {
  const fixes: Fix[] = [];
  /** Whether less is missing in all, and here. */
  const isLess = (tried: TreeNeeds): boolean =>
    tried.missing < needs.missing && lackOf(tried) < missing.length;
  for (const id of new Set(missing.map((signal) => controlOf(signal)))) {
    const control = id ? reader.get('controls', id) : undefined;
    if (control?.pinnedOrder && isLess(needsOn(reader, group, needs.tree, control.id)))
      fixes.push({
        label: `Let the order of “${control.name}” be derived`,
        change: { kind: 'control.set', recordId: control.id, fields: { pinnedOrder: null } },
      });
  }
  const { tree } = needs;
  const child = [...tree.feed].find(([, feed]) => feed.run === run);
  const parent = child?.[1].from;
  const feed = parent && tree.feed.get(parent);
  if (!child || !feed || child[0].includes('#') || parent.includes('#')) return fixes;
  if (standingPull(reader, feed.run.id)) return fixes;
  const far = tree.boxOf.get(child[0])!;
  const other: Run =
    feed.run.from.boxId === parent
      ? { ...feed.run, from: { boxId: far } }
      : { ...feed.run, to: { boxId: far } };
  const turned = circuitTree(
    reader,
    tree.panelId,
    runsOfGroup(reader, group).map((one) => (one === feed.run ? other : one)),
  );
  if (isLess(needsOn(reader, group, turned))) {
    fixes.push({
      label: `Bring the feed to ${boxName(reader, far)} instead of ${boxName(reader, parent)}`,
      change: {
        kind: 'run.set',
        recordId: feed.run.id,
        fields: feed.run.from.boxId === parent ? { from: { boxId: far } } : { to: { boxId: far } },
      },
    });
  }
  return fixes;
}

/** A switch that no neutral reaches although the rule asks for one: cables that would bring it, and reasons to excuse it. */
export function noNeutral(
  reader: HouseReader,
  { duty, place, runs }: TreeNeeds['neutralShort'][number],
  wirings: ReadonlyMap<string, RunWiring>,
): Finding {
  const control = reader.get('controls', duty.controlId)!;
  const cables = runs.flatMap((id): Fix[] => {
    const run = reader.get('runs', id)!;
    const needed = wirings.get(id)?.needed;
    return needed && !standingPull(reader, id)
      ? [{ ...planCable(run, needed), label: `Plan ${needed} for ${runName(reader, run)}` }]
      : [];
  });
  return {
    code: 'neutral.missing-at-switch',
    severity: 'mend',
    where: { circuitId: place.circuitId, boxId: place.boxId, controlId: duty.controlId, runId: runs[0]! },
    message: `No neutral reaches the switch of “${control.name}” in ${boxName(reader, place.boxId)}: ${runs.map((id) => runName(reader, reader.get('runs', id)!)).join(', ')} ${runs.length === 1 ? 'has' : 'have'} no conductor left for it.`,
    source: reader.rules().cite('neutral.atSwitch'),
    fixes: [
      ...cables,
      ...NEUTRAL_EXCEPTIONS.slice(0, 3).map((reason): Fix => ({
        label: `Excuse ${boxName(reader, place.boxId)}: ${reason.charAt(0).toLowerCase()}${reason.slice(1)}`,
        change: { kind: 'box.set', recordId: place.boxId, fields: { neutralException: reason } },
      })),
    ],
  };
}
