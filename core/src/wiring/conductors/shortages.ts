import type { CircuitSupply } from '../../facts/circuit-facts.js';
import type { FindingFacts } from '../../findings/facts.js';
import { setting } from '../../changes/change.js';
import type { HouseReader } from '../../derive/reader.js';
import { cableIn, conductorsOf, standingPull } from '../../facts/box-facts.js';
import type { CableId } from '../../rulebook/cables.js';
import type { Run } from '../../house/model.js';
import type { Gauge } from '../../vocabulary/size.js';
import { sizeOf } from '../../vocabulary/size.js';
import type { Colour } from '../../vocabulary/text.js';
import type { Finding, Fix } from '../../findings/finding.js';
import { isRing } from '../circuit/gauge.js';
import { circuitTree } from '../circuit/circuit-tree.js';
import type { RacewayPalette } from './conductors.js';
import { paletteColour } from './conductors.js';
import type { TreeNeeds } from '../needs/needs.js';
import { conductorsFor } from '../needs/conductors-for.js';
import { needsOn } from '../needs/needs.js';
import type { Signal } from '../../vocabulary/signal.js';
import { circuitOfHot, controlOf, factsOf } from '../../vocabulary/signal.js';
import type { RunWiring } from './circuit-wiring.js';
import { runsOfGroup } from '../circuit/wiring-group.js';

/** The two colours of a pair, by the code of the school. */
const TRAVELER_PAIRS: Readonly<Record<string, readonly [Colour, Colour]>> = {
  'YE-OG': ['YE', 'OG'],
  'BU-VT': ['BU', 'VT'],
  'BN-PK': ['BN', 'PK'],
  'BK-GY': ['BK', 'GY'],
};

/** The colours of single wires in raceway, by the schools of the house. */
export function paletteOf(reader: HouseReader): RacewayPalette {
  const rules = reader.rules();
  return {
    hot: rules.text('raceway.hotColour') as Colour,
    leg: rules.text('raceway.legColour') as Colour,
    travelers: TRAVELER_PAIRS[rules.text('raceway.travelerColours')]!,
  };
}

/** Plans a cable for a run. */
export const planCable = (run: Run, cable: CableId): Fix => ({
  code: 'plan-cable',
  facts: { cable },
  change: setting('runs', run.id, { plannedCable: cable }),
});

/** A run of a wiring group that has too few conductors. */
export interface Shortage {
  readonly group: readonly CircuitSupply[];
  readonly needs: TreeNeeds;
  readonly run: Run;
  readonly wanted: readonly Signal[];
  readonly missing: readonly Signal[];
  /** The cable that would do; undefined where there is none, and for raceway. */
  readonly needed: CableId | undefined;
  readonly gauge: Gauge | undefined;
  /** How many signals would go without on this run if the group were wired that way. */
  readonly lackOf: (tried: TreeNeeds) => number;
}

/** Draws the wires that are missing into a raceway, in the house's colours. */
function addWires(reader: HouseReader, { group, run, missing }: Shortage, gauge: Gauge): Fix {
  const palette = paletteOf(reader);
  const plan = reader.rules().jurisdiction.colours;
  const isShared = run.circuitIds.some((id) => group.every((circuit) => circuit.id !== id));
  const more = missing.map((signal) => ({
    size: sizeOf(gauge),
    colour: paletteColour(signal, palette, plan) ?? plan.other,
    // Where circuits with a neutral each share the raceway, a wire says whose it is.
    ...(isShared && { circuitId: circuitOfHot(signal) ?? group[0]!.id }),
  }));
  return {
    code: 'draw-wires',
    facts: { wires: more.map(({ colour }) => ({ gauge, colour })) },
    change: setting('runs', run.id, { wires: [...(run.wires ?? []), ...more] }),
  };
}

/** What the run has: a cable, or so many wires of which some can be used. */
function has(
  reader: HouseReader,
  { group, run }: Shortage,
): FindingFacts['wiring.too-few-conductors']['has'] {
  const cable = cableIn(reader, run);
  if (cable) return { cable, isIn: standingPull(reader, run.id) !== undefined };
  const circuitIds = group.map(({ id }) => id);
  return {
    wires: conductorsOf(reader, run).filter(({ ground }) => !ground).length,
    usable: conductorsFor(reader, run, circuitIds)?.length ?? 0,
  };
}

/** Which signal goes without, and the ways out, the cheapest first. */
export function tooFew(reader: HouseReader, shortage: Shortage): Finding {
  const { group, run, wanted, missing, needed, gauge } = shortage;
  const pulled = standingPull(reader, run.id) !== undefined;
  const cable = cableIn(reader, run);
  const ways = otherWays(reader, shortage);
  return {
    code: 'wiring.too-few-conductors',
    severity: 'stop',
    where: { circuitId: group[0]!.id, runId: run.id },
    facts: {
      wanted: wanted.map(factsOf),
      missing: missing.map(factsOf),
      has: has(reader, shortage),
      needed,
    },
    ...(cable && { measured: { kind: 'cable', id: cable } }),
    ...(needed && { allowed: { kind: 'cable', id: needed } }),
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
        code: 'derive-order',
        facts: { controlId: control.id },
        change: setting('controls', control.id, { pinnedOrder: null }),
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
    isRing(group),
  );
  if (isLess(needsOn(reader, group, turned))) {
    fixes.push({
      code: 'feed-other-end',
      facts: { boxId: far, insteadOf: parent },
      change: setting(
        'runs',
        feed.run.id,
        feed.run.from.boxId === parent ? { from: { boxId: far } } : { to: { boxId: far } },
      ),
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
  const cables = runs.flatMap((id): Fix[] => {
    const run = reader.get('runs', id)!;
    const needed = wirings.get(id)?.needed;
    return needed && !standingPull(reader, id)
      ? [{ code: 'plan-cable', facts: { cable: needed, runId: id }, change: planCable(run, needed).change }]
      : [];
  });
  return {
    code: 'neutral.missing-at-switch',
    severity: 'fix',
    where: { circuitId: place.circuitId, boxId: place.boxId, controlId: duty.controlId, runId: runs[0]! },
    facts: { runIds: runs },
    source: { rule: 'neutral.atSwitch' },
    fixes: [
      ...cables,
      ...reader
        .rules()
        .jurisdiction.neutralExceptions.slice(0, 3)
        .map(({ code: reason }) => reason)
        .map((reason): Fix => ({
          code: 'excuse',
          facts: { boxId: place.boxId, reason },
          change: setting('boxes', place.boxId, { neutralException: reason }),
        })),
    ],
  };
}
