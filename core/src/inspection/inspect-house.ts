import type { Derivation, HouseReader } from '../derive/reader.js';
import {
  boxFacts,
  cableIn,
  circuitOfPoint,
  circuitsAt,
  deviceType,
  devicesIn,
  endAt,
  runsAt,
  standingPull,
} from '../house/box-facts.js';
import { cableOf } from '../house/cables.js';
import { boxName, circuitName, runName } from '../house/naming.js';
import { fillBox, gangsTaken, modelOf } from '../fill/fill-box.js';
import { cited } from '../rulebook/sections.js';
import { makeUpBox } from '../makeup/make-up-box.js';
import { carriesTo } from '../wiring/controls.js';
import { gaugeFor, wireCircuit } from '../wiring/wire-circuit.js';
import type { Finding } from './finding.js';
import { madeFindings } from './made-findings.js';
import { proofFindings } from './proof-findings.js';
import { racewayFindings } from './raceway-findings.js';

/** Cubic inches for people: at most two decimals, no trailing zeros. */
export const cubicInches = (volume: number): string => `${Number(volume.toFixed(2))} in³`;

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
      fixes: fill.wouldFit.map((type) => ({
        label: `Change ${box.tag} to ${type.name}`,
        change: { kind: 'box.set', recordId: boxId, fields: { model: modelOf(type) } },
      })),
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
    for (let gang = device.gang; gang < device.gang + (device.widthGangs ?? 1); gang++) {
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
      message: `${box.tag}, ${step.title.toLowerCase()}: no connector of the table takes so many. Make two splices with a link between them.`,
      source: 'common practice',
    }));
  for (const device of devicesIn(reader, boxId)) {
    const circuits = [
      ...new Set(
        reader.mentioning('points', device.id).flatMap((point) => circuitOfPoint(reader, point) ?? []),
      ),
    ];
    if (circuits.length < 2) continue;
    const groups = new Set(circuits.map((id) => wireCircuit(reader, id).circuitIds[0]));
    if (groups.size < 2) continue;
    findings.push({
      code: 'yoke.two-circuits',
      severity: 'mend',
      where: { ...where, deviceId: device.id },
      message: `Gang ${device.gang} of ${box.tag} has ${circuits.map((id) => circuitName(reader, id)).join(' and ')} on one yoke. Their breakers need a common disconnect.`,
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
    ...slotFindings(reader, boxId),
    ...gangFindings(reader, boxId),
    ...pointFindings(reader, boxId),
    ...makeUpFindings(reader, boxId),
    ...madeFindings(reader, boxId),
    ...racewayFindings(reader, boxId),
  ],
};

function wireFindings(reader: HouseReader, circuitId: string): Finding[] {
  const circuit = reader.get('circuits', circuitId)!;
  const least = gaugeFor(reader, circuit.breakerAmps);
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
          message: `${runName(reader, run)}: ${thinnest} AWG ${pulled ? 'is in' : 'is planned'} on the ${circuit.breakerAmps} A breaker of ${circuitName(reader, circuitId)}. It needs ${least} AWG or thicker.`,
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

/** Circuits that share a neutral must stand on different legs of the service, or their currents add up in it. */
function groupFindings(reader: HouseReader, circuitId: string): Finding[] {
  const group = wireCircuit(reader, circuitId).circuitIds.map((id) => reader.get('circuits', id)!);
  const rows = group.flatMap(({ spaces }) =>
    spaces?.[0] === undefined ? [] : [Math.floor((spaces[0] - 1) / 2) % 2],
  );
  if (group.length < 2 || rows.length < group.length || new Set(rows).size > 1) return [];
  return [
    {
      code: 'multiwire.same-leg',
      severity: 'stop',
      where: { circuitId },
      message: `${group.map(({ id }) => circuitName(reader, id)).join(' and ')} share a neutral and stand on the same leg of the panel: the neutral carries both. Move one breaker by a row.`,
      source: cited('multiwire'),
    },
  ];
}

/** Everything to say about one circuit, by circuit id. */
export const CIRCUIT_FINDINGS: Derivation<readonly Finding[]> = {
  name: 'circuit findings',
  compute: (reader, circuitId) => [
    // Circuits that share a neutral are wired together; the first of them speaks for all.
    ...(wireCircuit(reader, circuitId).circuitIds[0] === circuitId
      ? [
          ...wireCircuit(reader, circuitId).findings,
          ...reachFindings(reader, circuitId),
          ...groupFindings(reader, circuitId),
          ...proofFindings(reader, circuitId),
        ]
      : []),
    ...wireFindings(reader, circuitId),
  ],
};

/** Everything to say about the boxes of one room, by room id. */
export const ROOM_FINDINGS: Derivation<readonly Finding[]> = {
  name: 'room findings',
  compute: (reader, roomId) =>
    reader.mentioning('boxes', roomId).flatMap((box) => reader.derive(BOX_FINDINGS, box.id)),
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
