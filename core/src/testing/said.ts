import type { HouseReader } from '../derive/reader.js';
import type { Finding } from '../findings/finding.js';
import { wordsOf } from '../words/words.js';

/** A finding as a person reads it. */
export function said(
  reader: HouseReader,
  finding: Finding,
): { message: string; labels: string[]; measured?: string; allowed?: string; source?: string } {
  const words = wordsOf(reader);
  return {
    message: words.finding(finding),
    labels: (finding.fixes ?? []).map((fix) => words.fix(fix)),
    ...(finding.measured && { measured: words.measure(finding.measured) }),
    ...(finding.allowed && { allowed: words.measure(finding.allowed) }),
    ...(finding.source && { source: words.source(finding.source) }),
  };
}
