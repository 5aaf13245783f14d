import * as z from 'zod';
import { Awg } from './text.js';

/** Cross-sections of conductors in mm² that the product knows, thinnest first. */
export const Mm2 = z.union([
  z.literal(0.75),
  z.literal(1),
  z.literal(1.5),
  z.literal(2.5),
  z.literal(4),
  z.literal(6),
  z.literal(10),
  z.literal(16),
]);
export type Mm2 = z.infer<typeof Mm2>;

/** Size of a conductor in the system that it is sold by. */
export const Size = z.discriminatedUnion('system', [
  z.strictObject({ system: z.literal('awg'), value: Awg }),
  z.strictObject({ system: z.literal('mm2'), value: Mm2 }),
]);
export type Size = z.infer<typeof Size>;

/** A size in American Wire Gauge. */
export const awg = (value: Awg): Size => ({ system: 'awg', value });
/** A cross-section in mm². */
export const mm2 = (value: Mm2): Size => ({ system: 'mm2', value });

/**
 * A size as a key: of tables, of bundles, of rules ("fill.volume.14", "wire.maxBreaker.2.5mm2"). What it stands for is looked
 * up, never read off it.
 */
export type Gauge = Awg | `${Mm2}mm2`;

/** Cross-sections as keys. */
export const MM2_KEYS = Mm2.options.map(({ value }) => `${value}mm2` as const);

interface KnownSize {
  readonly gauge: Gauge;
  readonly size: Size;
  /** Cross-section in mm². */
  readonly area: number;
}

/** Cross-section of solid wire in mm² by the formula of American Wire Gauge (ASTM B258, from memory): d = 0.127 · 92^((36 − n)/39) mm. */
const awgArea = (value: Awg): number => (Math.PI / 4) * (0.127 * 92 ** ((36 - value) / 39)) ** 2;

const KNOWN: readonly KnownSize[] = [
  ...Awg.options.map(({ value }): KnownSize => ({ gauge: value, size: awg(value), area: awgArea(value) })),
  ...Mm2.options.map(({ value }): KnownSize => ({ gauge: `${value}mm2`, size: mm2(value), area: value })),
].sort((a, b) => b.area - a.area);

/** Every size, the thickest first. */
export const GAUGES: readonly Gauge[] = KNOWN.map(({ gauge }) => gauge);

const BY_GAUGE = new Map(KNOWN.map((known) => [known.gauge, known]));
const BY_SIZE = new Map(KNOWN.map((known) => [`${known.size.system} ${known.size.value}`, known.gauge]));

/** The key of a size. */
export const gaugeOf = ({ system, value }: Size): Gauge => BY_SIZE.get(`${system} ${value}`)!;
/** The size that a key stands for. */
export const sizeOf = (gauge: Gauge): Size => BY_GAUGE.get(gauge)!.size;
/** Cross-section in mm². */
export const areaOf = (gauge: Gauge): number => BY_GAUGE.get(gauge)!.area;

export const isThicker = (one: Gauge, other: Gauge): boolean => areaOf(one) > areaOf(other);

/** The thickest of these; undefined for none. */
export const thickest = (gauges: readonly Gauge[]): Gauge | undefined =>
  gauges.length ? gauges.reduce((a, b) => (isThicker(b, a) ? b : a)) : undefined;
/** The thinnest of these; undefined for none. */
export const thinnest = (gauges: readonly Gauge[]): Gauge | undefined =>
  gauges.length ? gauges.reduce((a, b) => (isThicker(a, b) ? b : a)) : undefined;

/** "14", "2.5": as it is written on a cable. */
export const gaugeNumber = (gauge: Gauge): string => String(sizeOf(gauge).value);
/** "14 AWG", "2.5 mm²" */
export const gaugeText = (gauge: Gauge): string =>
  `${gaugeNumber(gauge)} ${sizeOf(gauge).system === 'awg' ? 'AWG' : 'mm²'}`;
