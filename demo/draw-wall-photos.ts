/**
 * Draws stand-ins for photos of open walls of the demo: studs, boxes, cables, a tape on the floor. Invented by us, like the house.
 * Run with `npx tsx demo/draw-wall-photos.ts` after the demo, then build the demo again; the result is committed.
 */
import { readFileSync, writeFileSync } from 'node:fs';
import { chromium } from 'playwright-core';
import { readerOf } from '../core/src/derive/reader.js';
import { readHouseFile } from '../core/src/house/house-file.js';
import { stretchesOf } from '../core/src/routing/wall-stretch.js';
import { CHROMIUM } from '../scripts/lib/browser.mjs';
import type { SeenWall } from './wall-photo-view.js';
import { PHOTO, photographedWalls, pictureOf } from './wall-photo-view.js';

const read = readHouseFile(readFileSync(new URL('./lot-12.house.json', import.meta.url), 'utf8'));
if (!read.ok) throw new Error(read.problems[0]!.message);
const reader = readerOf(read.house);
const { widthPx, heightPx } = PHOTO;

function scene({ wall, highIn, boxes, point, scale }: SeenWall): string {
  const long = wall.lengthIn!;
  const rect = (right: number, up: number, width: number, high: number, style: string): string => {
    const [x, y] = point(right + width, up + high);
    return `<rect x="${x.toFixed(1)}" y="${y.toFixed(1)}" width="${(width * scale).toFixed(1)}" height="${(high * scale).toFixed(1)}" ${style}/>`;
  };
  const wood = 'fill="url(#wood)" stroke="#7d5a34" stroke-width="1"';
  const studs = Array.from({ length: Math.floor(long / 16) + 1 }, (_, at) =>
    rect(Math.min(at * 16, long - 1.5), 1.5, 1.5, highIn - 4.5, wood),
  ).join('');
  const plates = [0, highIn - 3, highIn - 1.5].map((up) => rect(0, up, long, 1.5, wood)).join('');
  const cables = reader
    .all('runs')
    .flatMap(({ id }) => stretchesOf(reader, id))
    .filter(({ roomId, corner }) => roomId === wall.roomId && corner === wall.corner)
    .map(({ from, to }, at) => {
      const [ax, ay] = point(from.fromCornerIn, from.heightIn);
      const [bx, by] = point(to.fromCornerIn, to.heightIn);
      const sag = Math.abs(bx - ax) > 40 ? 6 + (at % 3) * 2 : 0;
      return `<path d="M${ax} ${ay}Q${(ax + bx) / 2} ${(ay + by) / 2 + sag} ${bx} ${by}" fill="none" stroke="${at % 2 ? '#e9e6dc' : '#e3c64d'}" stroke-width="5" stroke-linecap="round"/>`;
    })
    .join('');
  const outlines = boxes
    .map(({ gangs, tape }) => {
      const width = Math.max(1, gangs) * 1.9 + 0.4;
      return rect(
        tape.fromRightIn - width / 2,
        (tape.upIn ?? 16) - 1.9,
        width,
        3.8,
        'rx="3" fill="#2f6ea8" stroke="#16344f" stroke-width="2"',
      );
    })
    .join('');
  const [tx, ty] = point(0, -2);
  const [ux] = point(long, -2);
  const ticks = Array.from({ length: Math.floor(long / 12) + 1 }, (_, foot) => {
    const [x] = point(foot * 12, 0);
    return `<path d="M${x} ${ty}v16" stroke="#222" stroke-width="2"/><text x="${x}" y="${ty + 34}" font-size="17" text-anchor="middle" font-family="monospace">${foot}</text>`;
  }).join('');
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${widthPx}" height="${heightPx}" viewBox="0 0 ${widthPx} ${heightPx}">
  <defs><linearGradient id="wood"><stop offset="0" stop-color="#c99b63"/><stop offset=".5" stop-color="#dcb47f"/><stop offset="1" stop-color="#b98850"/></linearGradient>
  <radialGradient id="dark" cx=".5" cy=".45" r=".75"><stop offset=".6" stop-opacity="0"/><stop offset="1" stop-opacity=".5"/></radialGradient>
  <filter id="grain"><feTurbulence baseFrequency=".9" numOctaves="2" seed="7"/><feColorMatrix values="0 0 0 0 .4 0 0 0 0 .35 0 0 0 0 .3 0 0 0 .12 0"/></filter></defs>
  <rect width="100%" height="100%" fill="#8d8579"/>${rect(0, 0, long, highIn, 'fill="#a9a196"')}
  ${studs}${plates}${cables}${outlines}
  <rect x="${ux}" y="${ty}" width="${tx - ux}" height="40" fill="#e8c93a" stroke="#7d6a10"/>${ticks}
  <rect width="100%" height="100%" filter="url(#grain)"/><rect width="100%" height="100%" fill="url(#dark)"/></svg>`;
}

const browser = await chromium.launch(CHROMIUM);
const page = await browser.newPage();
for (const seen of photographedWalls(reader)) {
  for (const [size, part, quality] of [
    ['large', 1, 62],
    ['small', 0.2, 60],
  ] as const) {
    const [width, height] = [widthPx * part, heightPx * part];
    await page.setViewportSize({ width, height });
    await page.setContent(
      `<body style="margin:0">${scene(seen).replace(/width="\d+" height="\d+"/, `width="${width}" height="${height}"`)}</body>`,
    );
    const bytes = await page.screenshot({ type: 'jpeg', quality });
    writeFileSync(pictureOf(seen.name, size), bytes);
    console.log(seen.name, size, bytes.length);
  }
}
await browser.close();
