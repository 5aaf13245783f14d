import type { HouseReader, Run } from '@mule-tally/core';
import type { Way } from '@mule-tally/core/work';
import { boxFacts, boxName } from '@mule-tally/core';

/** The way of a run in words: "up, over the top plates to the Hall, down". */
export function wayText(reader: HouseReader, run: Run, way: Way): string {
  const room = way.toRoomId && reader.get('rooms', way.toRoomId)?.name;
  const isOverhead = ['ceiling', 'light-box'].includes(
    boxFacts(reader, reader.get('boxes', run.to.boxId)!).kind,
  );
  switch (way.kind) {
    case 'studs':
      return $localize`through the studs along the wall`;
    case 'floors':
      return room
        ? $localize`up or down through the floor, to ${room}`
        : $localize`up or down through the floor`;
    case 'over':
      if (isOverhead)
        return room ? $localize`up and across the ceiling, to ${room}` : $localize`up and across the ceiling`;
      return room
        ? $localize`up, over the top plates to ${room}, down`
        : $localize`up, over the top plates, down`;
    case 'rooms':
      return $localize`way not drawn: as long as such ways commonly are`;
  }
}

/** What is written on sheath and stud: at the panel end, always, number and room of the circuit. */
export function toWrite(reader: HouseReader, run: Run): string | undefined {
  const ends = [run.from.boxId, run.to.boxId];
  const panel = ends.find((id) => boxFacts(reader, reader.get('boxes', id)!).kind === 'panel');
  if (!panel) return run.label;
  const far = ends.find((id) => id !== panel)!;
  const roomId = reader.get('boxes', far)?.roomId;
  const room = (roomId && reader.get('rooms', roomId)?.name) ?? boxName(reader, far);
  const numbers = run.circuitIds.flatMap((id) => reader.get('circuits', id)?.number ?? []);
  return [numbers.join('+'), room, run.label].filter(Boolean).join(' ');
}
