import { Component, computed, inject, input } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import type { CableId, EnteringCable } from '@mule-tally/core';
import {
  BOX_FINDINGS,
  CIRCUIT_FINDINGS,
  CableId as CableIds,
  boxFacts,
  fillBox,
  makeUpBox,
  setting,
  standingPull,
} from '@mule-tally/core';
import { Caution } from '../parts/caution';
import { FillGauge } from '../parts/fill-gauge';
import { FindingCard } from '../parts/finding-card';
import { inchesText } from '../parts/lengths';
import { Wire } from '../parts/wire';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';

const STAGE_NAMES = {
  grounds: 'Grounds',
  neutrals: 'Neutrals',
  hots: 'Hots',
  legs: 'Switch legs',
  spares: 'Spares',
  open: 'Not derived yet',
} as const;

/** The bench of one box: cables by slot, the steps in order with counts and lengths, every line of the fill. */
@Component({
  selector: 'mt-bench',
  imports: [FormsModule, RouterLink, Caution, FillGauge, FindingCard, Wire],
  templateUrl: './bench.html',
  styleUrl: './bench.scss',
})
export class Bench {
  private readonly derived = inject(Derived);
  private readonly desk = inject(Desk);
  readonly boxId = input.required<string>();

  protected readonly cables = CableIds.options;
  protected readonly inches = inchesText;
  protected readonly box = computed(() => this.derived.reader()?.get('boxes', this.boxId()));
  protected readonly facts = computed(() => {
    const reader = this.derived.reader();
    const box = this.box();
    return reader && box ? boxFacts(reader, box) : undefined;
  });
  protected readonly fill = computed(() => {
    const reader = this.derived.reader();
    return reader && fillBox(reader, this.boxId());
  });
  protected readonly makeUp = computed(() => {
    const reader = this.derived.reader();
    return reader && this.box() ? makeUpBox(reader, this.boxId()) : undefined;
  });
  protected readonly stages = computed(() => {
    const steps = this.makeUp()?.steps ?? [];
    return (Object.keys(STAGE_NAMES) as (keyof typeof STAGE_NAMES)[])
      .map((stage) => ({
        stage,
        name: STAGE_NAMES[stage],
        steps: steps.filter((step) => step.stage === stage),
      }))
      .filter(({ steps: own }) => own.length > 0);
  });
  /** What to bring: connectors and pigtails, counted. */
  protected readonly material = computed(() => {
    const counts = new Map<string, number>();
    const count = (what: string): void => void counts.set(what, (counts.get(what) ?? 0) + 1);
    for (const step of this.makeUp()?.steps ?? []) {
      if (step.connector) count(step.connector.name);
      for (const pigtail of step.pigtails)
        count(
          `pigtail ${pigtail.awg} AWG ${pigtail.colour === 'BARE' ? 'bare' : pigtail.colour}, ${this.inches(pigtail.lengthIn)}`,
        );
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

  /** What is in the wall is changed on its pull, what is only planned on its run. */
  protected setCable(entering: EnteringCable, cable: CableId): void {
    const reader = this.derived.reader();
    const pull = reader && standingPull(reader, entering.runId);
    this.desk.make(
      pull ? setting('pulls', pull.id, { cable }) : setting('runs', entering.runId, { plannedCable: cable }),
    );
  }

  protected setSlot(entering: EnteringCable, text: string): void {
    const run = this.derived.reader()?.get('runs', entering.runId);
    if (!run) return;
    const end = { boxId: this.boxId(), ...(text.trim() && { slot: Number(text) }) };
    const side = run.from.boxId === this.boxId() ? 'from' : 'to';
    this.desk.make(setting('runs', run.id, { [side]: end }));
  }

  protected print(): void {
    window.print();
  }
}
