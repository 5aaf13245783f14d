import type { Place } from '../plan/outline.js';
import type { DrawnOpening, PlanDrawing } from './plan-drawing.js';
import { nameAt } from './plan-drawing.js';

/** Room around the plan, in inches. */
const MARGIN_IN = 24;
const HUES = [205, 25, 130, 280, 0, 55, 170, 320, 235, 95];

const escaped = (text: string): string =>
  text.replace(/[&<>"]/g, (letter) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[letter]!);
const number = (value: number): string => String(Math.round(value * 100) / 100);
const pointsOf = (places: readonly Place[]): string =>
  places.map(({ xIn, yIn }) => `${number(xIn)},${number(-yIn)}`).join(' ');

/** The leaf of a door and its swing; the frame of a window. */
function openingOf({ kind, a, b, hinge }: DrawnOpening): string {
  const line = `<line x1="${number(a.xIn)}" y1="${number(-a.yIn)}" x2="${number(b.xIn)}" y2="${number(-b.yIn)}"/>`;
  if (kind !== 'door') return line;
  const [from, to] = hinge === 'a' ? [a, b] : [b, a];
  const width = Math.hypot(b.xIn - a.xIn, b.yIn - a.yIn);
  // The room lies to the left of the way from a to b.
  const tip = { xIn: from.xIn - (b.yIn - a.yIn), yIn: from.yIn + (b.xIn - a.xIn) };
  const turns = hinge === 'a' ? 1 : 0;
  return `<path d="M${number(from.xIn)} ${number(-from.yIn)}L${number(tip.xIn)} ${number(-tip.yIn)}A${number(width)} ${number(width)} 0 0 ${turns} ${number(to.xIn)} ${number(-to.yIn)}"/>`;
}

/**
 * A story as an SVG picture, a user unit to the inch, with the style of each line in it: it looks the same wherever it is opened.
 * Runs are drawn by circuit, each in its group with its name as title.
 */
export function planSvg(drawing: PlanDrawing, title: string): string {
  const all = [
    ...drawing.rooms.flatMap(({ outline }) => outline),
    ...drawing.walls.flat(),
    ...drawing.boxes.map(({ at }) => at),
    ...drawing.runs.flatMap(({ lines }) => lines.flat()),
  ];
  const [xs, ys] = [all.map(({ xIn }) => xIn), all.map(({ yIn }) => -yIn)];
  const least = (values: readonly number[], without: number): number =>
    values.reduce((low, value) => Math.min(low, value), values[0] ?? without);
  const [left, top] = [least(xs, 0) - MARGIN_IN, least(ys, 0) - MARGIN_IN];
  const most = (values: readonly number[]): number =>
    values.reduce((high, value) => Math.max(high, value), 0);
  const [width, height] = [
    most(xs.map((x) => x - left)) + MARGIN_IN,
    most(ys.map((y) => y - top)) + MARGIN_IN,
  ];
  const group = (id: string, style: string, content: readonly string[]): string =>
    `<g id="${id}" style="${style}">\n${content.join('\n')}\n</g>`;
  const text = (place: Place, size: number, words: string, dy = 0): string =>
    `<text x="${number(place.xIn)}" y="${number(-place.yIn + dy)}" font-size="${size}">${escaped(words)}</text>`;
  const plain = 'fill:none;stroke-linecap:round;stroke-linejoin:round';
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="${number(left)} ${number(top)} ${number(width)} ${number(height)}" font-family="sans-serif">`,
    `<title>${escaped(title)}</title>`,
    `<rect x="${number(left)}" y="${number(top)}" width="${number(width)}" height="${number(height)}" fill="#fff"/>`,
    group(
      'rooms',
      'fill:#f6f3ea;stroke:none',
      drawing.rooms.map(
        ({ name, outline }) =>
          `<polygon points="${pointsOf(outline)}"><title>${escaped(name)}</title></polygon>`,
      ),
    ),
    group(
      'walls',
      'fill:#444;stroke:none',
      drawing.walls.map((wall) => `<polygon points="${pointsOf(wall)}"/>`),
    ),
    group('openings', `${plain};stroke:#777;stroke-width:1`, drawing.openings.map(openingOf)),
    group(
      'runs',
      `${plain};stroke-width:1.5`,
      drawing.runs.map(({ name, cable, circuits, lines }) => {
        const hue = HUES[(circuits[0] ?? 0) % HUES.length]!;
        const drawn = lines.map((line) => `<polyline points="${pointsOf(line)}"/>`).join('');
        const told = [name, cable, circuits.length ? `circuit ${circuits.join('+')}` : ''];
        return `<g style="stroke:hsl(${hue} 60% 40%)"><title>${escaped(told.filter(Boolean).join(', '))}</title>${drawn}</g>`;
      }),
    ),
    group(
      'boxes',
      'fill:#fff;stroke:#111;stroke-width:1',
      drawing.boxes.map(({ tag, room, gangs, at, turnDeg }) => {
        const half = (Math.max(1, gangs) * 1.8125 + 0.5) / 2;
        const shape =
          turnDeg === undefined
            ? `<circle cx="${number(at.xIn)}" cy="${number(-at.yIn)}" r="3"/>`
            : `<rect x="${number(-half)}" y="-3" width="${number(2 * half)}" height="6" transform="translate(${number(at.xIn)} ${number(-at.yIn)}) rotate(${number(-turnDeg)})"/>`;
        return `<g><title>${escaped(room ? `${tag}, ${room}` : tag)}</title>${shape}</g>`;
      }),
    ),
    group('tags', 'fill:#111;stroke:none', [
      ...drawing.boxes.map(({ tag, at }) => text({ xIn: at.xIn + 4, yIn: at.yIn + 4 }, 7, tag)),
      ...drawing.rooms.map(({ name, outline }) => text(nameAt(outline), 11, name, 8)),
    ]),
    '</svg>',
    '',
  ].join('\n');
}
