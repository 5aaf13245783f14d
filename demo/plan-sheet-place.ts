/** The plan sheet under the demo's first floor: 18 by 12 inches of paper, a quarter inch to the foot, 150 points to the inch. */
export const SHEET = {
  file: new URL('./pictures/lot-12-first-floor.png', import.meta.url),
  name: 'Sheet A1, first floor',
  widthPx: 2700,
  heightPx: 1800,
  inPerPx: 48 / 150,
  turnDeg: 0,
  at: { xIn: 300, yIn: 195 },
  scaledByIn: 44 * 12,
} as const;
