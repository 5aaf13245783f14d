import type { Underlay } from '../house/underlay.js';
import type { Place } from './outline.js';

/** A point of a picture: from its upper left corner across and down. */
export interface PicturePoint {
  readonly x: number;
  readonly y: number;
}

/** What cannot be done with two marks on a plan sheet. */
export type UnderlayProblem = 'marks-meet' | 'no-length' | 'no-scale';

/** Marks that stand nearer to each other than this, in points of the picture, give no scale. */
const APART_PX = 8;

const turned = ({ xIn, yIn }: Place, degrees: number): Place => {
  const angle = (degrees * Math.PI) / 180;
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  return { xIn: xIn * cos - yIn * sin, yIn: xIn * sin + yIn * cos };
};

/** Where on the plan, in inches, a point of the picture lies. */
export function placeOfPoint(underlay: Underlay, { x, y }: PicturePoint): Place {
  const { widthPx, heightPx, inPerPx, turnDeg, at } = underlay;
  const own = { xIn: (x - widthPx / 2) * inPerPx, yIn: (heightPx / 2 - y) * inPerPx };
  const { xIn, yIn } = turned(own, turnDeg);
  return { xIn: at.xIn + xIn, yIn: at.yIn + yIn };
}

/** The point of the picture that lies on a place of the plan. */
export function pointAtPlace(underlay: Underlay, place: Place): PicturePoint {
  const { widthPx, heightPx, inPerPx, turnDeg, at } = underlay;
  const own = turned({ xIn: place.xIn - at.xIn, yIn: place.yIn - at.yIn }, -turnDeg);
  return { x: widthPx / 2 + own.xIn / inPerPx, y: heightPx / 2 - own.yIn / inPerPx };
}

/** The same sheet, lying so that a point of the picture comes to a place of the plan. */
const holding = (underlay: Underlay, point: PicturePoint, place: Place): Underlay => {
  const now = placeOfPoint(underlay, point);
  return {
    ...underlay,
    at: {
      xIn: underlay.at.xIn + place.xIn - now.xIn,
      yIn: underlay.at.yIn + place.yIn - now.yIn,
    },
  };
};

/**
 * Sets a sheet to scale: from `a` to `b`, places of the plan, it is so many inches in the house. What lies at `a` stays there.
 * Problems: `marks-meet` where both marks are one, `no-length` where the length is none, `no-scale` where it would come out
 * larger than any house.
 */
export function scaledByLength(
  underlay: Underlay,
  a: Place,
  b: Place,
  lengthIn: number,
): Underlay | UnderlayProblem {
  const [from, to] = [pointAtPlace(underlay, a), pointAtPlace(underlay, b)];
  const points = Math.hypot(to.x - from.x, to.y - from.y);
  if (points < APART_PX) return 'marks-meet';
  if (!(lengthIn > 0)) return 'no-length';
  const inPerPx = lengthIn / points;
  if (inPerPx > 1000 || inPerPx * Math.max(underlay.widthPx, underlay.heightPx) > 100_000) return 'no-scale';
  return holding({ ...underlay, inPerPx, scaledByIn: lengthIn }, from, a);
}

/** Turns a sheet about `a` so that the line from `a` to `b` runs straight across or straight up, whichever is nearer. */
export function turnedStraight(underlay: Underlay, a: Place, b: Place): Underlay | UnderlayProblem {
  const [from, to] = [pointAtPlace(underlay, a), pointAtPlace(underlay, b)];
  if (Math.hypot(to.x - from.x, to.y - from.y) < APART_PX) return 'marks-meet';
  const angle = (Math.atan2(b.yIn - a.yIn, b.xIn - a.xIn) * 180) / Math.PI;
  const off = angle - Math.round(angle / 90) * 90;
  return holding(turnedBy(underlay, -off), from, a);
}

/** The sheet turned about its middle by so many degrees, counter-clockwise. */
export function turnedBy(underlay: Underlay, degrees: number): Underlay {
  const turn = (((underlay.turnDeg + degrees) % 360) + 360) % 360;
  return { ...underlay, turnDeg: Math.round((turn > 180 ? turn - 360 : turn) * 1e6) / 1e6 };
}

/** A sheet as it is first laid down: in the middle of a frame of the plan and as wide as it; not to scale yet. */
export function laidDown(
  picture: Pick<Underlay, 'asset' | 'name' | 'widthPx' | 'heightPx'>,
  frame: { readonly middle: Place; readonly widthIn: number },
): Underlay {
  const { middle } = frame;
  const inPerPx = Math.min(100, Math.max(60, frame.widthIn) / picture.widthPx);
  return { ...picture, inPerPx, turnDeg: 0, at: { xIn: middle.xIn, yIn: middle.yIn } };
}
