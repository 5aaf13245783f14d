import type { Derivation, HouseReader } from '../../derive/reader.js';
import { BOX_MADE, conductorsOf, runsAt } from '../../facts/box-facts.js';
import type { Joint } from '../../house/model.js';
import type { Landing } from '../../vocabulary/terminal.js';
import { panelLanding } from './panel-terminals.js';

/** A joint recorded for a box, as it is understood. */
export interface RecordedJoint {
  readonly record: Joint;
  /** Conductors that are there; one that is named in two joints is in the first. */
  readonly ends: Joint['ends'];
  /** Where they land, breakers told by their circuit. */
  readonly landings: readonly Landing[];
}

/** The record of a box, understood once for all that read it; by box id. */
const RECORDED: Derivation<readonly RecordedJoint[]> = {
  name: 'recorded joints',
  cutsOff: true,
  compute: (reader, boxId) => {
    const asBuilt = reader.part(BOX_MADE, boxId)?.asBuilt;
    if (!asBuilt?.length) return [];
    const left = new Set(
      runsAt(reader, boxId)
        .filter(({ kind }) => kind !== 'low-voltage')
        .flatMap((run) => conductorsOf(reader, run).map(({ runId, key }) => `${runId} ${key}`)),
    );
    return asBuilt.map((record) => ({
      record,
      ends: record.ends.filter(({ runId, conductor }) => left.delete(`${runId} ${conductor}`)),
      landings: (record.terminals ?? []).map((to) => panelLanding(reader, boxId, to)),
    }));
  },
};

const NOTHING: readonly RecordedJoint[] = [];

export const recordedJoints = (reader: HouseReader, boxId: string): readonly RecordedJoint[] =>
  // Most boxes have no record yet: nothing is kept of them.
  reader.part(BOX_MADE, boxId)?.asBuilt?.length ? reader.derive(RECORDED, boxId) : NOTHING;
