import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  computed,
  effect,
  inject,
  input,
  linkedSignal,
  output,
  signal,
  untracked,
} from '@angular/core';
import type { House } from '@mule-tally/core';
import { boxName, roomName, runName, setting } from '@mule-tally/core';
import type { PlanPrices, PlanSchool, PlanSchools, PlanSwap, PullPlan } from '@mule-tally/core/work';
import { PLAN_SCHOOLS, moneyOf, schoolsOf } from '@mule-tally/core/work';
import { CableChip } from '../parts/cable-chip';
import { OnPlan } from '../parts/on-plan';
import { ToldPipe } from '../parts/term';
import { Value } from '../parts/value';
import { WordsPipe } from '../parts/words';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';
import { OpenCrew } from '../state/open-crew';
import { OpenHouse } from '../state/open-house';
import { Rights } from '../state/rights';
import type { Heard, PlanAsked } from '../work/commands';
import { planAsked } from '../work/plan-asked';
import { Stale, Workbench } from '../work/workbench';
import { PlanSearch } from './plan-search';

/** Exchanges that are tried for each circuit, by itself and of many: for what it costs a person to wait. */
const STEPS = { circuit: 3000, many: 600 };
/** For the price of each school, which takes a plan of its own. */
const PRICE_STEPS = 300;

/** How often the search is shown, in milliseconds. */
const SHOWN_EVERY = 150;

/** Why a run is better than the one that it takes the place of. */
const WHY: Readonly<Record<PlanSwap['why']['code'], string>> = {
  works: $localize`works, as the other does not`,
  boxes: $localize`needs no larger box`,
  shorter: $localize`shorter`,
  thinner: $localize`fewer conductors`,
  work: $localize`less work`,
  reaches: $localize`brings cable to a box that had none`,
  'with-others': $localize`goes together with the others`,
  school: $localize`goes by your way`,
  multiwire: $localize`one home run for both, with a shared neutral`,
};

const MULTIWIRE = 'plan.multiwire';

interface Planned {
  readonly plan: PullPlan;
  /** The house that it was planned for. */
  readonly house: House;
  readonly asked: PlanAsked;
  readonly curve: readonly Heard[];
}

/** Which box feeds which, planned at the least cost: how it goes on, what it comes to against what stands, and why, run by run. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-plan-pulls',
  imports: [CableChip, OnPlan, PlanSearch, ToldPipe, Value, WordsPipe],
  templateUrl: './plan-pulls.html',
  styleUrl: './plan-pulls.scss',
})
export class PlanPulls {
  private readonly derived = inject(Derived);
  private readonly desk = inject(Desk);
  private readonly workbench = inject(Workbench);
  private readonly houseNow = inject(OpenHouse).view;
  private readonly crew = inject(OpenCrew);
  protected readonly rights = inject(Rights);
  readonly room = input<string>();
  readonly circuit = input<string>();
  readonly closed = output();

  protected readonly units = this.derived.units;
  protected readonly why = WHY;
  protected readonly circuits = computed(() =>
    [...(this.derived.reader()?.all('circuits') ?? [])].sort((a, b) => a.number - b.number),
  );
  /** `house`, `room`, or a circuit by its id. */
  protected readonly scope = linkedSignal({
    source: () => {
      const circuit = this.circuit();
      return circuit && this.derived.reader()?.get('circuits', circuit) ? circuit : 'house';
    },
    // What was chosen here stays when the house changes.
    computation: (given: string) => given,
  });
  /** The schools of the house, until others are chosen here. */
  protected readonly schools = linkedSignal<string | undefined, PlanSchools | undefined>({
    source: () => this.derived.reader()?.houseId,
    computation: () => {
      const reader = untracked(this.derived.reader);
      return reader && schoolsOf(reader);
    },
  });
  protected readonly schoolLines = computed(() => {
    const [reader, schools] = [this.derived.reader(), this.schools()];
    if (!reader || !schools) return [];
    const rules = new Map(reader.rules().standing.map(({ rule }) => [rule.key, rule]));
    const [found, prices] = [this.planned(), this.prices()];
    return PLAN_SCHOOLS.map((school) => {
      const rule = rules.get(`plan.${school}`);
      return {
        school,
        title: rule?.title ?? school,
        note: rule?.note,
        options: rule?.options ?? [],
        value: schools[school],
        against: found && !this.isOther() ? found.plan.after.against[school] : undefined,
        costs: this.isOther() ? undefined : prices?.schools.find((one) => one.school === school)?.costs,
      };
    });
  });

  /** Whether home runs may share a neutral: a rule of the house, not of this plan alone. */
  protected readonly multiwire = computed(() => {
    const reader = this.derived.reader();
    const rule = reader?.rules().standing.find((standing) => standing.rule.key === MULTIWIRE)?.rule;
    return rule && { title: rule.title, note: rule.note, isOn: reader!.rules().text(MULTIWIRE) === 'yes' };
  });
  protected allowMultiwire(isAllowed: boolean): void {
    this.desk.make({ kind: 'rule.set', key: MULTIWIRE, override: isAllowed ? { value: 'yes' } : null });
  }

  protected readonly running = signal<Heard | undefined>(undefined);
  protected readonly isRunning = computed(() => this.running() !== undefined);
  protected readonly problem = signal<string | undefined>(undefined);
  protected readonly planned = signal<Planned | undefined>(undefined);
  protected readonly prices = signal<PlanPrices | undefined>(undefined);
  protected readonly isTaken = signal(false);
  protected readonly curve = signal<readonly Heard[]>([]);
  private stop: AbortController | undefined;
  private enough: AbortController | undefined;

  /** The house is not any more the one that was planned for. */
  protected readonly isStale = computed(() => {
    const found = this.planned();
    return found !== undefined && !this.isTaken() && this.houseNow() !== found.house;
  });
  /** What is chosen is not what was planned by. */
  protected readonly isOther = computed(() => {
    const found = this.planned();
    return found !== undefined && JSON.stringify(found.asked) !== JSON.stringify(this.asked());
  });

  private readonly asked = computed((): PlanAsked | undefined => {
    const [reader, schools, scope, room] = [this.derived.reader(), this.schools(), this.scope(), this.room()];
    if (!reader || !schools) return undefined;
    const within =
      scope === 'house' ? {} : scope === 'room' ? (room ? { roomId: room } : {}) : { circuitId: scope };
    const steps = 'circuitId' in within ? STEPS.circuit : STEPS.many;
    return planAsked(reader, this.crew, within, steps, schools);
  });

  constructor() {
    // With another room or circuit what was planned is about something else.
    effect(() => {
      this.room();
      this.circuit();
      untracked(() => this.leave());
    });
    inject(DestroyRef).onDestroy(() => this.stop?.abort());
  }

  private leave(): void {
    this.halt();
    this.planned.set(undefined);
  }

  /** What was found last stays where it is, out of sight, until there is something else: taking it down would hold up the screen. */
  private halt(): void {
    this.stop?.abort();
    this.running.set(undefined);
    this.prices.set(undefined);
    this.isTaken.set(false);
  }

  protected school(school: PlanSchool, value: boolean | string): void {
    this.schools.update((schools) => schools && { ...schools, [school]: value });
  }

  protected async plan(): Promise<void> {
    const [asked, house] = [this.asked(), this.houseNow()];
    if (!asked || !house) return;
    this.halt();
    this.problem.set(undefined);
    const stop = (this.stop = new AbortController());
    this.enough = new AbortController();
    this.curve.set([]);
    this.running.set({ done: 0, of: 1 });
    let shownAt = 0;
    const heard = (told: Heard): void => {
      // So often as somebody can see it.
      if (performance.now() - shownAt < SHOWN_EVERY) return;
      shownAt = performance.now();
      this.running.set(told);
      this.curve.update((curve) => [...curve, told]);
    };
    try {
      const plan = await this.workbench.ask<'plan'>(
        { about: 'plan', plan: asked },
        stop.signal,
        heard,
        this.enough.signal,
      );
      this.planned.set({ plan, house, asked, curve: this.curve() });
      this.running.set(undefined);
      // What the ways cost comes after: each takes a plan of its own.
      this.prices.set(
        await this.workbench.ask<'plan-prices'>(
          { about: 'plan-prices', plan: { ...asked, steps: PRICE_STEPS } },
          stop.signal,
        ),
      );
    } catch (error) {
      if (this.stop !== stop) return;
      const isOwn = this.planned()?.asked === asked;
      this.running.set(undefined);
      if (!isOwn) this.planned.set(undefined);
      if (error instanceof Stale) {
        if (!isOwn && !stop.signal.aborted)
          this.problem.set($localize`The house was changed meanwhile: plan again.`);
        return;
      }
      this.problem.set(error instanceof Error ? error.message : String(error));
    }
  }

  protected thatIsEnough(): void {
    this.enough?.abort();
  }
  protected cancel(): void {
    this.leave();
  }

  protected take(): void {
    const found = this.planned();
    const { change, circuits = [] } = found?.plan ?? {};
    if (change?.kind !== 'group') return;
    const ids = circuits.flatMap(({ circuitId, withCircuitId }) => [circuitId, withCircuitId ?? []].flat());
    const numbers = ids.flatMap(
      (circuitId) => this.derived.reader()?.get('circuits', circuitId)?.number ?? [],
    );
    const title =
      numbers.length === 1
        ? $localize`Planned the pulls of circuit ${numbers[0]}`
        : $localize`Planned the pulls of ${numbers.length} circuits`;
    this.isTaken.set(true);
    const refusal = this.desk.make({ ...change, title });
    if (!refusal) return;
    this.isTaken.set(false);
    this.problem.set(refusal.message);
  }

  /** One touch: it stays, and the rest is planned around it. */
  protected keep(runId: string): void {
    const refusal = this.desk.make(setting('runs', runId, { kept: true }));
    if (refusal) this.problem.set(refusal.message);
    else void this.plan();
  }
  protected letGo(runId: string): void {
    const refusal = this.desk.make(setting('runs', runId, { kept: null }));
    if (refusal) this.problem.set(refusal.message);
    else void this.plan();
  }

  protected readonly table = computed(() => {
    const found = this.planned();
    if (!found) return [];
    const { before, after, measured } = found.plan;
    const money = (value: number): string => value.toFixed(0);
    const lines = [
      {
        name: $localize`Cable, work and boxes, in your money`,
        from: money(moneyOf(before)),
        to: money(moneyOf(after)),
      },
      { name: $localize`of that cable`, from: money(before.cable), to: money(after.cable), isPart: true },
      { name: $localize`of that work`, from: money(before.work), to: money(after.work), isPart: true },
      { name: $localize`Runs`, from: measured.before.runs, to: measured.after.runs },
      { name: $localize`Holes through studs`, from: measured.before.studHoles, to: measured.after.studHoles },
      {
        name: $localize`Holes through plates`,
        from: measured.before.plateHoles,
        to: measured.after.plateHoles,
      },
      { name: $localize`Boxes too full`, from: measured.before.tooFull, to: measured.after.tooFull },
      { name: $localize`Findings: Stop`, from: measured.before.stops, to: measured.after.stops },
      { name: $localize`Findings: Fix`, from: measured.before.fixes, to: measured.after.fixes },
    ];
    return lines.map((one) => ({ isPart: false, ...one, isSame: String(one.from) === String(one.to) }));
  });
  protected readonly feet = computed(() => {
    const measured = this.planned()?.plan.measured;
    if (!measured) return [];
    const cables = [
      ...new Set([...Object.keys(measured.before.feetOf), ...Object.keys(measured.after.feetOf)]),
    ];
    const long = (feet: number | undefined): string => this.units().long((feet ?? 0) * 12);
    return cables.sort().map((cable) => ({
      cable: cable === 'none' ? undefined : cable,
      from: long(measured.before.feetOf[cable]),
      to: long(measured.after.feetOf[cable]),
    }));
  });

  protected readonly changed = computed(() => {
    const [reader, found, words] = [this.derived.reader(), this.planned(), this.derived.words()];
    if (!reader || !found || !words) return [];
    const named = (boxIds: readonly [string, string]): string =>
      boxIds.map((id) => `${boxName(reader, id)} (${roomName(reader, id)})`).join(' → ');
    return found.plan.circuits.map(({ circuitId, withCircuitId, swaps, before, after }) => ({
      circuitId,
      name: [circuitId, withCircuitId].flatMap((id) => (id ? words.say.circuit(id) : [])).join(' + '),
      isShared: withCircuitId !== undefined,
      saves: moneyOf(before) - moneyOf(after),
      isMended: before.wrong > after.wrong + 1e-9,
      swaps: swaps.map(({ removed, added, saves, shorterIn, why }) => ({
        old: removed && named(removed.boxIds),
        oldId: removed?.runId,
        isHere: removed !== undefined && reader.get('runs', removed.runId) !== undefined,
        now: added && named(added.boxIds),
        why: this.derived.inTrade(WHY[why.code]),
        shorter: shorterIn > 11 ? this.units().long(shorterIn) : undefined,
        saves: saves > 0.5 && saves < 50_000 ? saves.toFixed(0) : undefined,
      })),
    }));
  });
  protected readonly larger = computed(() => {
    const [reader, found] = [this.derived.reader(), this.planned()];
    return reader && found ? found.plan.larger.map(({ boxId }) => boxName(reader, boxId)) : [];
  });
  protected readonly left = computed(() => {
    const [reader, found] = [this.derived.reader(), this.planned()];
    return reader && found
      ? found.plan.left.flatMap((id) => reader.get('circuits', id)?.number ?? []).join(', ')
      : '';
  });
  protected readonly saved = computed(() => {
    const found = this.planned()?.plan;
    if (!found) return undefined;
    const [from, to] = [moneyOf(found.before), moneyOf(found.after)];
    return { by: (from - to).toFixed(0), part: from > 0 ? Math.round(((from - to) / from) * 100) : 0 };
  });
  /** Kept runs of the scope, with what keeping them costs as soon as that is known. */
  protected readonly kept = computed(() => {
    const [reader, asked] = [this.derived.reader(), this.asked()];
    if (!reader || !asked) return [];
    return reader
      .all('runs')
      .filter(({ kept, circuitIds }) => kept && (!asked.circuitId || circuitIds.includes(asked.circuitId)))
      .map((run) => ({
        id: run.id,
        name: runName(reader, run),
        costs: this.isOther() ? undefined : this.prices()?.kept.find(({ runId }) => runId === run.id)?.costs,
      }));
  });
  protected readonly planRuns = computed(() => {
    const [reader, asked] = [this.derived.reader(), this.asked()];
    const gone = new Set(
      this.planned()?.plan.circuits.flatMap(({ swaps }) =>
        swaps.flatMap(({ removed }) => removed?.runId ?? []),
      ),
    );
    return (reader?.all('runs') ?? []).flatMap(({ id, circuitIds }) =>
      gone.has(id) || (asked?.circuitId && !circuitIds.includes(asked.circuitId)) ? [] : [id],
    );
  });
  protected readonly proposed = computed(
    () =>
      this.planned()?.plan.circuits.flatMap(({ swaps }) =>
        swaps.flatMap(({ added }) => (added ? [added.boxIds] : [])),
      ) ?? [],
  );
}
