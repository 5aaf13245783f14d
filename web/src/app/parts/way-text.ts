import type { HouseReader, Run } from '@mule-tally/core';
import { boxFacts, boxName } from '@mule-tally/core';
import { wallNumber } from '@mule-tally/core/furnish';
import type { Units, Way, WaySegment } from '@mule-tally/core/work';
import { framingGraph } from '@mule-tally/core/work';

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
    case 'under':
      return room ? $localize`down, under the floor to ${room}, up` : $localize`down, under the floor, up`;
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

/** Why there is no way, in a sentence; undefined where there is one. */
export function noWayText({ unknown }: Way): string | undefined {
  switch (unknown) {
    case undefined:
      return undefined;
    case 'no-place':
      return $localize`One of its boxes has no place on the plan yet, so its length is an estimate.`;
    case 'no-wall':
      return $localize`One of its boxes stands in no wall of its room, so its length is an estimate. Drag it to its wall.`;
    case 'no-space':
      return $localize`Cable cannot get to one of its boxes: it stands in an opening, or nothing that cable goes through is over or under it. Its length is an estimate.`;
    case 'apart':
      return $localize`No way along the framing leads from one box to the other: what lies between them is a slab, a roof, a beam, or not drawn. Its length is an estimate; measure it, or say who permits what to be bored.`;
  }
}

const isDown = ({ from, to }: WaySegment): boolean => to.zIn < from.zIn;

/** A way stretch by stretch: "up 3' 8"", "wall 2 of Kitchen, 7', 5 studs". Short ups and downs to a row of holes are left away. */
export function waySteps(reader: HouseReader, units: Units, way: Way): string[] {
  const graph = framingGraph(reader);
  const steps: string[] = [];
  let past = 0;
  for (const segment of way.segments) {
    const { kind, lengthIn, wall } = segment;
    const until = past + lengthIn;
    // Each hole belongs to one stretch: one right between two to the first of them.
    const begin = past === 0 ? -1 : past + 0.01;
    const holes = way.crossings.filter(({ pastIn }) => pastIn > begin && pastIn <= until + 0.01);
    past = until;
    const length = units.short(Math.round(lengthIn));
    if (kind === 'rise' || kind === 'plate') {
      if (kind === 'plate')
        steps.push(
          holes.some(({ plate }) => plate === 'sole')
            ? $localize`through the sole plate, ${length}`
            : $localize`through the top plate, ${length}`,
        );
      else if (lengthIn >= 6)
        steps.push(isDown(segment) ? $localize`down ${length}` : $localize`up ${length}`);
    } else if (kind === 'studs' && wall !== undefined) {
      if (lengthIn < 1) continue;
      const { left, right } = graph.walls[wall]!.framed.wall;
      const face = left ?? right;
      const room = face && reader.get('rooms', face.roomId);
      const name = room
        ? $localize`wall ${wallNumber(room, face.corner) ?? ''} of ${room.name}`
        : $localize`the wall`;
      const studs = holes.filter(({ bored }) => bored !== 'corner' && bored !== 'plate').length;
      steps.push(
        studs === 0
          ? $localize`${name}, ${length}`
          : studs === 1
            ? $localize`${name}, ${length}, 1 stud`
            : $localize`${name}, ${length}, ${studs} studs`,
      );
      if (holes.some(({ bored }) => bored === 'corner')) steps.push($localize`round the corner`);
    } else if (lengthIn >= 1) {
      const joists = holes.filter(({ bored }) => bored === 'joist').length;
      steps.push(
        kind === 'over'
          ? $localize`over the joists, ${length}`
          : joists
            ? $localize`through ${joists} joists, ${length}`
            : $localize`along the joists, ${length}`,
      );
    }
  }
  return steps;
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
