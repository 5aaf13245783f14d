import { BOX_FINDINGS } from './box-findings.js';
import { CIRCUIT_FINDINGS } from './circuit-findings.js';
import { LAYOUT_FINDINGS } from './layout/layout-findings.js';
import { OUTSIDE_FINDINGS } from './layout/outlet-findings.js';
import { NO_FACTS, SEVERITY_RANK } from '../findings/finding.js';
import { boxesInRoom } from '../facts/box-facts.js';
import type { Derivation, HouseReader } from '../derive/reader.js';
import { boxFacts, devicesIn, runsAt } from '../facts/box-facts.js';
import { fanDuty } from '../wiring/conductors/fan-box.js';
import type { Finding } from '../findings/finding.js';
import { struckFindings } from './closing-findings.js';
import { walkFindings } from './walk-findings.js';
import { WAY_FINDINGS } from './way-findings.js';
import { zoneFindings } from './zone-findings.js';

/** Ceilings of a room on which a fan could hang later, in boxes that are not made for one. */
function ceilingFindings(reader: HouseReader, roomId: string): Finding[] {
  const room = reader.get('rooms', roomId)!;
  const isAsked =
    reader.rules().flag('fan.everyCeilingBox') && reader.rules().jurisdiction.fanRooms.includes(room.kind);
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

/** Everything to say about the boxes of one room, by room id. */
export const ROOM_FINDINGS: Derivation<readonly Finding[]> = {
  name: 'room findings',
  compute: (reader, roomId) => [
    ...boxesInRoom(reader, roomId).flatMap((box) => reader.derive(BOX_FINDINGS, box.id)),
    ...ceilingFindings(reader, roomId),
    ...reader.derive(LAYOUT_FINDINGS, roomId),
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
          severity: 'fix',
          where: { runId: run.id, boxId: box.id, roomId },
          facts: NO_FACTS,
        })),
    ),
};

/** Everything to say about the house, by house id, the gravest first. */
export const HOUSE_FINDINGS: Derivation<readonly Finding[]> = {
  name: 'house findings',
  compute: (reader) =>
    [
      ...reader.derive(RULE_FINDINGS, ''),
      ...reader.derive(OUTSIDE_FINDINGS, ''),
      ...walkFindings(reader),
      ...reader.all('circuits').flatMap((circuit) => reader.derive(CIRCUIT_FINDINGS, circuit.id)),
      ...reader
        .all('rooms')
        .flatMap((room) => [
          ...reader.derive(ROOM_FINDINGS, room.id),
          ...reader.derive(RUN_FINDINGS, room.id),
        ]),
      ...reader
        .all('runs')
        .flatMap(({ id }) => [...reader.derive(WAY_FINDINGS, id), ...struckFindings(reader, id)]),
      ...zoneFindings(reader),
    ].sort((a, b) => SEVERITY_RANK[a.severity] - SEVERITY_RANK[b.severity]),
};

export const inspectHouse = (reader: HouseReader): readonly Finding[] =>
  reader.derive(HOUSE_FINDINGS, reader.houseId);
