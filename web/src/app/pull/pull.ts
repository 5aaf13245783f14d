import { OnlyFor } from '../parts/only-for';
import { OnPlan } from '../parts/on-plan';
import { TermPipe } from '../parts/term';
import { WordsPipe } from '../parts/words';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  signal,
} from '@angular/core';
import { NgTemplateOutlet } from '@angular/common';
import { Router } from '@angular/router';
import type { Run } from '@mule-tally/core';
import type { CableTotal, ListedRun } from '@mule-tally/core/work';
import { costOfCable, roomName, runName, setting } from '@mule-tally/core';
import { pullList, runsLeaving } from '@mule-tally/core/work';
import { Value } from '../parts/value';
import { CableChip } from '../parts/cable-chip';
import { firstOf, soon } from '../parts/soon';
import { Screen, staysAwake } from '../parts/screen';
import { TallyMarks } from '../parts/tally-marks';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';
import { Session } from '../state/session';
import { OpenCrew } from '../state/open-crew';
import { Rights } from '../state/rights';
import { PlanPulls } from './plan-pulls';
import { PullForm } from './pull-form';
import { hasDraft } from '../sync/draft-store';
import { HabitLine } from './habit-line';
import { loggedPull, withReel } from './log-pull';
import { NextPull } from './next-pull';
import { ReelMarks } from './reel-marks';
import { Stapled } from './stapled';
import { slotsOf } from './slots-of';
import { RunForm, runDraftName } from './run-form';

/** Runs that are drawn at once. */
const FIRST = 5;

interface Line {
  readonly listed: ListedRun;
  readonly run: Run;
  readonly name: string;
  readonly where: string;
}

/** The runs of a room or of a circuit in pull order, what is in, and cable totals. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-pull',
  imports: [
    OnlyFor,
    TermPipe,
    WordsPipe,
    NgTemplateOutlet,
    Value,
    CableChip,
    TallyMarks,
    NextPull,
    PullForm,
    RunForm,
    OnPlan,
    PlanPulls,
    HabitLine,
    ReelMarks,
    Stapled,
  ],
  templateUrl: './pull.html',
  styleUrl: './pull.scss',
})
export class PullSheet {
  private readonly derived = inject(Derived);
  private readonly router = inject(Router);
  readonly room = input<string>();
  readonly circuit = input<string>();
  /** The planner stands in place of the list. */
  readonly plan = input<string>();

  /** Which run's form is open, and which one. */
  protected readonly logging = signal<string | undefined>(undefined);
  protected readonly editing = signal<string | undefined>(undefined);
  /** Open again where a new run of this room was left half filled. */
  protected readonly adding = linkedSignal<string, boolean>({
    source: () => runDraftName(this.derived.reader()?.houseId, undefined, this.room()),
    computation: (name, previous) => (previous?.source === name ? previous.value : hasDraft(name)),
  });
  protected readonly units = this.derived.units;
  /** "½ in EMT" */
  protected readonly racewayOf = ({ tradeSize }: Run): string =>
    tradeSize
      ? this.derived.told(this.derived.trade().raceways[tradeSize])
      : (this.derived.words()?.say.term('raceway') ?? '');

  private readonly crew = inject(OpenCrew).view;
  private costIn({ cable, pulledIn }: CableTotal): number | undefined {
    const crew = this.crew();
    return crew && costOfCable(crew, cable, pulledIn);
  }
  /** The crew has a price for some of the cable that is shown. */
  protected readonly isPriced = computed(() =>
    (this.list()?.totals ?? []).some((total) => this.costIn(total) !== undefined),
  );
  /** What the measured part of what was pulled costs; "?" where the crew has no price for it. */
  protected cost(total: CableTotal): string {
    return this.costIn(total)?.toFixed(2) ?? '?';
  }

  protected readonly circuits = computed(() => this.derived.reader()?.all('circuits') ?? []);
  protected readonly title = computed(() => {
    const reader = this.derived.reader();
    const circuit = this.circuit() && reader?.get('circuits', this.circuit()!);
    if (circuit) return $localize`Circuit ${circuit.number}\: ${circuit.name}`;
    return (this.room() && reader?.get('rooms', this.room()!)?.name) || '';
  });
  protected readonly list = computed(() => {
    const reader = this.derived.reader();
    if (!reader) return undefined;
    const circuitId = this.circuit();
    if (circuitId) return reader.get('circuits', circuitId) && pullList(reader, { circuitId });
    const roomId = this.room();
    return roomId && reader.get('rooms', roomId) ? pullList(reader, { roomId }) : undefined;
  });
  protected readonly groups = computed(() => {
    const reader = this.derived.reader();
    const list = this.list();
    if (!reader || !list) return [];
    const groups = new Map<string, { title: string; lines: Line[] }>();
    for (const listed of list.runs) {
      const run = reader.get('runs', listed.runId)!;
      const circuit = listed.circuitId ? reader.get('circuits', listed.circuitId) : undefined;
      const title = circuit
        ? $localize`Circuit ${circuit.number} · ${circuit.name} · ${circuit.breakerAmps} A`
        : $localize`No circuit yet`;
      const group = groups.get(title) ?? { title, lines: [] };
      group.lines.push({
        listed,
        run,
        name: runName(reader, run),
        where: slotsOf(reader, this.derived.phrases(), this.derived.glossary(), run),
      });
      groups.set(title, group);
    }
    return [...groups.values()];
  });
  /** What is below the first runs comes after these have been drawn. */
  protected readonly isWhole = soon();
  protected readonly shown = computed(() => {
    return this.isWhole() ? this.groups() : firstOf(this.groups(), 'lines', FIRST);
  });
  protected readonly screen = inject(Screen);
  protected readonly rights = inject(Rights);
  private readonly desk = inject(Desk);
  private readonly session = inject(Session);
  /** Runs that are to come later, in the order in which that was said. */
  private readonly put = signal<readonly string[]>([]);
  /** The run that is pulled next: the first that is not in, those put off last. */
  protected readonly next = computed(() => {
    const list = this.list();
    const put = this.put();
    const open = (list?.runs ?? []).filter(({ state, waitsForPlate }) => state !== 'in' && !waitsForPlate);
    const listed =
      open.find(({ runId }) => !put.includes(runId)) ??
      [...open].sort((a, b) => put.indexOf(a.runId) - put.indexOf(b.runId))[0];
    if (!list || !listed) return undefined;
    const same = list.runs.filter(({ circuitId }) => circuitId === listed.circuitId);
    return {
      listed,
      number: same.filter(({ state }) => state === 'in').length + 1,
      of: same.length,
    };
  });
  /** Where the next run goes from and to, and the runs of this list: what the plan marks. */
  protected readonly ends = computed((): readonly string[] => {
    const next = this.next();
    const run = next && this.derived.reader()?.get('runs', next.listed.runId);
    return run ? [run.from.boxId, run.to.boxId] : [];
  });
  protected readonly runIds = computed(() => (this.list()?.runs ?? []).map(({ runId }) => runId));
  private linesThat(keeps: (line: Line) => boolean): { title: string; lines: Line[] }[] {
    return this.groups().flatMap(({ title, lines }) => {
      const own = lines.filter(keeps);
      return own.length ? [{ title, lines: own }] : [];
    });
  }
  /** Runs that wait for somebody to read a nameplate. */
  protected readonly waiting = computed(
    () => (this.list()?.runs ?? []).filter(({ waitsForPlate }) => waitsForPlate).length,
  );
  /** What is left besides the next, and what is in. */
  protected readonly left = computed(() => {
    const next = this.next()?.listed.runId;
    return this.linesThat(({ listed }) => listed.state !== 'in' && listed.runId !== next);
  });
  protected readonly leftCount = computed(() =>
    this.left().reduce((sum, { lines }) => sum + lines.length, 0),
  );
  protected readonly done = computed(() => this.linesThat(({ listed }) => listed.state === 'in'));
  /** What the lines are drawn from: a template does not know its types. */
  protected groupsOf(groups: unknown): readonly { title: string; lines: Line[] }[] {
    return groups as readonly { title: string; lines: Line[] }[];
  }
  /** How many runs of a group can be logged at once: those with a cable that wait for nothing. */
  private openOf({ lines }: { lines: Line[] }): Line[] {
    return lines.filter(
      ({ listed, run }) =>
        listed.state !== 'in' &&
        !listed.waitsForPlate &&
        (run.kind !== 'cable' || (listed.planned ?? listed.needed) !== undefined),
    );
  }
  protected openIn(group: { lines: Line[] }): number {
    return this.openOf(group).length;
  }
  /** All of them are in, as planned: one change. */
  protected allIn(group: { title: string; lines: Line[] }): void {
    const reader = this.derived.reader();
    if (!reader) return;
    const by = this.session.who().id;
    const runs = this.openOf(group);
    const pulls = runs.map(({ listed, run }) =>
      loggedPull(reader, {
        runId: run.id,
        cable: run.kind === 'cable' ? (listed.planned ?? listed.needed) : undefined,
        state: 'in',
        by,
      }),
    );
    this.desk.make(withReel(reader, undefined, pulls, $localize`${runs.length} runs are in: ${group.title}`));
  }
  protected later(runId: string): void {
    this.put.update((put) => [...put.filter((one) => one !== runId), runId]);
  }

  constructor() {
    staysAwake();
  }

  protected readonly leaving = computed(() => {
    const reader = this.derived.reader();
    const roomId = this.room();
    if (!reader || !roomId || this.circuit()) return [];
    return runsLeaving(reader, roomId).map((run) => {
      const far = 'boxId' in run.to ? reader.get('boxes', run.to.boxId) : undefined;
      return {
        id: run.id,
        name: runName(reader, run),
        room: far ? roomName(reader, far.id) : '',
      };
    });
  });

  protected showPlan(isShown: boolean): void {
    void this.router.navigate([], {
      queryParams: { plan: isShown ? '1' : null },
      queryParamsHandling: 'merge',
    });
  }

  protected keep({ id, kept }: Run): void {
    this.desk.make(setting('runs', id, { kept: kept ? null : true }));
  }

  protected byCircuit(id: string): void {
    void this.router.navigate([], { queryParams: { circuit: id || null }, queryParamsHandling: 'merge' });
  }

  protected open(which: 'log' | 'edit' | 'add', runId?: string): void {
    this.logging.set(which === 'log' && this.logging() !== runId ? runId : undefined);
    this.editing.set(which === 'edit' && this.editing() !== runId ? runId : undefined);
    this.adding.set(which === 'add' && !this.adding());
  }

  protected close(): void {
    this.logging.set(undefined);
    this.editing.set(undefined);
    this.adding.set(false);
  }
}
