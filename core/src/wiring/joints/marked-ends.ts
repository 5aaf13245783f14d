import type { HouseReader } from '../../derive/reader.js';
import type { Marking } from '../../findings/facts.js';
import { coloursOf, markColours } from '../circuit/marking.js';
import type { BoxJoint, CableEnd } from './box-joint.js';

/** The colours of these ends that are to be marked, and what goes round them; the most usual of the country where there is none. */
export function markingOf(
  reader: HouseReader,
  role: BoxJoint['role'],
  ends: readonly Pick<CableEnd, 'runId' | 'colour' | 'reidentified'>[],
): Marking {
  const own = ends.filter((end) => end.reidentified);
  const plan = coloursOf(reader, reader.get('runs', (own[0] ?? ends[0])?.runId ?? ''));
  return {
    colours: [...new Set((own.length ? own : ends).map(({ colour }) => colour))],
    with: markColours(plan, role),
  };
}
