import type { Plan } from '../core/src/testing/plan.js';
import type { RoomKind } from '../core/src/vocabulary/kinds.js';

export const inches = (meters: number): number => Math.round((meters * 1000) / 2.54) / 10;

/** Draws rooms and openings of a demo house in meters. */
export function roomsInMeters(plan: Plan) {
  const { file } = plan;
  return {
    inches,
    /** A room from its corner. */
    room(
      name: string,
      kind: RoomKind,
      x: number,
      y: number,
      w: number,
      h: number,
      storeyId?: string,
    ): string {
      const id = plan.room(name, kind, storeyId);
      file.rooms.at(-1)!.outline = [
        [x, y],
        [x + w, y],
        [x + w, y + h],
        [x, y + h],
      ].map(([xM, yM], at) => ({ id: `c${at}`, xIn: inches(xM!), yIn: inches(yM!) }));
      return id;
    },
    opening(roomId: string, wall: number, along: number, kind: 'door' | 'window' | 'opening'): void {
      file.openings.push({
        id: plan.id(),
        roomId,
        corner: `c${wall}`,
        alongIn: inches(along),
        widthIn: inches(kind === 'opening' ? 1.4 : kind === 'window' ? 1.2 : 0.8),
        sillIn: kind === 'window' ? inches(1.05) : 0,
        headIn: inches(2.05),
        kind,
        ...(kind === 'door' && { hinge: 'a' as const }),
      });
    },
  };
}
