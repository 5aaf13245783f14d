import DxfParser from 'dxf-parser';
import type { Line } from '../plan/enclosed.js';
import type { Place } from '../plan/outline.js';
import { LIMITS, megabytes } from '../vocabulary/limits.js';

/** Units of length of a drawing, in inches. */
export const DRAWING_UNITS = {
  inches: 1,
  feet: 12,
  millimeters: 1 / 25.4,
  centimeters: 1 / 2.54,
  meters: 1 / 0.0254,
} as const;
export type DrawingUnit = keyof typeof DRAWING_UNITS;

/** $INSUNITS of the header: what its numbers say. */
const BY_NUMBER: Readonly<Record<number, DrawingUnit>> = {
  1: 'inches',
  2: 'feet',
  4: 'millimeters',
  5: 'centimeters',
  6: 'meters',
};

/** What is read of a drawing. Numbers are in its own unit, which `xIn` and `yIn` bear all the same until it is known. */
export interface DrawingRead {
  /** What the header says; undefined where it says nothing, or what we do not know. */
  readonly unit?: DrawingUnit;
  readonly layers: readonly DrawingLayer[];
  readonly texts: readonly { readonly text: string; readonly at: Place; readonly height: number }[];
  /** What no outline is made of: kinds of entities with how many there are. */
  readonly notUnderstood: readonly { readonly kind: string; readonly count: number }[];
}
export interface DrawingLayer {
  readonly name: string;
  /** Closed polylines. */
  readonly closed: readonly (readonly Place[])[];
  readonly lines: readonly Line[];
}
export type DrawingResult =
  | { readonly ok: true; readonly drawing: DrawingRead }
  | { readonly ok: false; readonly code: string; readonly message: string };

/** More than this, with all that blocks stand for, is no plan of a house. */
const MOST_ENTITIES = 500_000;
/** Blocks within blocks. */
const DEEPEST = 8;
/** Chords to a full turn of an arc. */
const CHORDS = 32;

interface Raw {
  readonly type: string;
  readonly layer?: string;
  readonly vertices?: readonly { readonly x?: number; readonly y?: number; readonly bulge?: number }[];
  readonly shape?: boolean;
  readonly text?: string;
  readonly startPoint?: { readonly x: number; readonly y: number };
  readonly position?: { readonly x: number; readonly y: number };
  readonly textHeight?: number;
  readonly height?: number;
  readonly name?: string;
  readonly xScale?: number;
  readonly yScale?: number;
  readonly rotation?: number;
  readonly inPaperSpace?: boolean;
}
interface Block {
  readonly position?: { readonly x: number; readonly y: number };
  readonly entities?: readonly Raw[];
}

type Put = (place: Place) => Place;

/** The text of a note without the marks that say how it is written. */
const plainText = (text: string): string =>
  text
    .replace(/\\U\+([0-9A-Fa-f]{4})/g, (_, code: string) => String.fromCharCode(parseInt(code, 16)))
    .replace(/\\P/g, '\n')
    .replace(/\\[A-Za-z][^;\\{}]*;/g, '')
    .replace(/\\[LlOoKk]/g, '')
    .replace(/[{}]/g, '')
    .replace(/%%[uoUO]/g, '')
    .trim();

/** A stretch of a polyline: with a bulge it is an arc, drawn in chords. */
function stretch(a: Place, b: Place, bulge: number): Place[] {
  const chord = Math.hypot(b.xIn - a.xIn, b.yIn - a.yIn);
  if (!bulge || !chord) return [b];
  const turn = 4 * Math.atan(bulge);
  const radius = chord / 2 / Math.sin(Math.abs(turn) / 2);
  const half = Math.atan2(b.yIn - a.yIn, b.xIn - a.xIn);
  const toCenter = half + (Math.PI / 2 - Math.abs(turn) / 2) * Math.sign(turn);
  const center = { xIn: a.xIn + radius * Math.cos(toCenter), yIn: a.yIn + radius * Math.sin(toCenter) };
  const start = Math.atan2(a.yIn - center.yIn, a.xIn - center.xIn);
  const many = Math.max(1, Math.ceil((Math.abs(turn) / (2 * Math.PI)) * CHORDS));
  return Array.from({ length: many }, (_, at) => {
    if (at === many - 1) return b;
    const angle = start + (turn * (at + 1)) / many;
    return { xIn: center.xIn + radius * Math.cos(angle), yIn: center.yIn + radius * Math.sin(angle) };
  });
}

/** Kinds of entities of the drawing itself, as the file names them: the package leaves out those that it does not know. */
function kindsIn(text: string): Map<string, number> {
  const counts = new Map<string, number>();
  const lines = text.split(/\r\n|\r|\n/);
  let section = '';
  for (let at = 0; at + 1 < lines.length; at += 2) {
    const [code, value] = [lines[at]!.trim(), lines[at + 1]!.trim()];
    if (code === '0' && value === 'SECTION') section = lines[at + 3]?.trim() ?? '';
    else if (code === '0' && value === 'ENDSEC') section = '';
    else if (code === '0' && section === 'ENTITIES') counts.set(value, (counts.get(value) ?? 0) + 1);
  }
  return counts;
}

/** Kinds that outlines and names are made of, and parts of them. */
const UNDERSTOOD = new Set([
  ...['LINE', 'LWPOLYLINE', 'POLYLINE', 'VERTEX', 'SEQEND'],
  ...['TEXT', 'MTEXT', 'INSERT', 'ATTRIB', 'VIEWPORT'],
]);

const failed = (code: string, message: string): DrawingResult => ({ ok: false, code, message });

/**
 * Reads a DXF drawing (ASCII): lines and polylines by layer, blocks taken apart, names. Arcs by themselves, circles, hatches,
 * dimensions and all else are counted and left out. Codes: dxf.empty, dxf.too-large, dxf.binary, dxf.broken, dxf.too-much,
 * dxf.nothing.
 */
export function readDxf(text: string): DrawingResult {
  if (!text.trim()) return failed('dxf.empty', 'This file is empty.');
  if (text.length > LIMITS.exchangeBytes)
    return failed(
      'dxf.too-large',
      `This drawing has more than ${megabytes(LIMITS.exchangeBytes)}: save only the floor plan.`,
    );
  if (text.startsWith('AutoCAD Binary DXF') || text.includes('\0'))
    return failed('dxf.binary', 'This is no DXF in text: save it as an ASCII DXF.');
  let parsed: ReturnType<DxfParser['parseSync']>;
  let kinds: Map<string, number>;
  try {
    kinds = kindsIn(text);
    parsed = new DxfParser().parseSync(text);
  } catch {
    parsed = null;
    kinds = new Map();
  }
  if (!parsed?.entities)
    return failed(
      'dxf.broken',
      'This is no DXF drawing, or it is broken or cut off: nothing of it was read.',
    );
  const read = new Reading((parsed.blocks ?? {}) as unknown as Readonly<Record<string, Block>>);
  const isWhole = read.all(parsed.entities as unknown as readonly Raw[], (place) => place, '0', 0);
  if (!isWhole)
    return failed(
      'dxf.too-much',
      'This drawing holds more than any plan of a house: save only the floor plan.',
    );
  const layers = [...read.layers]
    .map(([name, own]) => ({ name, ...own }))
    .sort((a, b) => (a.name < b.name ? -1 : 1));
  if (layers.length === 0)
    return failed(
      'dxf.nothing',
      'There is no line and no polyline in this drawing that outlines could be made of.',
    );
  const unit = BY_NUMBER[Number((parsed.header as Record<string, unknown> | undefined)?.['$INSUNITS'])];
  return {
    ok: true,
    drawing: {
      ...(unit && { unit }),
      layers,
      texts: read.texts,
      notUnderstood: [...kinds]
        .filter(([kind]) => !UNDERSTOOD.has(kind))
        .map(([kind, count]) => ({ kind, count }))
        .sort((a, b) => b.count - a.count || (a.kind < b.kind ? -1 : 1)),
    },
  };
}

/** What has been read so far. */
class Reading {
  readonly layers = new Map<string, { closed: (readonly Place[])[]; lines: Line[] }>();
  readonly texts: { text: string; at: Place; height: number }[] = [];
  private count = 0;
  constructor(private readonly blocks: Readonly<Record<string, Block>>) {}

  private on(layer: string): { closed: (readonly Place[])[]; lines: Line[] } {
    const known = this.layers.get(layer);
    if (known) return known;
    const made = { closed: [], lines: [] };
    this.layers.set(layer, made);
    return made;
  }

  /** Takes all of these; false where it is more than any plan has. */
  all(entities: readonly Raw[], put: Put, within: string, depth: number): boolean {
    for (const entity of entities) {
      if (++this.count > MOST_ENTITIES) return false;
      if (entity.inPaperSpace) continue;
      // What lies on layer 0 of a block lies on the layer that the block is put on.
      const layer = entity.layer === undefined || (entity.layer === '0' && depth > 0) ? within : entity.layer;
      if (entity.type === 'INSERT') {
        if (depth < DEEPEST && !this.block(entity, put, layer, depth)) return false;
      } else this.one(entity, put, layer);
    }
    return true;
  }

  private block(insert: Raw, put: Put, layer: string, depth: number): boolean {
    const block = this.blocks[insert.name ?? ''];
    if (!block?.entities || !insert.position) return true;
    const { position, xScale = 1, yScale = 1, rotation = 0 } = insert;
    const angle = (rotation * Math.PI) / 180;
    const base = block.position ?? { x: 0, y: 0 };
    const inner: Put = ({ xIn, yIn }) => {
      const [x, y] = [(xIn - base.x) * xScale, (yIn - base.y) * yScale];
      return put({
        xIn: position.x + x * Math.cos(angle) - y * Math.sin(angle),
        yIn: position.y + x * Math.sin(angle) + y * Math.cos(angle),
      });
    };
    return this.all(block.entities, inner, layer, depth + 1);
  }

  private one(entity: Raw, put: Put, layer: string): void {
    if (entity.type === 'TEXT' || entity.type === 'MTEXT') {
      const at = entity.startPoint ?? entity.position;
      if (!at || !entity.text) return;
      const place = put({ xIn: at.x, yIn: at.y });
      this.texts.push({
        text: plainText(entity.text),
        at: place,
        height: entity.textHeight ?? entity.height ?? 0,
      });
      return;
    }
    if (entity.type !== 'LINE' && entity.type !== 'LWPOLYLINE' && entity.type !== 'POLYLINE') return;
    const corners = (entity.vertices ?? []).map(({ x, y, bulge = 0 }) => ({
      place: { xIn: x ?? NaN, yIn: y ?? NaN },
      bulge,
    }));
    if (corners.length < 2 || corners.some(({ place }) => !Number.isFinite(place.xIn + place.yIn))) return;
    const places: Place[] = [put(corners[0]!.place)];
    for (let at = 1; at < corners.length; at++)
      places.push(...stretch(corners[at - 1]!.place, corners[at]!.place, corners[at - 1]!.bulge).map(put));
    const first = corners[0]!.place;
    const last = corners.at(-1)!;
    const meets =
      corners.length > 3 && Math.hypot(first.xIn - last.place.xIn, first.yIn - last.place.yIn) === 0;
    const own = this.on(layer);
    if (entity.type !== 'LINE' && (entity.shape || meets)) {
      if (meets) places.pop();
      else places.push(...stretch(last.place, first, last.bulge).slice(0, -1).map(put));
      own.closed.push(places);
    } else for (let at = 1; at < places.length; at++) own.lines.push([places[at - 1]!, places[at]!]);
  }
}
