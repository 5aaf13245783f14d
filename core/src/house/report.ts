import * as z from 'zod';
import { LIMITS } from '../vocabulary/limits.js';
import { Id } from '../vocabulary/text.js';

/** What a light or outlet is seen to do. `odd`: dim, or far too bright. `trips`: the breaker does not hold. */
export const Seen = z.enum(['off', 'on', 'odd', 'trips']);
export type Seen = z.infer<typeof Seen>;

/** Points of which the lever is up; all others are down. */
const Up = z.array(Id).max(LIMITS.records).readonly();

/** The end of a conductor in a box, where a lead of a meter is held. */
export const MeterEnd = z.strictObject({ boxId: Id, runId: Id, key: z.string().min(1).max(20) }).readonly();
export type MeterEnd = z.infer<typeof MeterEnd>;

/** Where one has to get to for finding and mending a fault: of a breaker its circuit, of a wall its run. */
export const FaultPlace = z
  .strictObject({ kind: z.enum(['breaker', 'panel', 'box', 'device', 'wall']), id: Id })
  .readonly();
export type FaultPlace = z.infer<typeof FaultPlace>;

/** What somebody says of a circuit that has a fault; each by itself, in any order, wrong now and then. */
export const Report = z.discriminatedUnion('kind', [
  /** A light or outlet with the levers so. */
  z.strictObject({ kind: z.literal('seen'), up: Up, pointId: Id, seen: Seen }).readonly(),
  /** A light or outlet however the levers stand: always on, never on; `trips`: the breaker holds in no position. */
  z
    .strictObject({ kind: z.literal('habit'), pointId: Id, does: z.enum(['always', 'never', 'trips']) })
    .readonly(),
  /** A light or outlet is on exactly when another one is, which it should not be. */
  z.strictObject({ kind: z.literal('with'), pointId: Id, other: Id }).readonly(),
  /** A place that was opened, tried or looked at: whether the cause was there. */
  z.strictObject({ kind: z.literal('looked'), place: FaultPlace, isThere: z.boolean() }).readonly(),
  /** In a box that is open, the cable that leads on is taken loose for the time: whether the breaker trips still. */
  z.strictObject({ kind: z.literal('parted'), boxId: Id, runId: Id, up: Up, trips: z.boolean() }).readonly(),
  /** Two conductors with nothing connected: whether a meter rings between them. */
  z
    .strictObject({
      kind: z.literal('rang'),
      ends: z.tuple([MeterEnd, MeterEnd]).readonly(),
      rings: z.boolean(),
    })
    .readonly(),
  /** Two conductors with the breaker on: full voltage, none, or something between (also what a floating conductor shows). */
  z
    .strictObject({
      kind: z.literal('volts'),
      ends: z.tuple([MeterEnd, MeterEnd]).readonly(),
      up: Up,
      reads: z.enum(['full', 'none', 'between']),
    })
    .readonly(),
]);
export type Report = z.infer<typeof Report>;

/** What was found to be the cause: which kind of fault, where, and at which conductor. */
export const FoundCause = z
  .strictObject({
    /** As the rulebook's table of faults calls it. */
    fault: z.string().min(1).max(60),
    place: FaultPlace,
    conductor: z
      .strictObject({ runId: Id, key: z.string().min(1).max(20) })
      .readonly()
      .optional(),
  })
  .readonly();
export type FoundCause = z.infer<typeof FoundCause>;

/** Code of the record that the power state of a house was changed: what was proven dead before is to be proven again. */
export const POWER_CHANGED_STEP = 'power-changed';
