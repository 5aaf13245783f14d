import * as z from 'zod';
import { Id } from './text.js';

/**
 * What somebody is to the crew. A lead may do everything; a hand does the work and says so (pulls, walks, make-up, tests);
 * a viewer reads: an inspector, or the crew that trims out.
 */
export const Role = z.enum(['lead', 'hand', 'viewer']);
export type Role = z.infer<typeof Role>;

/** Another role in one house. */
export const RoleInHouse = z.strictObject({ houseId: Id, role: Role });

/** Who makes a change, as far as their rights go. */
export interface Actor {
  readonly id: string;
  /** A hand, where nothing is said. */
  readonly role?: Role | undefined;
  readonly roleIn?: readonly z.infer<typeof RoleInHouse>[] | undefined;
}

/** What somebody is in a house; without one, in the crew. */
export const roleOf = ({ role = 'hand', roleIn }: Actor, houseId?: string): Role =>
  roleIn?.find((own) => own.houseId === houseId)?.role ?? role;
