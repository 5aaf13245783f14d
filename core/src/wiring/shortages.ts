import type { HouseReader } from '../derive/reader.js';
import { cableIn, conductorsOf, standingPull } from '../house/box-facts.js';
import type { CableId } from '../house/cables.js';
import type { Circuit, Run } from '../house/model.js';
import { boxName, runName } from '../house/naming.js';
import type { Awg, Colour } from '../house/text.js';
import type { Finding, Fix } from '../inspection/finding.js';
import { circuitTree } from './circuit-tree.js';
import type { RacewayPalette } from './conductors.js';
import { paletteColour } from './conductors.js';
import type { TreeNeeds } from './needs.js';
import { needsOn } from './needs.js';
import { NEUTRAL_EXCEPTIONS } from '../rulebook/neutral-rooms.js';
import { signalName } from './signal-names.js';
import type { Signal } from './signal.js';
import { controlOf } from './signal.js';
import type { RunWiring } from './wire-circuit.js';
import { runsOfGroup } from './wiring-group.js';

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

/** Draws the wires that are missing into a raceway, in the house's colours. */
const addWires = (reader: HouseReader, run: Run, missing: readonly Signal[], awg: Awg): Fix => {
  const palette = paletteOf(reader);
  const more = missing.map((signal) => ({ awg, colour: paletteColour(signal, palette) ?? ('BN' as const) }));
  return {
    label: `Draw ${more.map(({ colour }) => `${awg} ${colour}`).join(', ')} into it`,
    change: { kind: 'run.set', recordId: run.id, fields: { wires: [...(run.wires ?? []), ...more] } },
  };
};

/** Plans a cable for a run. */
export const planCable = (run: Run, cable: CableId): Fix => ({
  label: `Plan ${cable} for this run`,
  change: { kind: 'run.set', recordId: run.id, fields: { plannedCable: cable } },
});

/** The run as it is called in a sentence about what it has. */
const has = (reader: HouseReader, run: Run): string =>
  run.kind === 'raceway'
    ? `${conductorsOf(reader, run).filter(({ ground }) => !ground).length} wires are in it and there is`
    : `${cableIn(reader, run)} is ${standingPull(reader, run.id) ? 'in the wall' : 'planned'} and has`;

/** A run that has too few conductors: which signal goes without, and the ways out, the cheapest first. */
export function tooFew(
  reader: HouseReader,
  group: readonly Circuit[],
  needs: TreeNeeds,
  run: Run,
  wanted: readonly Signal[],
  missing: readonly Signal[],
  needed: CableId | undefined,
  gauge: Awg | undefined,
): Finding {
  const pulled = standingPull(reader, run.id) !== undefined;
  const cable = cableIn(reader, run);
  const names = (signals: readonly Signal[]): string =>
    signals.map((signal) => signalName(reader, signal)).join(', ');
  const ways = otherWays(reader, group, needs, run, missing);
  return {
    code: 'wiring.too-few-conductors',
    severity: 'stop',
    where: { circuitId: group[0]!.id, runId: run.id },
    message: `${runName(reader, run)} must carry ${names(wanted)}; ${has(reader, run)} no conductor for ${names(missing)}.${needed ? ` It needs ${needed}.` : run.kind === 'cable' ? ' No one cable has so many: a second run is needed.' : ''}`,
    ...(cable && { measured: cable }),
    ...(needed && { allowed: needed }),
    fixes: [
      ...(needed && !pulled ? [planCable(run, needed)] : []),
      ...(run.kind === 'raceway' && gauge ? [addWires(reader, run, missing, gauge)] : []),
      ...ways,
    ],
  };
}

/** Ways out of a shortage besides another cable: the derived order instead of a pinned one, the feed at the other end. */
function otherWays(
  reader: HouseReader,
  group: readonly Circuit[],
  needs: TreeNeeds,
  run: Run,
  missing: readonly Signal[],
): Fix[] {
  const fixes: Fix[] = [];
  for (const id of new Set(missing.map((signal) => controlOf(signal)))) {
    const control = id ? reader.get('controls', id) : undefined;
    if (control?.pinnedOrder)
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
  if (needsOn(reader, group, turned).missing < needs.missing) {
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
