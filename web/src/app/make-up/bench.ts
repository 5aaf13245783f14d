import { OnlyFor } from '../parts/only-for';
import { Rights } from '../state/rights';
import { OnPlan } from '../parts/on-plan';
import { PhotosOf } from '../parts/photos-of';
import { WordsPipe } from '../parts/words';
import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  computed,
  inject,
  input,
  linkedSignal,
  viewChild,
} from '@angular/core';
import { RouterLink } from '@angular/router';
import type { CableId, Joint, Term } from '@mule-tally/core';
import type { CapacityLine, FillItem, SaidCable, SaidStep, Stage } from '@mule-tally/core/work';
import { adding, boxFacts, gaugeText, roomOf, runsAt, setting, standingPull } from '@mule-tally/core';
import {
  BOX_FINDINGS,
  CIRCUIT_FINDINGS,
  STAGES,
  fillBox,
  jointWords,
  makeUpBox,
  recordOfJoint,
  traceConductor,
  withJoint,
  withoutJoint,
} from '@mule-tally/core/work';
import { Value } from '../parts/value';
import { Keys } from '../parts/keys';
import { Caution } from '../parts/caution';
import { FillGauge } from '../parts/fill-gauge';
import { FindingCard } from '../parts/finding-card';
import { saveText } from '../parts/save-text';
import { Screen, staysAwake } from '../parts/screen';
import { TermPipe, ToldPipe } from '../parts/term';
import { Wire } from '../parts/wire';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';
import { Session } from '../state/session';
import { AsBuilt } from './as-built';
import { BoxPicture } from './box-picture';
import { StepDetail } from './step-detail';

const STAGE_TERMS = {
  grounds: 'grounds',
  neutrals: 'neutrals',
  travelers: 'travelers',
  hots: 'hots',
  legs: 'switch legs',
  spares: 'spares',
  open: undefined,
} as const satisfies Record<Stage, Term | undefined>;

/** What a cable is for in this box. */
const ROLES: Readonly<Record<SaidCable['role'], string>> = {
  power: $localize`power`,
  leg: $localize`leg`,
  travelers: $localize`travelers`,
  other: $localize`passes`,
};

/** The bench of one box: cables by slot, the steps in order with counts and lengths, every line of the fill. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-bench',
  imports: [
    OnlyFor,
    WordsPipe,
    Value,
    RouterLink,
    AsBuilt,
    BoxPicture,
    Caution,
    FillGauge,
    FindingCard,
    StepDetail,
    TermPipe,
    ToldPipe,
    Wire,
    OnPlan,
    PhotosOf,
  ],
  templateUrl: './bench.html',
  styleUrl: './bench.scss',
})
export class Bench {
  protected readonly rights = inject(Rights);
  private readonly derived = inject(Derived);
  private readonly desk = inject(Desk);
  private readonly session = inject(Session);
  readonly boxId = input.required<string>();

  protected readonly cables = computed(() => this.derived.trade().cables.map(({ id }) => id));
  protected inches(length: number): string {
    return this.derived.units().short(length);
  }
  protected readonly box = computed(() => this.derived.reader()?.get('boxes', this.boxId()));
  /** Its cables, as the plan shows them. */
  protected readonly runIds = computed(() => {
    const reader = this.derived.reader();
    return reader && this.box() ? runsAt(reader, this.boxId()).map(({ id }) => id) : [];
  });
  protected readonly units = this.derived.units;
  protected readonly gauge = gaugeText;
  /** What kind of box it is. */
  protected readonly model = computed(() => {
    const reader = this.derived.reader();
    const box = this.box();
    return reader && box ? this.derived.words()?.say.boxModel(boxFacts(reader, box)) : undefined;
  });
  protected readonly fill = computed(() => {
    const reader = this.derived.reader();
    return reader && fillBox(reader, this.boxId());
  });
  protected readonly makeUp = computed(() => {
    const reader = this.derived.reader();
    return reader && this.box() ? this.derived.words()?.makeUp(makeUpBox(reader, this.boxId())) : undefined;
  });
  /** The step that is being made; undefined shows the whole box. */
  protected readonly step = linkedSignal<string, number | undefined>({
    source: this.boxId,
    computation: () => undefined,
  });
  protected readonly current = computed(() => {
    const at = this.step();
    return at === undefined ? undefined : this.makeUp()?.steps[at];
  });
  protected readonly made = computed(() => this.makeUp()?.steps.filter((step) => step.made).length ?? 0);
  /** Steps that are not made yet and can be. */
  private readonly left = computed(() =>
    (this.makeUp()?.steps ?? []).filter((step) => !step.made && step.stage !== 'open'),
  );
  protected readonly isLeft = computed(() => this.left().length > 0);
  /** The caution has been read: it is always shown whole before the first step of a box. */
  protected readonly isRead = linkedSignal<string, boolean>({
    source: this.boxId,
    computation: () => false,
  });
  protected readonly screen = inject(Screen);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  /** What was found at this box, counted. */
  protected readonly counts = computed(() => {
    const findings = this.findings();
    const stop = findings.filter(({ severity }) => severity === 'stop').length;
    const fix = findings.filter(({ severity }) => severity === 'fix').length;
    const parts = [stop && $localize`${stop} Stop`, fix && $localize`${fix} Fix`].filter(Boolean);
    return parts.length ? { stop: stop > 0, text: parts.join(' · ') } : undefined;
  });
  /** The conductor that was touched, and its whole way through the house. */
  protected readonly touched = linkedSignal<string, { runId: string; key: string } | undefined>({
    source: this.boxId,
    computation: () => undefined,
  });
  protected readonly trace = computed(() => {
    const reader = this.derived.reader();
    const touched = this.touched();
    return reader && touched ? traceConductor(reader, touched.runId, touched.key) : undefined;
  });
  protected readonly way = computed(() => this.trace()?.conductors ?? new Set<string>());
  protected readonly wayStops = computed(() => {
    const reader = this.derived.reader();
    const trace = this.trace();
    if (!reader || !trace) return [];
    return trace.stops.map(({ boxId, joint }) => ({
      boxId,
      roomId: roomOf(reader, boxId)?.id,
      tag: reader.get('boxes', boxId)?.tag ?? '',
      words: jointWords(reader, joint, this.derived.words()?.say.tongue),
    }));
  });
  private readonly picture = viewChild(BoxPicture);
  private readonly asBuilt = viewChild(AsBuilt);
  /** Joints are recorded as they were made, not as derived: a touch picks then. */
  protected readonly byHand = linkedSignal<string, boolean>({
    source: this.boxId,
    computation: () => false,
  });
  protected readonly stages = computed(() => {
    const steps = this.makeUp()?.steps ?? [];
    return STAGES.map((stage) => ({
      stage,
      term: STAGE_TERMS[stage],
      steps: steps.flatMap((step, index) => (step.stage === stage ? [{ step, index }] : [])),
    })).filter(({ steps: own }) => own.length > 0);
  });
  protected readonly tests = computed(() =>
    (this.makeUp()?.devices ?? []).flatMap(({ gang, onYoke, test }) =>
      test.map((line) => (onYoke ? $localize`Gang ${gang}\: ${line}` : line)),
    ),
  );
  /** The house goes by labels on the sheaths. */
  protected readonly byLabel = computed(() => this.derived.reader()?.rules().text('slot.order') === 'label');
  /** What to bring: connectors and pigtails, counted. */
  protected readonly material = computed(() => {
    const counts = new Map<string, number>();
    const count = (what: string): void => void counts.set(what, (counts.get(what) ?? 0) + 1);
    for (const step of this.makeUp()?.steps ?? []) {
      if (step.connector) count(step.connector.name);
      for (const pigtail of step.pigtails) {
        if (pigtail.connector) count(pigtail.connector);
        count(
          `${this.derived.glossary().pigtail} ${gaugeText(pigtail.gauge)} ${this.derived.phrases().colours[pigtail.colour]}, ${this.inches(pigtail.lengthIn)}`,
        );
      }
    }
    return [...counts].map(([what, number]) => `${number} × ${what}`);
  });
  protected readonly findings = computed(() => {
    const reader = this.derived.reader();
    const box = this.box();
    const makeUp = this.makeUp();
    if (!reader || !box || !makeUp) return [];
    const runs = new Set(makeUp.cables.map((cable) => cable.runId));
    const ofRuns = makeUp.breakers.flatMap(({ circuitId }) =>
      reader
        .derive(CIRCUIT_FINDINGS, circuitId)
        .filter(({ where }) => where.boxId === box.id || (where.runId && runs.has(where.runId))),
    );
    return [...reader.derive(BOX_FINDINGS, box.id), ...ofRuns];
  });

  constructor() {
    staysAwake();
    inject(Keys).while({
      'next step': () => this.go(1),
      'previous step': () => this.go(-1),
      tick: () => {
        const step = this.current();
        if (step) this.tick(step);
      },
    });
  }

  /** What is in the wall is changed on its pull, what is only planned on its run. */
  protected setCable(entering: SaidCable, cable: CableId): void {
    const reader = this.derived.reader();
    const pull = reader && standingPull(reader, entering.runId);
    this.desk.make(
      pull ? setting('pulls', pull.id, { cable }) : setting('runs', entering.runId, { plannedCable: cable }),
    );
  }

  protected setSlot(entering: SaidCable, text: string): void {
    const run = this.derived.reader()?.get('runs', entering.runId);
    if (!run) return;
    const end = { boxId: this.boxId(), ...(text.trim() && { slot: Number(text) }) };
    const side = run.from.boxId === this.boxId() ? 'from' : 'to';
    this.desk.make(setting('runs', run.id, { [side]: end }));
  }

  protected go(by: 1 | -1): void {
    const count = this.makeUp()?.steps.length ?? 0;
    const at = this.step();
    const next = at === undefined ? (by === 1 ? 0 : count - 1) : at + by;
    this.step.set(next < 0 || next >= count ? undefined : next);
    this.isRead.set(true);
    this.touched.set(undefined);
  }

  protected show(index: number): void {
    this.step.set(this.step() === index ? undefined : index);
  }

  protected touch(conductor: { runId: string; key: string }): void {
    if (this.byHand()) {
      this.asBuilt()?.pickWire(conductor);
      return;
    }
    const now = this.touched();
    this.touched.set(now?.runId === conductor.runId && now.key === conductor.key ? undefined : conductor);
  }

  /** Writes the joint of a step into the house as made, or takes it out again. */
  protected tick(step: SaidStep): void {
    const box = this.box();
    if (!box || step.stage === 'open') return;
    const asBuilt = step.made
      ? withoutJoint(box.asBuilt, step.joint)
      : withJoint(box.asBuilt, recordOfJoint(step.joint, step.connector?.id));
    const written = setting('boxes', box.id, {
      asBuilt: asBuilt.length ? asBuilt : null,
    });
    this.desk.make({
      kind: 'group',
      title: step.made
        ? $localize`Opened again: ${step.title}, ${box.tag}`
        : $localize`Made: ${step.title}, ${box.tag}`,
      changes: step.made
        ? [written]
        : [
            written,
            adding('records', {
              id: crypto.randomUUID(),
              kind: 'tick',
              at: new Date().toISOString(),
              by: this.session.who().id,
              boxId: box.id,
              step: step.stage,
            }),
          ],
    });
  }

  /** Everything that is left of the box, in one touch: undone as one. */
  protected madeUp(): void {
    const box = this.box();
    const left = this.left();
    if (!box || !left.length) return;
    const asBuilt = left.reduce<readonly Joint[]>(
      (joints, step) => withJoint([...joints], recordOfJoint(step.joint, step.connector?.id)),
      box.asBuilt ?? [],
    );
    this.desk.make({
      kind: 'group',
      title: $localize`Box made up: ${box.tag}`,
      changes: [
        setting('boxes', box.id, { asBuilt: [...asBuilt] }),
        adding('records', {
          id: crypto.randomUUID(),
          kind: 'tick',
          at: new Date().toISOString(),
          by: this.session.who().id,
          boxId: box.id,
          step: 'box-made-up',
        }),
      ],
    });
    this.step.set(undefined);
  }

  /** On a phone: what is shown is made, and the next step comes. */
  protected next(): void {
    const now = this.current();
    if (now && this.isRead() && !now.made && now.stage !== 'open') this.tick(now);
    this.go(1);
  }

  protected differs(): void {
    this.byHand.set(!this.byHand());
    if (this.byHand())
      setTimeout(() =>
        this.host.nativeElement.querySelector('.panel-form')?.scrollIntoView({ block: 'start' }),
      );
  }

  protected whatOf(item: FillItem): string {
    return this.derived.words()?.fillItem(item) ?? '';
  }
  protected capacityOf({ fitting }: CapacityLine): string {
    return fitting ? this.derived.phrases().fittings[fitting] : (this.model() ?? '');
  }
  protected roleOf(role: SaidCable['role']): string {
    return this.derived.inTrade(ROLES[role]);
  }

  protected exportSvg(): void {
    const text = this.picture()?.svgText();
    if (text) saveText(`${this.box()?.tag ?? 'box'}.svg`, text, 'image/svg+xml');
  }

  protected print(): void {
    window.print();
  }
}
