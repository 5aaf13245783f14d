import * as z from 'zod';

/**
 * Name of a corner within its room: what stands on a wall stands on the wall that begins at this corner, going counter-clockwise.
 */
export const CornerId = z
  .string()
  .min(1)
  .max(40)
  .regex(/^[\w-]+$/, 'is not the name of a corner');
