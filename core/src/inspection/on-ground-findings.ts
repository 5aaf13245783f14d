import type { Derivation, HouseReader } from '../derive/reader.js';
import { circuitOfPoint, deviceType, devicesIn, shapeOfBox } from '../facts/box-facts.js';
import { circuitsOfPanel } from '../facts/circuit-facts.js';
import type { Finding } from '../findings/finding.js';

/**
 * By house id: boxes of electronic switches that do without a neutral since an old switch was replaced, by circuit: their current goes
 * by the ground. A switch whose model asks for a neutral is electronic.
 */
const ON_GROUND: Derivation<Readonly<Record<string, readonly string[]>>> = {
  name: 'electronic switches on the ground',
  cutsOff: true,
  compute: (reader) => {
    const byCircuit: Record<string, string[]> = {};
    for (const { id, neutralException } of reader.all('boxes')) {
      if (neutralException !== 'replacement') continue;
      for (const device of devicesIn(reader, id)) {
        if (!deviceType(reader, device).needsNeutral) continue;
        const lever = reader.mentioning('points', device.id).find(({ role }) => role === 'lever');
        const circuitId = lever && circuitOfPoint(reader, lever);
        if (circuitId) (byCircuit[circuitId] ??= []).push(id);
      }
    }
    return byCircuit;
  },
};

const onGround = (reader: HouseReader, circuitId: string): readonly string[] =>
  reader.derive(ON_GROUND, reader.houseId)[circuitId] ?? [];

function tooMany(
  boxIds: readonly string[],
  limit: number,
  of: 'circuit' | 'feeder',
  where: Finding['where'],
): Finding[] {
  if (boxIds.length <= limit) return [];
  return [
    {
      code: 'neutral.on-ground',
      severity: 'fix',
      where: { ...where, boxId: of === 'circuit' ? boxIds.at(-1) : where.boxId },
      facts: { count: boxIds.length, limit, of },
      measured: { kind: 'number', number: boxIds.length },
      allowed: { kind: 'number', number: limit },
      source: { rule: of === 'circuit' ? 'neutral.onGroundCircuit' : 'neutral.onGroundFeeder' },
    },
  ];
}

/** More electronic switches without a neutral on a circuit than are allowed (404.22, from memory). */
export const onGroundFindings = (reader: HouseReader, circuitId: string): readonly Finding[] =>
  tooMany(onGround(reader, circuitId), reader.rules().number('neutral.onGroundCircuit'), 'circuit', {
    circuitId,
  });

/** The same of all circuits of a panel, which one feeder supplies. */
export function onGroundInPanel(reader: HouseReader, panelId: string): readonly Finding[] {
  if (shapeOfBox(reader, panelId).kind !== 'panel') return [];
  const all = circuitsOfPanel(reader, panelId).flatMap(({ id }) => onGround(reader, id));
  return tooMany(all, reader.rules().number('neutral.onGroundFeeder'), 'feeder', {
    boxId: panelId,
    roomId: reader.get('boxes', panelId)!.roomId,
  });
}
