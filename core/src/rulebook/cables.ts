import * as z from 'zod';
import type { Cable } from '../vocabulary/catalogue-types.js';
import type { Gauge } from '../vocabulary/size.js';
import { JURISDICTIONS } from './jurisdictions.js';
import type { Rulebook } from './rulebook.js';

const CABLES = JURISDICTIONS.flatMap(({ cables }) => cables);
const BY_ID = new Map(CABLES.map((cable) => [cable.id, cable]));

/** A cable by what it is called, in any country: "14/2". */
export const CableId = z.enum([...BY_ID.keys()] as [string, ...string[]]);
export type CableId = z.infer<typeof CableId>;

export const cableOf = (id: CableId): Cable => BY_ID.get(id)!;

/** The cable of one gauge that carries so many insulated conductors; undefined when none is made. */
export const cableFor = (rules: Rulebook, gauge: Gauge, conductors: number): Cable | undefined =>
  rules.jurisdiction.cables.find(
    (cable) => !cable.old && cable.gauge === gauge && cable.colours.length >= conductors,
  );

/** The most insulated conductors that a cable of this gauge is made with. */
export const mostConductors = (rules: Rulebook, gauge: Gauge): number =>
  Math.max(
    0,
    ...rules.jurisdiction.cables
      .filter((cable) => !cable.old && cable.gauge === gauge)
      .map(({ colours }) => colours.length),
  );
