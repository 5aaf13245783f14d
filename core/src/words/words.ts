import type { FillItem } from '../fill/fill-box.js';
import type { HouseReader } from '../derive/reader.js';
import type { Measure, ShortFacts, Source } from '../findings/facts.js';
import type { Finding, Fix } from '../findings/finding.js';
import type { ProofFailure } from '../wiring/proof/proof.js';
import type { MakeUp } from '../makeup/make-up-box.js';
import type { Where } from '../findings/finding.js';
import { ENGLISH } from './english/english.js';
import type { CautionWords, Language, Told } from './language/language.js';
import type { SaidMakeUp } from './make-up-words.js';
import { saidMakeUp } from './make-up-words.js';
import type { Say } from './language/language.js';
import { sayingOf } from './say.js';
import type { Sentence } from './language/sentence.js';
import { sentence } from './language/sentence.js';
import type { UnitSystem } from './language/units.js';
import { unitsIn, unitsOf } from './language/units.js';

/** Facts of one house in words. */
export interface Words {
  readonly say: Say;
  /** What to do first, and why: three lines on a phone. */
  finding(finding: Finding): Sentence;
  /** What there is to know of it besides. */
  more(finding: Finding): Sentence | undefined;
  /** Where it is: "S2 · Living room · wall 3". */
  place(where: Where): string;
  failure(failure: ProofFailure): Sentence;
  fix(fix: Fix): Sentence;
  measure(measure: Measure): Sentence;
  source(source: Source): Sentence;
  short(short: ShortFacts): Sentence;
  makeUp(made: MakeUp): SaidMakeUp;
  /** What is counted in a box. */
  fillItem(item: FillItem): Sentence;
  readonly caution: CautionWords;
}

type AnyWords = (say: Say, told: unknown) => Told;
const first = (told: Told): string => (typeof told === 'string' ? told : told[0]);

/**
 * The words of a house. `language` is the person's; trade words come from the glossary of the house's jurisdiction in that
 * language, units from its setting unless others are asked for.
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
  const { language = ENGLISH } = how;
  const units = how.units ? unitsOf(how.units) : unitsIn(reader.rules());
  const say = sayingOf(reader, units, how.connectors, language);
  const told = (code: Finding['code'], of: unknown): Told => (language.findings[code] as AnyWords)(say, of);
  return {
    say,
    finding: (finding) => {
      const own = sentence(first(told(finding.code, finding)));
      return sentence(
        finding.lookAt ? `${language.lookAt(say.conductor(finding.lookAt, finding.where.boxId))}${own}` : own,
      );
    },
    more: (finding) => {
      const own = told(finding.code, finding);
      return typeof own === 'string' ? undefined : sentence(own[1]);
    },
    place: say.place,
    failure: ({ code, facts, boxId, deviceId, pointId, controlId, runId }) =>
      sentence(first(told(code, { facts, where: { boxId, deviceId, pointId, controlId, runId } }))),
    fix: (fix) =>
      sentence((language.fixes[fix.code] as (say: Say, facts: unknown) => string)(say, fix.facts)),
    measure: (measure) => say.measure(measure) as Sentence,
    source: (source) => say.source(source) as Sentence,
    short: (short) => say.short(short) as Sentence,
    makeUp: (made) => saidMakeUp(reader, say, made),
    fillItem: (item) =>
      say.inTrade(
        say.tongue.phrases.fill(item, item.code === 'device' ? say.device(item.deviceId) : ''),
      ) as Sentence,
    caution: language.caution(say.term),
  };
}
