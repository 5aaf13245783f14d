import type { Device, Point } from '../house/model.js';

/** What is known of a box by what is in it. */
interface Furnished {
  readonly devices: readonly Pick<Device, 'catalogueId'>[];
  readonly points: readonly Pick<Point, 'role'>[];
}

export const hasReceptacle = ({ points }: Pick<Furnished, 'points'>): boolean =>
  points.some(({ role }) => role === 'receptacle');

/** It is there for whatever is plugged in, and not for one appliance. */
export const isGeneral = ({ devices }: Pick<Furnished, 'devices'>): boolean =>
  devices.some(
    ({ catalogueId }) => /^receptacle/.test(catalogueId) && !/^receptacle-(single|240)/.test(catalogueId),
  );
