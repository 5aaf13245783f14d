import { Id } from '@mule-tally/core';
import type { HouseStore } from '../houses/house-store.js';
import type { Job } from './job.js';

/** Bodies up to this are read where they arrive; larger ones would keep everybody else waiting. Bytes. */
const LIGHT = 128 * 1024;
/** Houses of more records than this go out, are copied and are replaced in a worker. */
const LIGHT_RECORDS = 3000;
/** What an undo takes back, in bytes of the journal: more is done in a worker. */
const LIGHT_DIFF = 512 * 1024;

/** The id of the house that a small body holds; undefined where it is none. */
function houseIn(text: string): string | undefined {
  try {
    return Id.safeParse((JSON.parse(text) as { id?: unknown } | null)?.id).data;
  } catch {
    return undefined;
  }
}

/** Changes that a small body may ask to take back, without reading it as what it should be. */
const undoneBy = (text: string): string[] =>
  text.includes('"revert"')
    ? [...text.matchAll(/"of"\s*:\s*"([0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12})"/gi)].map(([, id]) => id!)
    : [];

/** Whether a job belongs into a worker: by its body, and by what it does to a house, however small the body is. */
export async function isHeavy(job: Job, body: Uint8Array, houses: HouseStore): Promise<boolean> {
  if (body.length > LIGHT) return true;
  const isLarge = async (crewId: string, houseId: string | undefined): Promise<boolean> =>
    houseId !== undefined && (await houses.weight({ crewId, houseId })) > LIGHT_RECORDS;
  const text = new TextDecoder().decode(body);
  switch (job.kind) {
    case 'import':
      return job.onExisting === 'replace' && isLarge(job.caller.crewId, houseIn(text));
    case 'changes':
      return (
        (text.includes('"house.replace"') && (await isLarge(job.key.crewId, job.key.houseId))) ||
        (await houses.weightOfChanges(job.key, undoneBy(text))) > LIGHT_DIFF
      );
    default:
      return isLarge(job.key.crewId, job.key.houseId);
  }
}
