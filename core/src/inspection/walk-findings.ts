import type { Derivation, HouseReader } from '../derive/reader.js';
import { roomOf } from '../facts/box-facts.js';
import type { Finding } from '../findings/finding.js';
import { earlyLegs, houseWalk } from '../pulling/walk/house-walk.js';

/** What the counts of a walk come to, and legs that were pulled before power, by house id. */
export const WALK_FINDINGS: Derivation<readonly Finding[]> = {
  name: 'walk findings',
  compute: (reader) => [
    ...houseWalk(reader).map(({ ways, lessLikely, boxIds, settling }): Finding => {
      const [boxId] = boxIds;
      const where = { boxId, roomId: boxId && roomOf(reader, boxId)?.id };
      if (ways.length === 0)
        return { code: 'walk.unclear', severity: 'stop', where, facts: { boxIds }, source };
      const [told] = ways.length === 1 ? ways[0]! : [];
      if (!told)
        return {
          code: 'walk.either',
          severity: 'stop',
          where,
          facts: { ways, lessLikely, settling },
          source,
        };
      const runId = 'runId' in told.fault ? told.fault.runId : undefined;
      return {
        code: 'walk.found',
        severity: 'stop',
        where: { ...where, runId, circuitId: runId && reader.get('runs', runId)?.circuitIds[0] },
        facts: { told },
        source,
      };
    }),
    ...reader.all('circuits').flatMap(({ id }): Finding[] => {
      const early = earlyLegs(reader, id);
      return early
        ? [{ code: 'walk.leg-early', severity: 'note', where: { circuitId: id }, facts: early, source }]
        : [];
    }),
  ],
};

const source = { practice: 'common' } as const;

export const walkFindings = (reader: HouseReader): readonly Finding[] =>
  reader.derive(WALK_FINDINGS, reader.houseId);
