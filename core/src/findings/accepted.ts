import type { HouseReader } from '../derive/reader.js';
import type { WorkRecord } from '../house/model.js';
import { printOf } from '../structures/print.js';
import type { Finding } from './finding.js';

/** A print of something found, with all that was measured of it: when anything of it changes it is another one. */
export function findingPrint({ fixes: _ways, ...finding }: Finding): string {
  return printOf(JSON.stringify(finding));
}

/**
 * How a finding may be left as it is: a Fix by a lead, with a reason; a Stop only as the inspector allowed it, and it stays a Stop; a
 * Note needs nothing. Our choice: what bare hot, a breaker over its wire, joined neutrals and a missing ground do is a Stop.
 */
export const leftBy = ({ severity }: Finding): 'lead' | 'inspector' | undefined =>
  severity === 'fix' ? 'lead' : severity === 'stop' ? 'inspector' : undefined;

/** The record by which a finding is left as it is; undefined where nobody did, or where it has changed since. */
export function acceptanceOf(reader: HouseReader, finding: Finding): WorkRecord | undefined {
  const print = findingPrint(finding);
  return reader
    .all('records')
    .filter(({ kind, accepted }) => kind === 'accepted' && accepted?.finding === print)
    .sort((a, b) => Date.parse(a.at) - Date.parse(b.at))
    .at(-1);
}
