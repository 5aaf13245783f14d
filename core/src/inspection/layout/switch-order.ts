import { setting } from '../../changes/change.js';
import type { HouseReader } from '../../derive/reader.js';
import { boxFacts, gangsOf, roomOf } from '../../facts/box-facts.js';
import { firstReachedIsLast } from '../../plan/first-reached.js';
import type { RoomLayout } from '../../plan/room-layout.js';
import type { Finding } from '../../findings/finding.js';

/** Which of two loads is wanted first: the vanity of a bath, then lights, then fans. */
function rankOf(reader: HouseReader, loads: readonly string[]): number {
  const ranks = loads.map((id) => {
    const point = reader.get('points', id);
    const device = point && reader.get('devices', point.deviceId);
    const box = device && reader.get('boxes', device.boxId);
    if (!point || !box) return 1;
    if (point.role === 'fan') return 2;
    const isVanity = boxFacts(reader, box).kind === 'buried-point' && roomOf(reader, box.id)?.kind === 'bath';
    return isVanity ? 0 : 1;
  });
  return Math.min(...ranks, 2);
}

/** Boxes in which a fan is switched before the light that is wanted first. */
export function switchOrderFindings(reader: HouseReader, layout: RoomLayout): Finding[] {
  if (reader.rules().text('layout.switchOrder') !== 'light-first') return [];
  return layout.boxes.flatMap(({ box, devices, corner, alongIn }): Finding[] => {
    const levers = devices
      .toSorted((a, b) => a.gang - b.gang)
      .flatMap((device) => {
        const points = reader.mentioning('points', device.id);
        if (points.length !== 1 || points[0]!.role !== 'lever' || gangsOf(reader, device) !== 1) return [];
        const control = reader.mentioning('controls', points[0]!.id)[0];
        // Only what is switched in this room: the light outside comes last anyway.
        const isHere = control?.loads.some((id) => {
          const load = reader.get('points', id);
          const own = load && reader.get('devices', load.deviceId);
          return own && roomOf(reader, own.boxId)?.id === layout.room.id;
        });
        return control && isHere ? [{ device, rank: rankOf(reader, control.loads) }] : [];
      });
    if (levers.length < 2) return [];
    const isReversed = firstReachedIsLast(layout, corner, alongIn);
    const inOrder = isReversed ? levers.toReversed() : levers;
    const wanted = inOrder.toSorted((a, b) => a.rank - b.rank);
    if (wanted.every(({ rank }, at) => rank === inOrder[at]!.rank)) return [];
    const gangs = inOrder.map(({ device }) => device.gang);
    return [
      {
        code: 'layout.switch-order',
        severity: 'note',
        where: { roomId: layout.room.id, boxId: box.id },
        facts: {},
        source: { rule: 'layout.switchOrder' },
        fixes: [
          {
            code: 'reorder-switches',
            facts: { boxId: box.id },
            change: {
              kind: 'group',
              changes: wanted.flatMap(({ device }, at) =>
                device.gang === gangs[at] ? [] : [setting('devices', device.id, { gang: gangs[at]! })],
              ),
            },
          },
        ],
      },
    ];
  });
}
