import type { Derivation, HouseReader } from '../derive/reader.js';
import { boxFacts, boxesOf, cableIn } from '../facts/box-facts.js';
import type { CableId } from '../rulebook/cables.js';
import { cutOf } from '../routing/cut.js';

/** One line of a list for the supply house: so many of an item of the catalogue. */
export interface Counted {
  readonly catalogueId: string;
  readonly count: number;
}
export interface CountedCable {
  /** The type of cable; low voltage has none. */
  readonly cable?: CableId;
  readonly runs: number;
  /** Measured where that is known, estimated elsewhere; feet. */
  readonly feet: number;
  /** Runs of which the length is an estimate. */
  readonly estimated: number;
}

/** What a house takes, roughly: before anything is measured. */
export interface RoughCount {
  readonly boxes: readonly Counted[];
  readonly devices: readonly Counted[];
  readonly homeRuns: number;
  readonly circuits: number;
  readonly cables: readonly CountedCable[];
}

const isPanel = (reader: HouseReader, boxId: string): boolean => {
  const box = reader.get('boxes', boxId);
  return box !== undefined && boxFacts(reader, box).kind === 'panel';
};

function counted(ids: readonly string[]): Counted[] {
  const counts = new Map<string, number>();
  for (const id of ids) counts.set(id, (counts.get(id) ?? 0) + 1);
  return [...counts]
    .map(([catalogueId, count]) => ({ catalogueId, count }))
    .sort((a, b) => b.count - a.count || (a.catalogueId < b.catalogueId ? -1 : 1));
}

/** Of the whole house, by house id. */
const ROUGH_COUNT: Derivation<RoughCount> = {
  name: 'rough count',
  compute: (reader) => {
    const cables = new Map<CableId | undefined, { runs: number; feet: number; estimated: number }>();
    const runs = reader.all('runs').filter(({ kind }) => kind !== 'raceway');
    for (const run of runs) {
      const cable = run.kind === 'cable' ? cableIn(reader, run) : undefined;
      if (run.kind === 'cable' && !cable) continue;
      const { lengthIn, isEstimate } = cutOf(reader, run);
      const feet = lengthIn / 12;
      const line = cables.get(cable) ?? { runs: 0, feet: 0, estimated: 0 };
      cables.set(cable, {
        runs: line.runs + 1,
        feet: line.feet + feet,
        estimated: line.estimated + (isEstimate ? 1 : 0),
      });
    }
    return {
      boxes: counted(reader.all('boxes').flatMap(({ catalogueId }) => (catalogueId ? [catalogueId] : []))),
      devices: counted(reader.all('devices').map(({ catalogueId }) => catalogueId)),
      homeRuns: runs.filter((run) => run.kind === 'cable' && boxesOf(run).some((id) => isPanel(reader, id)))
        .length,
      circuits: reader.all('circuits').length,
      cables: [...cables]
        .map(([cable, line]): CountedCable => ({ ...(cable && { cable }), ...line }))
        .sort((a, b) => b.feet - a.feet),
    };
  },
};

export const roughCount = (reader: HouseReader): RoughCount => reader.derive(ROUGH_COUNT, reader.houseId);
