import type { House, HouseReader } from '@mule-tally/core';
import type { PlanOptions, PlanProgress } from '@mule-tally/core/work';
import { Derivations, Places, applyDiff, placedAt, readHouseFile } from '@mule-tally/core';
import {
  drillLook,
  readyForInspection,
  runStretches,
  liveTest,
  searchInSteps,
  trimTest,
  feedOptionsInSteps,
  lookThrough,
  outlook,
  planPrices,
  planPulls,
  takeOff,
  together,
  usualPrice,
  walkFindings,
  waysOnStorey,
} from '@mule-tally/core/work';
import { draftLook } from '@mule-tally/core/furnish';
import { planDrawingInSteps } from '@mule-tally/core/drawing';
import type { Answer, AnswerTo, Heard, PlanAsked, Question } from './commands';
import { Command } from './commands';

/**
 * A slice of work ends at the first step after this many milliseconds, so that with a step of its own length none is longer
 * than 50.
 */
const SLICE = 20;

interface Job {
  readonly ask: number;
  readonly question: Question;
  /** Begun on the house as it is now; begun again when that changes. */
  steps: Generator<Heard, AnswerTo[Question['about']], boolean | undefined> | undefined;
  /** Whoever asked takes what has been found so far. */
  isEnough: boolean;
}

/** The house that an answer of the server holds. */
function houseIn(text: string): House {
  const { file, places } = JSON.parse(text) as { file?: unknown; places?: unknown };
  const read = readHouseFile(file);
  if (!read.ok) throw new Error(read.problems[0]?.message ?? 'The house cannot be read.');
  return placedAt(read.house, Places.safeParse(places).data);
}

function* begin(derivations: Derivations, question: Question): NonNullable<Job['steps']> {
  const reader = derivations.reader();
  switch (question.about) {
    case 'house':
      return yield* lookThrough(reader);
    case 'material':
      return together([
        takeOff(reader, question.roomId),
        ...question.others.map((text) => takeOff(new Derivations(houseIn(text)).reader())),
      ]);
    case 'ways':
      return yield* counted(waysOnStorey(reader, question.storeyId), reader.all('runs').length);
    case 'drill':
      return yield* counted(drillLook(reader, question.roomId), reader.all('runs').length);
    case 'stretches':
      return runStretches(reader, question.runId);
    case 'ready':
      return yield* counted(
        readyForInspection(reader),
        reader.all('runs').length + reader.all('boxes').length + 3 * reader.all('circuits').length,
      );
    case 'search':
      return yield* searchInSteps(reader, question.circuitId, new Set(question.skipped), question.elsewhere);
    case 'trim':
      return trimTest(reader, question.circuitId);
    case 'live':
      return liveTest(reader, question.circuitId);
    case 'drawing':
      return yield* counted(planDrawingInSteps(reader, question.storeyId), reader.all('runs').length);
    case 'walk':
      return walkFindings(reader);
    case 'feed-ends':
      return yield* feedOptionsInSteps(derivations.house, question.controlId, reader);
    case 'outlook':
      return outlook(derivations.house, question.change, question.controlId, [], reader);
    case 'plan':
      return yield* heard(planPulls(derivations.house, question.plan, planOptions(reader, question.plan)));
    case 'plan-prices':
      return yield* heard(planPrices(derivations.house, question.plan, planOptions(reader, question.plan)));
    case 'draft': {
      const { kits, rules, leaveOut, include } = question;
      return draftLook(derivations.house, {
        kits,
        rules,
        leaveOut: new Set(leaveOut),
        include: new Set(include),
      });
    }
  }
}

/** The prices of the crew, and where it has none the usual ones. */
const planOptions = (reader: HouseReader, { prices, schools, steps }: PlanAsked): PlanOptions => ({
  priceOf: (cable) => prices[cable] ?? usualPrice(reader, cable),
  schools,
  steps,
  seed: 1,
  newId: () => crypto.randomUUID(),
});

/** Steps that say nothing of themselves, told by their number. */
function* counted<Found>(steps: Generator<unknown, Found>, of: number): Generator<Heard, Found> {
  for (let done = 0; ; done++) {
    const step = steps.next();
    if (step.done) return step.value;
    yield { done: Math.min(done, of), of };
  }
}

/** A search as it is told to whoever asked, who may say *enough*. */
function* heard<Found>(
  search: Generator<PlanProgress, Found, boolean | undefined>,
): Generator<Heard, Found, boolean | undefined> {
  let told = search.next();
  while (!told.done) {
    const { step, of, cost, before } = told.value;
    told = search.next(yield { done: step, of, cost, before });
  }
  return told.value;
}

/** The later, the less somebody waits for it: what a plan is, and the look through the house. */
const WAITS: readonly Question['about'][] = ['plan', 'plan-prices', 'ready', 'house'];

/**
 * The derivations of the house beside the screen. It works in slices and hears what comes between them: a change of the house
 * makes it begin again (what still holds is kept), a question that is no longer asked is dropped.
 */
export class HouseHost {
  private derivations: Derivations | undefined;
  private version = 0;
  private readonly jobs: Job[] = [];
  private isWorking = false;

  /** `pause` resolves when everything that has come meanwhile has been heard. */
  constructor(
    private readonly post: (answer: Answer) => void,
    private readonly now: () => number,
    private readonly pause: () => Promise<void>,
  ) {}

  /** Takes a command; throws where it is none. */
  receive(message: unknown): void {
    const command = Command.parse(message);
    switch (command.kind) {
      case 'open': {
        this.derivations = new Derivations(houseIn(command.text));
        this.moveOn(command.version);
        break;
      }
      case 'diff':
        if (!this.derivations) throw new Error('There is no house that could have changed.');
        this.derivations.update(applyDiff(this.derivations.house, command.diff));
        this.moveOn(command.version);
        break;
      case 'ask':
        this.jobs.push({ ask: command.ask, question: command.question, steps: undefined, isEnough: false });
        break;
      case 'enough': {
        const job = this.jobs.find(({ ask }) => ask === command.ask);
        if (job) job.isEnough = true;
        break;
      }
      case 'cancel': {
        const at = this.jobs.findIndex(({ ask }) => ask === command.ask);
        if (at >= 0) this.jobs.splice(at, 1);
        break;
      }
    }
    void this.work();
  }

  private moveOn(version: number): void {
    this.version = version;
    for (const job of this.jobs) job.steps = undefined;
  }

  /** What a person waits for comes before the look through the house. */
  private next(): Job | undefined {
    const rank = ({ question }: Job): number => WAITS.indexOf(question.about);
    return this.jobs.reduce<Job | undefined>(
      (first, job) => (first && rank(first) <= rank(job) ? first : job),
      undefined,
    );
  }

  private async work(): Promise<void> {
    if (this.isWorking) return;
    this.isWorking = true;
    for (let job = this.next(); job && this.derivations; job = this.next()) {
      this.slice(job, this.derivations);
      await this.pause();
    }
    this.isWorking = false;
  }

  private slice(job: Job, derivations: Derivations): void {
    const { ask, question } = job;
    const end = this.now() + SLICE;
    try {
      job.steps ??= begin(derivations, question);
      for (;;) {
        const step = job.steps.next(job.isEnough);
        if (step.done) {
          this.drop(job);
          return this.post({
            kind: 'answer',
            ask,
            version: this.version,
            about: question.about,
            value: step.value,
          });
        }
        if (this.now() >= end) return this.post({ kind: 'progress', ask, ...step.value });
      }
    } catch (error) {
      this.drop(job);
      this.post({ kind: 'failed', ask, message: error instanceof Error ? error.message : String(error) });
    }
  }

  private drop(job: Job): void {
    this.jobs.splice(this.jobs.indexOf(job), 1);
  }
}
