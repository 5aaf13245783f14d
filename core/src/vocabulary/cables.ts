import * as z from 'zod';
import type { Awg, Colour } from './text.js';

/** Cable types by trade name, gauge and insulated conductors: "14/2" has two of 14 AWG and a bare ground. */
export const CableId = z.enum([
  '14/2',
  '14/3',
  '14/4',
  '12/2',
  '12/3',
  '12/4',
  '10/2',
  '10/3',
  '8/2',
  '8/3',
  '6/2',
  '6/3',
]);
export type CableId = z.infer<typeof CableId>;

export interface Cable {
  readonly id: CableId;
  readonly awg: Awg;
  readonly groundAwg: Awg;
  /** Insulated conductors, in the order in which the sheath lays them. */
  readonly colours: readonly Colour[];
}

const COLOURS: readonly (readonly Colour[])[] = [
  ['BK', 'WH'],
  ['BK', 'RD', 'WH'],
  ['BK', 'RD', 'BU', 'WH'],
];

/** Ground sizes of NM-B cable: as the conductors up to 10 AWG, 10 AWG above (common practice, follows NEC table 250.122 from memory). */
export const CABLES: readonly Cable[] = CableId.options.map((id) => {
  const [awg, count] = id.split('/').map(Number) as [Awg, number];
  return { id, awg, groundAwg: awg >= 10 ? awg : 10, colours: COLOURS[count - 2]! };
});

const BY_ID = new Map(CABLES.map((cable) => [cable.id, cable]));

export const cableOf = (id: CableId): Cable => BY_ID.get(id)!;

/** The cable of one gauge that carries so many insulated conductors; undefined when none is made. */
export const cableFor = (awg: Awg, conductors: number): Cable | undefined =>
  CABLES.find((cable) => cable.awg === awg && cable.colours.length >= conductors);

/** The most insulated conductors that a cable of this gauge is made with. */
export const mostConductors = (awg: Awg): number =>
  Math.max(0, ...CABLES.filter((cable) => cable.awg === awg).map(({ colours }) => colours.length));
