/**
 * Draws the plan sheet that lies under the demo's first floor, as a drafter might have: invented by us, like the house. Run with
 * `npx tsx demo/draw-plan-sheet.ts` after the demo, then build the demo again; the result is committed.
 */
import { readFileSync, writeFileSync } from 'node:fs';
import { chromium } from 'playwright-core';
import { readerOf } from '../core/src/derive/reader.js';
import type { DrawnOpening } from '../core/src/exchange/plan-drawing.js';
import { planDrawingInSteps } from '../core/src/exchange/plan-drawing.js';
import { readHouseFile } from '../core/src/house/house-file.js';
import type { Place } from '../core/src/plan/outline.js';
import { finish } from '../core/src/structures/steps.js';
import { CHROMIUM } from '../scripts/lib/browser.mjs';
import { SHEET } from './plan-sheet-place.js';

const read = readHouseFile(readFileSync(new URL('./lot-12.house.json', import.meta.url), 'utf8'));
if (!read.ok) throw new Error(read.problems[0]!.message);
const reader = readerOf(read.house);
const storey = read.file.storeys[0]!;
const { rooms, walls, openings } = finish(planDrawingInSteps(reader, storey.id));

const { widthPx, heightPx, inPerPx, at } = SHEET;
/** Where a place of the plan lies on the sheet, in points. */
const point = ({ xIn, yIn }: Place): readonly [number, number] => [
  widthPx / 2 + (xIn - at.xIn) / inPerPx,
  heightPx / 2 - (yIn - at.yIn) / inPerPx,
];
const list = (places: readonly Place[]): string =>
  places
    .map((place) =>
      point(place)
        .map((n) => n.toFixed(1))
        .join(','),
    )
    .join(' ');
const feet = (inches: number): string => {
  const rounded = Math.round(inches);
  return `${Math.floor(rounded / 12)}'-${rounded % 12}"`;
};

function drawnOpening({ kind, a, b, hinge }: DrawnOpening): string {
  const [[ax, ay], [bx, by]] = [point(a), point(b)];
  const thin = 'stroke="#333" stroke-width="2" fill="none"';
  if (kind === 'window')
    return `<path ${thin} d="M${ax} ${ay}L${bx} ${by}"/><path ${thin} stroke-width="12" opacity=".25" d="M${ax} ${ay}L${bx} ${by}"/>`;
  if (kind === 'opening') return `<path ${thin} stroke-dasharray="14 10" d="M${ax} ${ay}L${bx} ${by}"/>`;
  const [from, to] = hinge === 'a' ? [a, b] : [b, a];
  const tip = { xIn: from.xIn - (b.yIn - a.yIn), yIn: from.yIn + (b.xIn - a.xIn) };
  const [[fx, fy], [tx, ty], [ex, ey]] = [point(from), point(tip), point(to)];
  const radius = Math.hypot(ex - fx, ey - fy);
  return `<path ${thin} d="M${fx} ${fy}L${tx} ${ty}A${radius} ${radius} 0 0 ${hinge === 'a' ? 1 : 0} ${ex} ${ey}"/>`;
}

/** A string of dimensions along the plan, between the lines on which its walls begin. */
function dimensions(lines: readonly number[], isAcross: boolean, off: number): string {
  return lines
    .slice(1)
    .map((to, at) => {
      const from = lines[at]!;
      const [p, q] = isAcross
        ? [point({ xIn: from, yIn: off }), point({ xIn: to, yIn: off })]
        : [point({ xIn: off, yIn: from }), point({ xIn: off, yIn: to })];
      const [mx, my] = [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2];
      const tick = ([x, y]: readonly [number, number]): string => `M${x - 9} ${y + 9}L${x + 9} ${y - 9}`;
      const turn = isAcross ? '' : ` transform="rotate(-90 ${mx} ${my})"`;
      return `<path d="M${p[0]} ${p[1]}L${q[0]} ${q[1]}${tick(p)}${tick(q)}" stroke="#333" stroke-width="2"/><text x="${mx}" y="${my - 10}"${turn} font-size="26" text-anchor="middle">${feet(to - from)}</text>`;
    })
    .join('');
}
const corners = rooms.flatMap(({ outline }) => outline);
const distinct = (values: readonly number[]): number[] =>
  [...new Set(values.map((n) => Math.round(n)))].sort((a, b) => a - b);
const [xs, ys] = [corners.map(({ xIn }) => xIn), corners.map(({ yIn }) => yIn)];
const lowWall = Math.min(...ys);
const leftWall = Math.min(...xs);
const along = distinct(corners.filter(({ yIn }) => yIn < lowWall + 1).map(({ xIn }) => xIn));
const up = distinct(corners.filter(({ xIn }) => xIn < leftWall + 1).map(({ yIn }) => yIn));

const names = rooms.map(({ name, outline }) => {
  const [x, y] = [outline.map(({ xIn }) => xIn), outline.map(({ yIn }) => yIn)];
  const [left, right, low, high] = [Math.min(...x), Math.max(...x), Math.min(...y), Math.max(...y)];
  const [mx, my] = point({ xIn: (left + right) / 2, yIn: (low + high) / 2 });
  return `<text x="${mx}" y="${my}" font-size="34" text-anchor="middle">${name.toUpperCase()}</text><text x="${mx}" y="${my + 34}" font-size="26" text-anchor="middle">${feet(right - left)} × ${feet(high - low)}</text>`;
});
const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${widthPx}" height="${heightPx}" font-family="Barlow Condensed, sans-serif">
<rect width="100%" height="100%" fill="#fff"/>
<rect x="30" y="30" width="${widthPx - 60}" height="${heightPx - 60}" fill="none" stroke="#111" stroke-width="5"/>
<g fill="#222">${walls.map((wall) => `<polygon points="${list(wall)}"/>`).join('')}</g>
${openings.map(drawnOpening).join('')}
<g fill="#222">${names.join('')}${dimensions(along, true, lowWall - 40)}${dimensions([along[0]!, along.at(-1)!], true, lowWall - 62)}${dimensions(up, false, leftWall - 40)}</g>
<g transform="translate(${widthPx - 590} ${heightPx - 560})" fill="#111">
<rect width="530" height="220" fill="#fff" stroke="#111" stroke-width="4"/>
<text x="24" y="56" font-size="38" font-weight="700">LOT 12, TWO STORY</text>
<text x="24" y="106" font-size="30">FIRST FLOOR PLAN</text>
<text x="24" y="150" font-size="28">SCALE 1/4" = 1'-0"</text>
<text x="430" y="140" font-size="56" font-weight="700">A1</text>
<text x="24" y="192" font-size="20">Drawn for the demo: no real house.</text>
</g>
<g transform="translate(${widthPx - 150} 160)"><circle r="60" fill="none" stroke="#111" stroke-width="3"/><path d="M0 -58L16 10L0 0L-16 10Z" fill="#111"/><text y="-72" font-size="34" text-anchor="middle">N</text></g>
</svg>`;

const browser = await chromium.launch(CHROMIUM);
const page = await browser.newPage({ viewport: { width: widthPx, height: heightPx } });
await page.setContent(`<body style="margin:0">${svg}</body>`);
writeFileSync(SHEET.file, await page.screenshot());
await browser.close();
