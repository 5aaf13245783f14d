import type { Colour } from '@mule-tally/core';
import type { BoxJoint, SaidCable, SaidMakeUp, SaidSheet } from '@mule-tally/core/work';
import { CableId, cableOf, landingKey, terminalKey, gaugeNumber } from '@mule-tally/core';
import { isLink } from '@mule-tally/core/work';

/**
 * Where everything of a box goes when it is drawn from the inside: cables come in at the top by slot, every joint has a row
 * of its own in the order of the make-up, devices stand at the bottom by gang. All in drawing units (1 = 1 pixel at full
 * size); nothing here knows the trade beyond that order.
 */
export interface BoxDrawing {
  readonly width: number;
  readonly height: number;
  /** Width of the strip with the numbers of the steps. */
  readonly labels: number;
  readonly box: Rect;
  readonly cables: readonly CableShape[];
  readonly wires: readonly WireShape[];
  readonly rows: readonly RowShape[];
  readonly devices: readonly DeviceShape[];
}

interface Rect {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

export interface CableShape extends Rect {
  readonly cable: SaidCable;
  readonly gauge: string;
}

/** One conductor from its sheath to its joint, or one pigtail from its joint to a screw. */
export interface WireShape {
  readonly id: string;
  readonly step: number;
  readonly colour: Colour;
  /** Points of the line, in drawing units. */
  readonly path: string;
  readonly runId?: string;
  readonly key?: string;
  /** Letter code and where it stands. */
  readonly code?: { readonly text: string; readonly x: number; readonly y: number };
  /** Bands of tape that mark a white again. */
  readonly marks: readonly { readonly x: number; readonly y: number }[];
}

export interface RowShape {
  readonly step: number;
  readonly y: number;
  readonly label: string;
  /** Where the connector, the cap or the uncut loop is drawn. */
  readonly at: number;
  readonly kind: BoxJoint['kind'];
  /** A splice, but for one whose wires all go into one terminal. */
  readonly hasConnector: boolean;
  readonly connector?: { readonly id: string; readonly name: string };
}

export interface ScrewShape {
  readonly x: number;
  readonly y: number;
  readonly name: string;
}

export interface DeviceShape extends Rect {
  readonly sheet: SaidSheet;
  readonly screws: readonly ScrewShape[];
}

/** How much room things take: on a wide screen beside each other, on a phone close together and the names of screws upright. */
export interface Geometry {
  readonly wireGap: number;
  readonly cableGap: number;
  /** Left of the cables: numbers of the steps. */
  readonly label: number;
  readonly row: number;
  readonly screwGap: number;
  readonly deviceHeight: number;
  readonly isUpright: boolean;
}
export const WIDE: Geometry = {
  wireGap: 20,
  cableGap: 22,
  label: 50,
  row: 34,
  screwGap: 66,
  deviceHeight: 92,
  isUpright: false,
};
export const NARROW: Geometry = {
  wireGap: 15,
  cableGap: 12,
  label: 38,
  row: 38,
  screwGap: 34,
  deviceHeight: 168,
  isUpright: true,
};
const SHEATH = 84;
const MARGIN = 14;

/** Raceway has no sheath of a gauge. */
const isCable = (what: string | undefined): what is string => CableId.safeParse(what).success;

export function drawBox(made: SaidMakeUp, geometry = WIDE): BoxDrawing {
  const { wireGap, cableGap, label, row, screwGap, deviceHeight } = geometry;
  const conductorsOf = new Map<string, { key: string; colour: Colour; step: number }[]>();
  made.steps.forEach((step, index) => {
    for (const { runId, key, colour } of step.joint.ends) {
      const list = conductorsOf.get(runId) ?? [];
      list.push({ key, colour, step: index });
      conductorsOf.set(runId, list);
    }
  });
  const top = MARGIN + SHEATH;
  const rowY = (index: number): number => top + 34 + index * row;
  const rowsEnd = rowY(made.steps.length);

  const cables: CableShape[] = [];
  const startX = new Map<string, number>();
  let x = MARGIN + label;
  for (const cable of made.cables) {
    const own = conductorsOf.get(cable.runId) ?? [];
    const width = Math.max(3, own.length) * wireGap + 8;
    own.forEach(({ key }, index) =>
      startX.set(`${cable.runId} ${key}`, x + (width - (own.length - 1) * wireGap) / 2 + index * wireGap),
    );
    cables.push({
      cable,
      gauge: isCable(cable.cable) ? gaugeNumber(cableOf(cable.cable).gauge) : '',
      x,
      y: MARGIN,
      width,
      height: SHEATH,
    });
    x += width + cableGap;
  }
  const cablesEnd = x;

  const devices: DeviceShape[] = [];
  const screws = new Map<string, ScrewShape>();
  x = MARGIN + label;
  for (const sheet of made.devices) {
    const width = Math.max(2, sheet.terminals.length) * screwGap + 12;
    const own = sheet.terminals.map(({ terminal, screw: screwName }, index): ScrewShape => {
      const screw = {
        x: x + 6 + screwGap / 2 + index * screwGap,
        y: rowsEnd + 44,
        name: screwName,
      };
      screws.set(landingKey({ deviceId: sheet.deviceId, terminal }), screw);
      return screw;
    });
    devices.push({ sheet, screws: own, x, y: rowsEnd + 26, width, height: deviceHeight });
    x += width + cableGap;
  }
  const width = Math.max(cablesEnd, x, MARGIN + label + 160) - cableGap + MARGIN * 2;
  const boxScrew: ScrewShape = { x: MARGIN + label - 18, y: rowsEnd + 44, name: '' };

  const wires: WireShape[] = [];
  const rows: RowShape[] = [];
  const linkFrom = new Map<string, { x: number; y: number }>();
  made.steps.forEach((step, index) => {
    const y = rowY(index);
    const { ends, landings, kind } = step.joint;
    const starts = ends.map(({ runId, key }) => startX.get(`${runId} ${key}`)!);
    const targets = landings.map((to) =>
      to.deviceId ? screws.get(landingKey(to)) : to.terminal.kind === 'box-ground' ? boxScrew : undefined,
    );
    const xs = [...starts, ...targets.flatMap((screw) => (screw ? [screw.x] : []))];
    const at = starts.length
      ? starts.reduce((sum, value) => sum + value, 0) / starts.length
      : (xs[0] ?? MARGIN + label);
    const meet = kind === 'land' && targets[0] ? targets[0].x : at;
    ends.forEach(({ runId, key, colour, reidentified }, end) => {
      const from = starts[end]!;
      const tail =
        kind === 'land' && targets[0] ? ` L${meet} ${y} L${meet} ${targets[0].y - 9}` : ` L${meet} ${y}`;
      wires.push({
        id: `${runId} ${key}`,
        step: index,
        colour,
        runId,
        key,
        path: `M${from} ${top - 8} L${from} ${y}${tail}`,
        code: { text: colour === 'BARE' ? '' : colour, x: from, y: top + 12 },
        marks: reidentified
          ? [
              { x: from, y: top + 20 },
              { x: from, y: y - 8 },
            ]
          : [],
      });
    });
    if (kind !== 'land') {
      const colour = step.tailColour;
      // A splice that is divided: the link from its first part to the next.
      for (const { terminal } of landings.filter(isLink)) {
        const link = terminalKey(terminal);
        const other = linkFrom.get(link);
        if (!other) linkFrom.set(link, { x: at, y });
        else
          wires.push({
            id: `${index} ${link}`,
            step: index,
            colour,
            path: `M${other.x} ${other.y} L${at} ${other.y} L${at} ${y}`,
            marks: [],
          });
      }
      targets.forEach((screw, number) => {
        if (!screw) return;
        wires.push({
          id: `${index} tail ${number}`,
          step: index,
          colour,
          path: `M${at} ${y} L${screw.x} ${y} L${screw.x} ${screw.y - 9}`,
          marks: [],
        });
      });
    }
    rows.push({
      step: index,
      y,
      label: step.title,
      at,
      kind,
      hasConnector: kind === 'splice' && !step.held,
      ...(step.connector && { connector: step.connector }),
    });
  });
  const height = rowsEnd + 26 + (devices.length ? deviceHeight : 10) + MARGIN * 2;
  return {
    width,
    height,
    labels: MARGIN + label,
    box: { x: MARGIN / 2, y: top - 22, width: width - MARGIN, height: height - top + 22 - MARGIN / 2 },
    cables,
    wires,
    rows,
    devices,
  };
}
