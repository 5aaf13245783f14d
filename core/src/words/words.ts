import type { HouseReader } from '../derive/reader.js';
import type { Measure, ShortFacts, Source } from '../findings/facts.js';
import type { Finding, Fix } from '../findings/finding.js';
import type { ProofFailure } from '../wiring/proof/proof.js';
import type { MakeUp } from '../makeup/make-up-box.js';
import { FINDING_WORDS } from './finding-words.js';
import { FIX_WORDS } from './fix-words.js';
import type { SaidMakeUp } from './make-up-words.js';
import { saidMakeUp } from './make-up-words.js';
import type { Language, Say } from './say.js';
import { sayingOf } from './say.js';
import type { Sentence } from './sentence.js';
import { sentence } from './sentence.js';
import type { UnitSystem } from './units.js';
import { unitsIn, unitsOf } from './units.js';

/** Facts of one house in words. */
export interface Words {
  readonly say: Say;
  finding(finding: Finding): Sentence;
  failure(failure: ProofFailure): Sentence;
  fix(fix: Fix): Sentence;
  measure(measure: Measure): Sentence;
  source(source: Source): Sentence;
  short(short: ShortFacts): Sentence;
  makeUp(made: MakeUp): SaidMakeUp;
}

type AnyWords = (say: Say, told: unknown) => string;

/**
 * The words of a house. `language` is the person's (English is all there is so far); trade words come from the glossary of
 * the house's jurisdiction, units from its setting unless others are asked for.
 */
export function wordsOf(
  reader: HouseReader,
  how: {
    readonly language?: Language;
    readonly units?: UnitSystem;
    /** What the crew calls connectors, by their ids. */
    readonly connectors?: ReadonlyMap<string, string>;
  } = {},
): Words {
  const units = how.units ? unitsOf(how.units) : unitsIn(reader.rules());
  const say = sayingOf(reader, units, how.connectors);
  return {
    say,
    finding: (finding) => {
      const own = (FINDING_WORDS[finding.code] as AnyWords)(say, finding);
      return sentence(finding.lookAt ? `${own} Look at ${say.conductor(finding.lookAt)}.` : own);
    },
    failure: ({ code, facts, boxId, deviceId, pointId, controlId, runId }) =>
      sentence(
        (FINDING_WORDS[code] as AnyWords)(say, {
          facts,
          where: { boxId, deviceId, pointId, controlId, runId },
        }),
      ),
    fix: (fix) => sentence((FIX_WORDS[fix.code] as AnyWords)(say, fix.facts)),
    measure: (measure) => say.measure(measure) as Sentence,
    source: (source) => say.source(source) as Sentence,
    short: (short) => say.short(short) as Sentence,
    makeUp: (made) => saidMakeUp(reader, say, made),
  };
}
