import { NO_FACTS } from '../findings/finding.js';
import { setting } from '../changes/change.js';
import { modelFields } from '../house/model.js';
import { boxesInRoom } from '../facts/box-facts.js';
import type { Derivation, HouseReader } from '../derive/reader.js';
import {
  boxFacts,
  boxesOf,
  cableIn,
  circuitOfPoint,
  circuitsAt,
  deviceType,
  devicesIn,
  endAt,
  gangsOf,
  runsAt,
  standingPull,
} from '../facts/box-facts.js';
import { cableOf } from '../vocabulary/cables.js';
import type { Box, Circuit } from '../house/model.js';
import { boxesThatHold, fillBox, gangsTaken } from '../fill/fill-box.js';
import type { BoxType } from '../rulebook/catalogue.js';
import { FAN_ROOMS } from '../rulebook/rooms.js';
import { makeUpBox } from '../makeup/make-up-box.js';
import { carriesTo } from '../wiring/circuit/controls.js';
import { gaugeOfCircuit } from '../wiring/circuit/gauge.js';
import { wireCircuit } from '../wiring/conductors/wire-circuit.js';
import { sidesOf } from '../wiring/circuit/device-sides.js';
import { fanDuty } from '../wiring/conductors/fan-box.js';
import { circuitsOfPanel, isSubPanel, legOfSpace } from '../wiring/circuit/panel-terminals.js';
import { twoSideBySide } from '../wiring/conductors/side-by-side.js';
import type { Finding, Fix } from '../findings/finding.js';
import { madeFindings } from './made-findings.js';
import { proofFindings } from './proof-findings.js';
import { racewayFindings } from './raceway-findings.js';

const changeBox = (box: Box, type: BoxType): Fix => ({
  code: 'change-box',
  facts: { boxId: box.id, catalogueId: type.id },
  change: setting('boxes', box.id, modelFields({ catalogueId: type.id })),
});

/** A fan, or spare conductors for one, in a box that is not made for it; and ceilings on which one could hang later. */
function fanFindings(reader: HouseReader, boxId: string): Finding[] {
  const box = reader.get('boxes', boxId)!;
  const facts = boxFacts(reader, box);
  if (facts.fanRated) return [];
  const duty = fanDuty(reader, boxId);
  const where = { boxId, roomId: box.roomId };
  if (duty) {
    const rated = boxesThatHold(reader, box).filter((type) => type.fanRated);
    const own = rated.filter(({ material }) => material === facts.material);
    return [
      {
        code: 'box.not-for-fan',
        severity: 'stop',
        where,
        facts: { duty },
        measured: { kind: 'box', boxId },
        allowed: { kind: 'fan-rated-box' },
        source: { rule: 'fan.everyCeilingBox' },
        fixes: (own.length ? own : rated).slice(0, 3).map((type) => changeBox(box, type)),
      },
    ];
  }
  return [];
}

/** Ceilings of a room on which a fan could hang later, in boxes that are not made for one. */
function ceilingFindings(reader: HouseReader, roomId: string): Finding[] {
  const room = reader.get('rooms', roomId)!;
  const isAsked = reader.rules().flag('fan.everyCeilingBox') && FAN_ROOMS.includes(room.kind);
  if (!isAsked || ['porch', 'other'].includes(room.kind)) return [];
  const boxes = boxesInRoom(reader, roomId).filter((box) => {
    const facts = boxFacts(reader, box);
    if (facts.kind !== 'ceiling' || facts.fanRated || fanDuty(reader, box.id)) return false;
    return devicesIn(reader, box.id).some(({ id }) =>
      reader.mentioning('points', id).some(({ role }) => role === 'lamp'),
    );
  });
  if (boxes.length === 0) return [];
  return [
    {
      code: 'box.fan-could-hang',
      severity: 'note',
      where: { roomId, boxId: boxes[0]!.id },
      facts: { boxIds: boxes.map(({ id }) => id) },
      source: { rule: 'fan.everyCeilingBox' },
    },
  ];
}

function fillFindings(reader: HouseReader, boxId: string): Finding[] {
  const box = reader.get('boxes', boxId)!;
  const fill = fillBox(reader, boxId);
  if (!fill || fill.fits) return [];
  return [
    {
      code: 'fill.too-full',
      severity: 'stop',
      where: { boxId, roomId: box.roomId },
      facts: { overIn3: -fill.leftIn3 },
      measured: { kind: 'volume', in3: fill.totalIn3 },
      allowed: { kind: 'volume', in3: fill.capacityIn3 },
      source: { section: 'fillCount', inEdition: true },
      fixes: fill.wouldFit.map((type) => changeBox(box, type)),
    },
  ];
}

function slotFindings(reader: HouseReader, boxId: string): Finding[] {
  const box = reader.get('boxes', boxId)!;
  const facts = boxFacts(reader, box);
  const rules = reader.rules();
  const limit = rules.flag('slot.onePerClamp') ? 1 : rules.number('slot.cables');
  const rule = rules.flag('slot.onePerClamp') ? 'slot.onePerClamp' : 'slot.cables';
  const perSlot = new Map<number, number>();
  for (const run of runsAt(reader, boxId)) {
    const { slot } = endAt(run, boxId);
    if (slot !== undefined) perSlot.set(slot, (perSlot.get(slot) ?? 0) + 1);
  }
  if (facts.kind === 'panel') return [];
  const where = { boxId, roomId: box.roomId };
  return [...perSlot].flatMap(([slot, count]): Finding[] => {
    if (slot > facts.slots) {
      return [
        {
          code: 'slot.none-such',
          severity: 'mend',
          where,
          facts: { slot, slots: facts.slots },
          measured: { kind: 'slot', number: slot },
          allowed: { kind: 'slots', number: facts.slots },
        },
      ];
    }
    if (count <= limit) return [];
    return [
      {
        code: 'slot.too-many',
        severity: 'mend',
        where,
        facts: { slot, count, limit },
        measured: { kind: 'cables', number: count },
        allowed: { kind: 'number', number: limit },
        source: { rule },
      },
    ];
  });
}

function gangFindings(reader: HouseReader, boxId: string): Finding[] {
  const box = reader.get('boxes', boxId)!;
  const facts = boxFacts(reader, box);
  const where = { boxId, roomId: box.roomId };
  const findings: Finding[] = [];
  const taken = new Map<number, string>();
  const clashes = new Set<number>();
  for (const device of devicesIn(reader, boxId)) {
    if (deviceType(reader, device).mount !== 'yoke') continue;
    for (let gang = device.gang; gang < device.gang + gangsOf(reader, device); gang++) {
      if (taken.has(gang)) clashes.add(gang);
      taken.set(gang, device.id);
    }
  }
  for (const gang of clashes) {
    findings.push({
      code: 'gang.taken-twice',
      severity: 'mend',
      where,
      facts: { gang },
    });
  }
  const needs = gangsTaken(reader, boxId);
  if (needs > facts.gangs) {
    findings.push({
      code: 'gang.none-such',
      severity: 'mend',
      where,
      facts: { has: facts.gangs, takes: needs },
      measured: { kind: 'number', number: needs },
      allowed: { kind: 'number', number: facts.gangs },
      fixes: boxesThatHold(reader, box)
        .filter((type) => type.gangs >= needs && type.material === facts.material)
        .slice(0, 3)
        .map((type) => changeBox(box, type)),
    });
  }
  return findings;
}

/** Points nobody has given a circuit, in a box where there is more than one: nothing is guessed. */
function pointFindings(reader: HouseReader, boxId: string): Finding[] {
  const box = reader.get('boxes', boxId)!;
  const facts = boxFacts(reader, box);
  const circuits = circuitsAt(reader, boxId);
  const findings: Finding[] = [];
  for (const device of devicesIn(reader, boxId)) {
    const type = deviceType(reader, device);
    for (const point of reader.mentioning('points', device.id)) {
      const where = { boxId, roomId: box.roomId, deviceId: device.id, pointId: point.id };
      if (circuits.length > 1 && !point.circuitId) {
        findings.push({
          code: 'point.circuit-unsaid',
          severity: 'mend',
          where,
          facts: { circuitIds: circuits },
          fixes: circuits.map((id): Fix => ({
            code: 'put-on-circuit',
            facts: { circuitId: id },
            change: setting('points', point.id, { circuitId: id }),
          })),
        });
      }
      if (facts.kind === 'low-voltage') continue;
      const circuitId = circuitOfPoint(reader, point);
      const reached =
        circuitId !== undefined && carriesTo(wireCircuit(reader, circuitId).tree, circuitId, boxId);
      if (reached || (circuits.length > 1 && !point.circuitId)) continue;
      findings.push({
        code: 'wiring.unreached',
        severity: 'stop',
        where: { ...where, ...(circuitId && { circuitId }) },
        facts: { catalogueId: type.id },
      });
    }
  }
  // One sentence for a box, however many points wait in it.
  const what = (finding: Finding): string | undefined =>
    finding.code === 'wiring.unreached' ? (finding.where.circuitId ?? finding.facts.catalogueId) : undefined;
  return findings.filter(
    (finding, index) =>
      what(finding) === undefined || findings.findIndex((other) => what(other) === what(finding)) === index,
  );
}

function makeUpFindings(reader: HouseReader, boxId: string): Finding[] {
  const box = reader.get('boxes', boxId)!;
  const where = { boxId, roomId: box.roomId };
  const findings: Finding[] = makeUpBox(reader, boxId)
    .steps.filter((step) => step.split)
    .map((step) => ({
      code: 'makeup.no-connector',
      severity: 'mend',
      where,
      facts: { title: step.title },
      source: { practice: 'common' },
    }));
  for (const device of devicesIn(reader, boxId)) {
    const circuits = sidesOf(reader, device).circuitIds;
    if (circuits.length < 2) continue;
    // Circuits that share a neutral have their common disconnect said with the neutral; one with more legs is a stop there.
    findings.push({
      code: 'yoke.two-circuits',
      severity: 'mend',
      where: { ...where, deviceId: device.id },
      facts: { gang: device.gang, circuitIds: circuits },
      source: { section: 'yoke' },
    });
  }
  return findings;
}

/** Everything to say about one box, by box id. */
export const BOX_FINDINGS: Derivation<readonly Finding[]> = {
  name: 'box findings',
  compute: (reader, boxId) => [
    ...fillFindings(reader, boxId),
    ...fanFindings(reader, boxId),
    ...slotFindings(reader, boxId),
    ...gangFindings(reader, boxId),
    ...pointFindings(reader, boxId),
    ...makeUpFindings(reader, boxId),
    ...madeFindings(reader, boxId),
    ...racewayFindings(reader, boxId),
    ...numberFindings(reader, boxId),
  ],
};

/** Circuits of one panel that are written with one number: a hand that turns breaker 5 off turns off one of two. */
function numberFindings(reader: HouseReader, panelId: string): Finding[] {
  const byNumber = new Map<number, Circuit[]>();
  for (const circuit of circuitsOfPanel(reader, panelId))
    byNumber.set(circuit.number, [...(byNumber.get(circuit.number) ?? []), circuit]);
  return [...byNumber].flatMap(([number, own]): Finding[] =>
    own.length < 2
      ? []
      : [
          {
            code: 'circuit.number-twice',
            severity: 'mend',
            where: { boxId: panelId, roomId: reader.get('boxes', panelId)!.roomId, circuitId: own[1]!.id },
            facts: { number, circuitIds: own.map(({ id }) => id) },
          },
        ],
  );
}

/** Wires on one breaker, and a breaker against the nameplate of what it feeds. */
function breakerFindings(reader: HouseReader, circuitId: string): Finding[] {
  const circuit = reader.get('circuits', circuitId)!;
  const findings: Finding[] = [];
  const { tree } = wireCircuit(reader, circuitId);
  const home = [
    ...[...tree.feed.values()].flatMap(({ run, from }) => (from === tree.panelId ? [run] : [])),
    ...tree.loops.filter((run) => boxesOf(run).includes(tree.panelId)),
  ].filter((run) => run.kind === 'cable' && run.circuitIds.includes(circuitId));
  if (home.length > (circuit.twoWires ? 2 : 1)) {
    findings.push({
      code: 'breaker.two-runs',
      severity: 'note',
      where: { circuitId, boxId: circuit.panelId, runId: home[1]!.id },
      facts: { count: home.length },
      source: { section: 'twoOnBreaker' },
      ...(home.length === 2 && {
        fixes: [
          {
            code: 'marked-for-two',
            facts: NO_FACTS,
            change: setting('circuits', circuitId, { twoWires: true }),
          },
        ],
      }),
    });
  }
  const { nameplate, breakerAmps } = circuit;
  if (nameplate && breakerAmps > nameplate.mocp) {
    findings.push({
      code: 'breaker.above-nameplate',
      severity: 'stop',
      where: { circuitId },
      facts: { mocp: nameplate.mocp },
      measured: { kind: 'amps', amps: breakerAmps },
      allowed: { kind: 'amps', amps: nameplate.mocp },
      source: { section: 'nameplate' },
    });
  }
  return findings;
}

/** A circuit of one pole that ends in another panel: not derived, and said. */
function panelFindings(reader: HouseReader, circuitId: string): Finding[] {
  const circuit = reader.get('circuits', circuitId)!;
  if (circuit.poles === 2) return [];
  const { tree } = wireCircuit(reader, circuitId);
  const inner = new Set([...tree.feed.values()].map(({ from }) => from));
  return [...tree.feed]
    .filter(([node, { run }]) => !inner.has(node) && run.circuitIds.includes(circuitId))
    .filter(([node]) => isSubPanel(reader, tree.boxOf.get(node)!))
    .map(([node, { run }]): Finding => ({
      code: 'panel.not-derived',
      severity: 'mend',
      where: { circuitId, runId: run.id, boxId: tree.boxOf.get(node)! },
      facts: NO_FACTS,
    }));
}

function wireFindings(reader: HouseReader, circuitId: string): Finding[] {
  const circuit = reader.get('circuits', circuitId)!;
  const least = gaugeOfCircuit(reader, circuit);
  if (!least) {
    return [
      {
        code: 'circuit.breaker-unknown',
        severity: 'note',
        where: { circuitId },
        facts: { amps: circuit.breakerAmps },
      },
    ];
  }
  const limit = `wire.maxBreaker.${least}`;
  return reader
    .mentioning('runs', circuitId)
    .filter((run) => run.circuitIds.includes(circuitId))
    .flatMap((run): Finding[] => {
      const gauges =
        run.kind === 'raceway'
          ? (run.wires ?? [])
              .filter((wire) => !wire.circuitId || wire.circuitId === circuitId)
              .map((wire) => wire.size.value)
          : [cableIn(reader, run)].flatMap((id) => (id ? [cableOf(id).awg] : []));
      const thinnest = Math.max(0, ...gauges);
      if (thinnest <= least) return [];
      const pulled = standingPull(reader, run.id) !== undefined;
      return [
        {
          code: 'wire.too-thin',
          severity: 'stop',
          where: { circuitId, runId: run.id, boxId: run.from.boxId },
          facts: {
            thinnest,
            least,
            isIn: pulled,
            amps: circuit.breakerAmps,
            mca: circuit.nameplate?.mca,
          },
          measured: { kind: 'gauge', awg: thinnest },
          allowed: { kind: 'gauge', awg: least },
          source: { rule: limit },
        },
      ];
    });
}

function reachFindings(reader: HouseReader, circuitId: string): Finding[] {
  const { tree } = wireCircuit(reader, circuitId);
  const findings: Finding[] = [];
  if (tree.nodes.length === 1 && reader.mentioning('runs', circuitId).length > 0) {
    findings.push({
      code: 'circuit.no-home-run',
      severity: 'stop',
      where: { circuitId },
      facts: NO_FACTS,
    });
  }
  const cut = [...new Set(tree.islands.flatMap(boxesOf))];
  if (cut.length) {
    findings.push({
      code: 'wiring.cut-off',
      severity: 'stop',
      where: { circuitId, boxId: cut[0]! },
      facts: { boxIds: cut },
    });
  }
  return findings;
}

/**
 * Circuits that share a neutral stand on different legs of the service, or their currents add up in it: on 120/240 V there are
 * two, so that no more than two hots can share one.
 */
function groupFindings(reader: HouseReader, circuitId: string): Finding[] {
  const group = wireCircuit(reader, circuitId).circuitIds.map((id) => reader.get('circuits', id)!);
  if (group.length < 2) return [];
  const circuitIds = group.map(({ id }) => id);
  const source = { section: 'multiwire' } as const;
  if (group.reduce((sum, { poles }) => sum + poles, 0) > 2) {
    return [
      {
        code: 'multiwire.too-many',
        severity: 'stop',
        where: { circuitId },
        facts: { circuitIds },
        source,
        fixes: group.slice(2).map((circuit): Fix => ({
          code: 'leave-group',
          facts: { circuitId: circuit.id },
          change: setting('circuits', circuit.id, { neutralGroup: null }),
        })),
      },
    ];
  }
  const [one, other] = group.map(legOfSpace);
  if (one === undefined || one !== other) return [];
  return [
    {
      code: 'multiwire.same-leg',
      severity: 'stop',
      where: { circuitId },
      facts: { circuitIds },
      source,
    },
  ];
}

/** Where no one cable is enough, two side by side as a way out, where they are. */
function withSecondCable(reader: HouseReader, circuitId: string, finding: Finding): Finding {
  const { code, where, allowed, fixes = [] } = finding;
  const isTooMuch = code === 'run.no-one-cable' || (code === 'wiring.too-few-conductors' && !allowed);
  if (!isTooMuch || !where.runId) return finding;
  const second = twoSideBySide(reader, circuitId, where.runId);
  return second.length ? { ...finding, fixes: [...second, ...fixes] } : finding;
}

/** Everything to say about one circuit, by circuit id. */
export const CIRCUIT_FINDINGS: Derivation<readonly Finding[]> = {
  name: 'circuit findings',
  compute: (reader, circuitId) => [
    // Circuits that share a neutral are wired together; the first of them speaks for all.
    ...(wireCircuit(reader, circuitId).circuitIds[0] === circuitId
      ? [
          ...wireCircuit(reader, circuitId).findings.map((finding) =>
            withSecondCable(reader, circuitId, finding),
          ),
          ...reachFindings(reader, circuitId),
          ...groupFindings(reader, circuitId),
          ...proofFindings(reader, circuitId),
        ]
      : []),
    ...wireFindings(reader, circuitId),
    ...breakerFindings(reader, circuitId),
    ...panelFindings(reader, circuitId),
  ],
};

/** Everything to say about the boxes of one room, by room id. */
export const ROOM_FINDINGS: Derivation<readonly Finding[]> = {
  name: 'room findings',
  compute: (reader, roomId) => [
    ...boxesInRoom(reader, roomId).flatMap((box) => reader.derive(BOX_FINDINGS, box.id)),
    ...ceilingFindings(reader, roomId),
  ],
};

/** House values that are less strict than the edition and give no reason; loosened ones with a reason stay visible. */
export const RULE_FINDINGS: Derivation<readonly Finding[]> = {
  name: 'rule findings',
  compute: (reader) =>
    reader
      .rules()
      .standing.filter((standing) => standing.loosened)
      .map(({ rule, editionValue, value, override }): Finding => {
        const { key } = rule;
        const measures = {
          where: {},
          measured: { kind: 'rule', key, value },
          allowed: { kind: 'rule', key, value: editionValue },
          source: { rule: key },
        } as const;
        if (override?.reason)
          return {
            code: 'rule.loosened',
            severity: 'note',
            facts: { key, reason: override.reason },
            ...measures,
          };
        return {
          code: 'rule.loosened-without-reason',
          severity: 'stop',
          facts: { key },
          ...measures,
          fixes: [
            {
              code: 'edition-value',
              facts: NO_FACTS,
              change: { kind: 'rule.set', key, override: null },
            },
          ],
        };
      }),
};

/** Runs that belong to no circuit, by house id: they can carry no power. */
const RUN_FINDINGS: Derivation<readonly Finding[]> = {
  name: 'run findings',
  compute: (reader, roomId) =>
    boxesInRoom(reader, roomId).flatMap((box) =>
      runsAt(reader, box.id)
        .filter(
          (run) => run.from.boxId === box.id && run.kind !== 'low-voltage' && run.circuitIds.length === 0,
        )
        .map((run): Finding => ({
          code: 'run.no-circuit',
          severity: 'mend',
          where: { runId: run.id, boxId: box.id, roomId },
          facts: NO_FACTS,
        })),
    ),
};

const RANK = { stop: 0, mend: 1, note: 2 } as const;

/** Everything to say about the house, by house id, the gravest first. */
export const HOUSE_FINDINGS: Derivation<readonly Finding[]> = {
  name: 'house findings',
  compute: (reader) =>
    [
      ...reader.derive(RULE_FINDINGS, ''),
      ...reader.all('circuits').flatMap((circuit) => reader.derive(CIRCUIT_FINDINGS, circuit.id)),
      ...reader
        .all('rooms')
        .flatMap((room) => [
          ...reader.derive(ROOM_FINDINGS, room.id),
          ...reader.derive(RUN_FINDINGS, room.id),
        ]),
    ].sort((a, b) => RANK[a.severity] - RANK[b.severity]),
};

export const inspectHouse = (reader: HouseReader): readonly Finding[] =>
  reader.derive(HOUSE_FINDINGS, reader.houseId);
