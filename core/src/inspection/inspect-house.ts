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
import { boxName, circuitName, runName } from '../facts/naming.js';
import type { Box, Circuit } from '../house/model.js';
import { boxesThatHold, fillBox, gangsTaken, modelOf } from '../fill/fill-box.js';
import type { BoxType } from '../rulebook/catalogue.js';
import { FAN_ROOMS } from '../rulebook/rooms.js';
import { cited } from '../rulebook/sections.js';
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

/** Cubic inches for people: at most two decimals, no trailing zeros. */
export const cubicInches = (volume: number): string => `${Number(volume.toFixed(2))} in³`;

const changeBox = (box: Box, type: BoxType): Fix => ({
  label: `Change ${box.tag} to ${type.name}`,
  change: { kind: 'box.set', recordId: box.id, fields: { model: modelOf(type) } },
});

/** A fan, or spare conductors for one, in a box that is not made for it; and ceilings on which one could hang later. */
function fanFindings(reader: HouseReader, boxId: string): Finding[] {
  const box = reader.get('boxes', boxId)!;
  const facts = boxFacts(reader, box);
  if (facts.fanRated) return [];
  const duty = fanDuty(reader, boxId);
  const where = { boxId, roomId: box.roomId };
  const source = reader.rules().cite('fan.everyCeilingBox');
  if (duty) {
    const rated = boxesThatHold(reader, box).filter((type) => type.fanRated);
    const own = rated.filter(({ material }) => material === facts.material);
    return [
      {
        code: 'box.not-for-fan',
        severity: 'stop',
        where,
        message:
          duty === 'fan'
            ? `A fan hangs on ${box.tag}, which is not made for one.`
            : `Spare conductors that can be switched by themselves come to ${box.tag}, where a fan could hang: the box has to be made for one.`,
        measured: facts.name,
        allowed: 'fan-rated box',
        source,
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
  const boxes = reader.mentioning('boxes', roomId).filter((box) => {
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
      message: `${boxes.map(({ tag }) => tag).join(', ')}: a fan could hang here later. From 2020 on the ceiling box of a habitable room is made for one, or opens to framing that can carry one. Ask the inspector.`,
      source: reader.rules().cite('fan.everyCeilingBox'),
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
      message: `${box.tag} is too full by ${cubicInches(-fill.leftIn3)}.`,
      measured: cubicInches(fill.totalIn3),
      allowed: cubicInches(fill.capacityIn3),
      source: `NEC ${reader.rules().base.slice(3)} 314.16(B)`,
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
          message: `${box.tag} has ${facts.slots} slots; a cable is entered at slot ${slot}.`,
          measured: `slot ${slot}`,
          allowed: `${facts.slots} slots`,
        },
      ];
    }
    if (count <= limit) return [];
    return [
      {
        code: 'slot.too-many',
        severity: 'mend',
        where,
        message: `Slot ${slot} of ${box.tag} has ${count} cables; it takes ${limit}.`,
        measured: `${count} cables`,
        allowed: `${limit}`,
        source: rules.cite(rule),
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
      message: `Two devices of ${box.tag} are at gang ${gang}.`,
    });
  }
  const needs = gangsTaken(reader, boxId);
  if (needs > facts.gangs) {
    findings.push({
      code: 'gang.none-such',
      severity: 'mend',
      where,
      message: `${box.tag} has ${facts.gangs} ${facts.gangs === 1 ? 'gang' : 'gangs'}; its devices take ${needs}.`,
      measured: `${needs}`,
      allowed: `${facts.gangs}`,
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
          message: `${box.tag} holds ${circuits.map((id) => circuitName(reader, id)).join(' and ')}. Say which of them ${type.name.toLowerCase()} (gang ${device.gang}) is on.`,
          fixes: circuits.map((id) => ({
            label: `Put it on ${circuitName(reader, id)}`,
            change: { kind: 'point.set', recordId: point.id, fields: { circuitId: id } },
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
        message: circuitId
          ? `Nothing of ${circuitName(reader, circuitId)} reaches ${box.tag} from the panel: a jumper or a home run is missing.`
          : `No run reaches ${box.tag}: ${type.name.toLowerCase()} has no power.`,
      });
    }
  }
  // One sentence for a box, however many points wait in it.
  return findings.filter(
    (finding, index) =>
      finding.code !== 'wiring.unreached' ||
      findings.findIndex((other) => other.message === finding.message) === index,
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
      message: `${box.tag}, ${step.title.toLowerCase()}: no connector of the table takes so many. Open it and make two splices with a link between them.`,
      source: 'common practice',
    }));
  for (const device of devicesIn(reader, boxId)) {
    const circuits = sidesOf(reader, device).circuitIds;
    if (circuits.length < 2) continue;
    // Circuits that share a neutral have their common disconnect said with the neutral; one with more legs is a stop there.
    findings.push({
      code: 'yoke.two-circuits',
      severity: 'mend',
      where: { ...where, deviceId: device.id },
      message: `Gang ${device.gang} of ${box.tag} has ${circuits.map((id) => circuitName(reader, id)).join(' and ')} on one yoke. Break the tab between its sides; their breakers need a common disconnect.`,
      source: cited('yoke'),
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
            message: `${own.length} circuits of ${boxName(reader, panelId)} have number ${number} (${own.map(({ name }) => name).join(', ')}). Whoever turns breaker ${number} off must know which it is.`,
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
      message: `${home.length} cables of ${circuitName(reader, circuitId)} come to the panel. Its breaker takes one wire unless it is marked for two; else splice them in the panel and bring one wire to the breaker. Each neutral has a hole of its own on the bar (NEC 408.41).`,
      source: cited('twoOnBreaker'),
      ...(home.length === 2 && {
        fixes: [
          {
            label: 'The breaker is marked for two wires',
            change: { kind: 'circuit.set', recordId: circuitId, fields: { twoWires: true } },
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
      message: `${circuitName(reader, circuitId)}: the nameplate allows a breaker of ${nameplate.mocp} A at most.`,
      measured: `${breakerAmps} A`,
      allowed: `${nameplate.mocp} A`,
      source: cited('nameplate'),
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
      message: `${circuitName(reader, circuitId)} ends in panel ${boxName(reader, tree.boxOf.get(node)!)}. A panel is fed by a circuit of two poles; this one is not derived there.`,
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
        message: `${circuitName(reader, circuitId)}: the rulebook has no wire for a breaker of ${circuit.breakerAmps} A.`,
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
              .map((wire) => wire.awg)
          : [cableIn(reader, run)].flatMap((id) => (id ? [cableOf(id).awg] : []));
      const thinnest = Math.max(0, ...gauges);
      if (thinnest <= least) return [];
      const pulled = standingPull(reader, run.id) !== undefined;
      return [
        {
          code: 'wire.too-thin',
          severity: 'stop',
          where: { circuitId, runId: run.id, boxId: run.from.boxId },
          message: `${runName(reader, run)}: ${thinnest} AWG ${pulled ? 'is in' : 'is planned'} ${circuit.nameplate ? `for the ${circuit.nameplate.mca} A of the nameplate` : `on the ${circuit.breakerAmps} A breaker`} of ${circuitName(reader, circuitId)}. It needs ${least} AWG or thicker.`,
          measured: `${thinnest} AWG`,
          allowed: `${least} AWG`,
          source: reader.rules().cite(limit),
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
      message: `${circuitName(reader, circuitId)} has no home run: none of its runs comes from the panel.`,
    });
  }
  const cut = [
    ...new Set(tree.islands.flatMap((run) => [run.from.boxId, ...('boxId' in run.to ? [run.to.boxId] : [])])),
  ];
  if (cut.length) {
    findings.push({
      code: 'wiring.cut-off',
      severity: 'stop',
      where: { circuitId, boxId: cut[0]! },
      message: `${cut.map((id) => boxName(reader, id)).join(', ')} hang together on ${circuitName(reader, circuitId)} but nothing joins them to the panel: a jumper is missing.`,
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
  const names = (circuits: readonly Circuit[]): string =>
    circuits.map(({ id }) => circuitName(reader, id)).join(' and ');
  const source = cited('multiwire');
  if (group.reduce((sum, { poles }) => sum + poles, 0) > 2) {
    return [
      {
        code: 'multiwire.too-many',
        severity: 'stop',
        where: { circuitId },
        message: `${names(group)} share one neutral. The service has two legs: only two hots can share a neutral, one on each; the third adds to its current. Give one a neutral of its own.`,
        source,
        fixes: group.slice(2).map((circuit) => ({
          label: `Take circuit ${circuit.number} out of the group`,
          change: { kind: 'circuit.set', recordId: circuit.id, fields: { neutralGroup: null } },
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
      message: `${names(group)} share a neutral and stand on the same leg of the panel: the neutral carries both. Move one breaker by a row.`,
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
    ...reader.mentioning('boxes', roomId).flatMap((box) => reader.derive(BOX_FINDINGS, box.id)),
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
        const unit = rule.unit ? ` ${rule.unit}` : '';
        return {
          code: override?.reason ? 'rule.loosened' : 'rule.loosened-without-reason',
          severity: override?.reason ? 'note' : 'stop',
          where: {},
          message: override?.reason
            ? `House rule “${rule.title}” is less strict than the code edition. Reason given: ${override.reason}`
            : `House rule “${rule.title}” is less strict than the code edition and no reason is written down.`,
          measured: `${String(value)}${unit}`,
          allowed: `${String(editionValue)}${unit}`,
          source: reader.rules().cite(rule.key),
          ...(!override?.reason && {
            fixes: [
              {
                label: 'Go back to the edition’s value',
                change: { kind: 'rule.set', key: rule.key, override: null },
              },
            ],
          }),
        };
      }),
};

/** Runs that belong to no circuit, by house id: they can carry no power. */
const RUN_FINDINGS: Derivation<readonly Finding[]> = {
  name: 'run findings',
  compute: (reader, roomId) =>
    reader.mentioning('boxes', roomId).flatMap((box) =>
      runsAt(reader, box.id)
        .filter(
          (run) => run.from.boxId === box.id && run.kind !== 'low-voltage' && run.circuitIds.length === 0,
        )
        .map((run): Finding => ({
          code: 'run.no-circuit',
          severity: 'mend',
          where: { runId: run.id, boxId: box.id, roomId },
          message: `${runName(reader, run)} belongs to no circuit. Say which one.`,
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
