import { changeBox } from './change-box.js';
import { closingFindings } from './closing-findings.js';
import { onGroundInPanel } from './on-ground-findings.js';
import { madeFindings } from './made-findings.js';
import { racewayFindings } from './raceway-findings.js';
import { circuitsOfPanel, numberOf } from '../facts/circuit-facts.js';
import { setting } from '../changes/change.js';
import type { Derivation, HouseReader } from '../derive/reader.js';
import {
  boxFacts,
  circuitOfPoint,
  circuitsAt,
  deviceType,
  devicesIn,
  endAt,
  gangsOf,
  runsAt,
} from '../facts/box-facts.js';
import { boxesThatHold, fillBox, gangsTaken } from '../fill/fill-box.js';
import { makeUpBox } from '../makeup/make-up-box.js';
import { carriesTo } from '../wiring/circuit/controls.js';
import { wireCircuit } from '../wiring/conductors/wire-circuit.js';
import { sidesOf } from '../wiring/circuit/device-sides.js';
import { fanDuty } from '../wiring/conductors/fan-box.js';
import type { Finding, Fix } from '../findings/finding.js';

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

function fillFindings(reader: HouseReader, boxId: string): Finding[] {
  const box = reader.get('boxes', boxId)!;
  const fill = fillBox(reader, boxId);
  if (!fill || fill.fits) return [];
  const fixes = fill.wouldFit.map((type) => changeBox(box, type));
  if (fill.depth)
    return [
      {
        code: 'fill.too-shallow',
        severity: 'note',
        where: { boxId, roomId: box.roomId },
        facts: { needsIn: fill.depth.needsIn, hasIn: fill.depth.hasIn },
        source: { section: 'fillCount' },
        fixes,
      },
    ];
  return [
    {
      code: 'fill.too-full',
      severity: 'stop',
      where: { boxId, roomId: box.roomId },
      facts: { overIn3: -fill.leftIn3 },
      measured: { kind: 'volume', in3: fill.totalIn3 },
      allowed: { kind: 'volume', in3: fill.capacityIn3 },
      source: { section: 'fillCount', inEdition: true },
      fixes,
    },
  ];
}

/** More cables than are marked on the splice box of a light: it counts them, not volume (common practice). */
function cableFindings(reader: HouseReader, boxId: string): Finding[] {
  const box = reader.get('boxes', boxId)!;
  const { mostCables } = boxFacts(reader, box);
  const count = mostCables === undefined ? 0 : runsAt(reader, boxId).length;
  if (mostCables === undefined || count <= mostCables) return [];
  return [
    {
      code: 'box.too-many-cables',
      severity: 'stop',
      where: { boxId, roomId: box.roomId },
      facts: { count, limit: mostCables },
      measured: { kind: 'cables', number: count },
      allowed: { kind: 'number', number: mostCables },
      source: { section: 'markedVolume' },
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
          severity: 'fix',
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
        severity: 'fix',
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
      severity: 'fix',
      where,
      facts: { gang },
    });
  }
  const needs = gangsTaken(reader, boxId);
  if (needs > facts.gangs) {
    findings.push({
      code: 'gang.none-such',
      severity: 'fix',
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
          severity: 'fix',
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
      severity: 'fix',
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
      severity: 'fix',
      where: { ...where, deviceId: device.id },
      facts: { gang: device.gang, circuitIds: circuits },
      source: { section: 'yoke' },
    });
  }
  return findings;
}

/** Circuits of one panel that are written with one number: a hand that turns breaker 5 off turns off one of two. */
function numberFindings(reader: HouseReader, panelId: string): Finding[] {
  const byNumber = new Map<number, string[]>();
  for (const { id } of circuitsOfPanel(reader, panelId)) {
    const number = numberOf(reader, id);
    byNumber.set(number, [...(byNumber.get(number) ?? []), id]);
  }
  return [...byNumber].flatMap(([number, own]): Finding[] =>
    own.length < 2
      ? []
      : [
          {
            code: 'circuit.number-twice',
            severity: 'fix',
            where: { boxId: panelId, roomId: reader.get('boxes', panelId)!.roomId, circuitId: own[1]! },
            facts: { number, circuitIds: own },
          },
        ],
  );
}

/** Everything to say about one box, by box id. */
export const BOX_FINDINGS: Derivation<readonly Finding[]> = {
  name: 'box findings',
  compute: (reader, boxId) => [
    ...fillFindings(reader, boxId),
    ...fanFindings(reader, boxId),
    ...cableFindings(reader, boxId),
    ...slotFindings(reader, boxId),
    ...gangFindings(reader, boxId),
    ...pointFindings(reader, boxId),
    ...makeUpFindings(reader, boxId),
    ...madeFindings(reader, boxId),
    ...racewayFindings(reader, boxId),
    ...numberFindings(reader, boxId),
    ...closingFindings(reader, boxId),
    ...onGroundInPanel(reader, boxId),
  ],
};
