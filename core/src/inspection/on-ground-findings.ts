import { setting } from '../changes/change.js';
import type { Derivation, HouseReader } from '../derive/reader.js';
import { circuitOfPoint, deviceType, devicesIn, shapeOfBox } from '../facts/box-facts.js';
import { circuitsOfPanel } from '../facts/circuit-facts.js';
import type { Finding, Fix } from '../findings/finding.js';
import type { Device } from '../house/model.js';

/**
 * By house id: electronic switches that do without a neutral since an old switch was replaced, by circuit: their current goes by the
 * ground. A switch whose model asks for a neutral is electronic.
 */
const ON_GROUND: Derivation<Readonly<Record<string, readonly Device[]>>> = {
  name: 'electronic switches on the ground',
  cutsOff: true,
  compute: (reader) => {
    const byCircuit: Record<string, Device[]> = {};
    for (const { id, neutralException } of reader.all('boxes')) {
      if (neutralException !== 'replacement') continue;
      for (const device of devicesIn(reader, id)) {
        if (!deviceType(reader, device).needsNeutral) continue;
        const lever = reader.mentioning('points', device.id).find(({ role }) => role === 'lever');
        const circuitId = lever && circuitOfPoint(reader, lever);
        if (circuitId) (byCircuit[circuitId] ??= []).push(device);
      }
    }
    return byCircuit;
  },
};

const onGround = (reader: HouseReader, circuitId: string): readonly Device[] =>
  reader.derive(ON_GROUND, reader.houseId)[circuitId] ?? [];

/** The last one of a single switch can be a standard switch with one touch: that needs no neutral. */
function plainSwitch(reader: HouseReader, devices: readonly Device[]): Fix[] {
  const last = devices.findLast((device) => reader.mentioning('points', device.id).length === 1);
  return last
    ? [
        {
          code: 'plain-switch',
          facts: { boxId: last.boxId },
          change: setting('devices', last.id, { catalogueId: 'switch' }),
        },
      ]
    : [];
}

function tooMany(
  reader: HouseReader,
  devices: readonly Device[],
  limit: number,
  of: 'circuit' | 'feeder',
  where: Finding['where'],
): Finding[] {
  if (devices.length <= limit) return [];
  return [
    {
      code: 'neutral.on-ground',
      severity: 'fix',
      where: { ...where, boxId: of === 'circuit' ? devices.at(-1)!.boxId : where.boxId },
      facts: { count: devices.length, limit, of },
      measured: { kind: 'number', number: devices.length },
      allowed: { kind: 'number', number: limit },
      source: { rule: of === 'circuit' ? 'neutral.onGroundCircuit' : 'neutral.onGroundFeeder' },
      fixes: plainSwitch(reader, devices),
    },
  ];
}

/** More electronic switches without a neutral on a circuit than are allowed (404.22, from memory), where a code has such a number. */
export const onGroundFindings = (reader: HouseReader, circuitId: string): readonly Finding[] =>
  reader.rules().has('neutral.onGroundCircuit')
    ? tooMany(
        reader,
        onGround(reader, circuitId),
        reader.rules().number('neutral.onGroundCircuit'),
        'circuit',
        { circuitId },
      )
    : [];

/** The same of all circuits of a panel, which one feeder supplies. */
export function onGroundInPanel(reader: HouseReader, panelId: string): readonly Finding[] {
  if (shapeOfBox(reader, panelId).kind !== 'panel' || !reader.rules().has('neutral.onGroundFeeder'))
    return [];
  const all = circuitsOfPanel(reader, panelId).flatMap(({ id }) => onGround(reader, id));
  return tooMany(reader, all, reader.rules().number('neutral.onGroundFeeder'), 'feeder', {
    boxId: panelId,
    roomId: reader.get('boxes', panelId)!.roomId,
  });
}
