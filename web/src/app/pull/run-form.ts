import { DraftedLine } from '../parts/drafted-line';
import { ToldPipe } from '../parts/term';
import { WordsPipe } from '../parts/words';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  output,
  signal,
  untracked,
} from '@angular/core';
import { ReactiveFormsModule } from '@angular/forms';
import type { CableId, Run, SingleChangeBody } from '@mule-tally/core';
import type { Units } from '@mule-tally/core/work';
import { BURIED_POINT, RunPurpose, adding, boxName, circuitsAt, isLooseEnd, setting } from '@mule-tally/core';
import { readLength, usualCable } from '@mule-tally/core/work';
import { BoxField } from '../parts/pick-field';
import { TradePipe } from '../parts/trade';
import { TermPipe } from '../parts/term';
import { Removal } from '../parts/removal';
import type { FormOf } from '../parts/zod-form';
import { formOf, problemOf } from '../parts/zod-form';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';
import * as z from 'zod';
import { kept } from '../sync/draft-store';
import { exampleWires, readWireLine, wireLine } from './wire-list';

interface RunDraft {
  from: string;
  fromSlot: string;
  to: string;
  toSlot: string;
  loose: string;
  circuitId: string;
  cable: CableId | '';
  purpose: Run['purpose'] | '';
  length: string;
  label: string;
  kind: Run['kind'];
  /** Another circuit in the same cable, or in the same raceway. */
  secondId: string;
  wires: string;
  tradeSize: Run['tradeSize'] | '';
}

/** What has to be there of a run. */
const runEntry = ({ system }: Units) =>
  z
    .custom<RunDraft>()
    .refine(
      ({ from, to, loose }) => from && (to || loose.trim()),
      $localize`Pick a box at both ends, or say where the run ends loose.`,
    )
    .refine(
      ({ length }) => {
        const inches = readLength(length, system);
        return inches === undefined || inches >= 0;
      },
      system === 'metric'
        ? $localize`The length is in meters, such as 3.5.`
        : $localize`The length is in feet, such as 12 or 12'6.`,
    );

/** The name under which a half-filled run is kept: of one that is there, or of a new one in a room. */
export const runDraftName = (
  houseId: string | undefined,
  runId: string | undefined,
  roomId: string | undefined,
): string => `run.${houseId ?? ''}.${runId ?? `new ${roomId ?? ''}`}`;

/** A run from box and slot to box and slot: new, or one that is there. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-run-form',
  imports: [DraftedLine, ToldPipe, WordsPipe, ReactiveFormsModule, BoxField, TermPipe, TradePipe],
  templateUrl: './run-form.html',
  styles: `
    @media (width >= 700px) {
      .wires {
        grid-column: span 2;
      }
    }
    .actions {
      margin-top: 0.7rem;
    }
    .problem {
      color: var(--alert);
      font-weight: 700;
      margin: 0.5rem 0 0;
    }
  `,
})
export class RunForm {
  private readonly derived = inject(Derived);
  protected readonly units = this.derived.units;
  private readonly desk = inject(Desk);
  private readonly removal = inject(Removal);
  readonly runId = input<string>();
  /** The run, where it was drafted: it says why. */
  protected readonly drafted = computed(() => {
    const run = this.derived.reader()?.get('runs', this.runId() ?? '');
    return run?.drafted ? run : undefined;
  });
  readonly roomId = input<string>();
  readonly finished = output();

  protected readonly cables = computed(() => this.derived.trade().cables.map(({ id }) => id));
  /** A line of wires as it is typed, in sizes and colours of where the house is built. */
  protected readonly wiresLike = computed(() => {
    const like = exampleWires(this.derived.trade());
    return this.draft().secondId ? like.map((wire) => `${wire} of 10`).join(', ') : like.join(', ');
  });
  /** Sizes of raceway as they are called where the house is built. */
  protected readonly raceways = computed(() =>
    Object.entries(this.derived.trade().raceways).map(([id, name]) => ({
      id,
      name: this.derived.told(name),
    })),
  );
  protected readonly purposes = RunPurpose.options;
  protected readonly circuits = computed(() => this.derived.reader()?.all('circuits') ?? []);
  /** What is half entered outlives the page, and other people's changes. */
  private readonly entry = kept<RunDraft | null>(
    () => runDraftName(this.derived.reader()?.houseId, this.runId(), this.roomId()),
    null,
  );
  protected readonly draft = computed<RunDraft>(() => this.entry.value() ?? this.read());
  protected readonly problem = signal<string | undefined>(undefined);

  private read(): RunDraft {
    const id = this.runId();
    const run = id ? this.derived.reader()?.get('runs', id) : undefined;
    const reader = this.derived.reader();
    const isLoose = run && reader && isLooseEnd(reader, run.to.boxId);
    const loose = isLoose ? boxName(reader, run.to.boxId) : '';
    return {
      from: run?.from.boxId ?? '',
      fromSlot: String(run?.from.slot ?? ''),
      to: isLoose ? '' : (run?.to.boxId ?? ''),
      toSlot: isLoose ? '' : String(run?.to.slot ?? ''),
      loose,
      circuitId: run?.circuitIds[0] ?? '',
      cable: run?.plannedCable ?? '',
      purpose: run?.purpose ?? '',
      length: run?.measuredLengthIn === undefined ? '' : this.derived.units().long(run.measuredLengthIn),
      label: run?.label ?? '',
      kind: run?.kind ?? 'cable',
      secondId: run?.circuitIds[1] ?? '',
      wires: run?.wires ? wireLine(run.wires, this.circuits()) : '',
      tradeSize: run?.tradeSize ?? '',
    };
  }

  private readonly entryOf = computed(() => runEntry(this.units()));
  /** The form of what is half entered; made anew for another run, not for each key. */
  protected readonly form = linkedSignal({
    source: () => runDraftName(this.derived.reader()?.houseId, this.runId(), this.roomId()),
    computation: () => {
      const form = formOf(untracked(this.draft), untracked(this.entryOf));
      form.valueChanges.subscribe(() => this.entered(form));
      return form;
    },
  });

  protected pick(end: 'from' | 'to', boxId: string | undefined): void {
    this.form().controls[end].setValue(boxId ?? '');
  }

  /** Keeps what was entered, with what follows from it until somebody says otherwise. */
  private entered(form: FormOf<RunDraft>): void {
    const before = this.draft();
    const next = form.getRawValue();
    const reader = this.derived.reader();
    // A run out of a box with one circuit is on that circuit.
    if (next.from !== before.from && next.from && !next.circuitId && reader) {
      const circuits = circuitsAt(reader, next.from);
      if (circuits.length === 1) next.circuitId = circuits[0]!;
    }
    const circuit = next.circuitId ? reader?.get('circuits', next.circuitId) : undefined;
    if (circuit && reader && !next.cable && next.kind === 'cable')
      next.cable = usualCable(reader, circuit) ?? '';
    this.entry.set(next);
    form.patchValue(next, { emitEvent: false });
  }

  protected save(): void {
    const {
      from,
      to,
      loose,
      circuitId,
      secondId,
      cable,
      purpose,
      length,
      label,
      fromSlot,
      toSlot,
      kind,
      tradeSize,
    } = this.draft();
    const problem = problemOf(this.form());
    if (problem) return this.problem.set(problem);
    const lengthIn = readLength(length, this.units().system);
    const id = this.runId();
    const end = (boxId: string, slot: string) => ({ boxId, ...(slot.trim() && { slot: Number(slot) }) });
    const before = this.derived.reader()?.get('runs', this.runId() ?? '')?.circuitIds ?? [];
    // More than two circuits in a run are kept as they are.
    const circuitIds = [...new Set([circuitId, secondId, ...before.slice(2)].filter(Boolean))];
    const read = readWireLine(
      this.draft().wires,
      this.circuits().filter(({ id }) => circuitIds.includes(id)),
      this.derived.trade(),
    );
    if (kind === 'raceway' && 'problem' in read) {
      this.problem.set(this.derived.inTrade(read.problem));
      return;
    }
    const reader = this.derived.reader();
    const now = id ? reader?.get('runs', id)?.to.boxId : undefined;
    const isLoose = reader && now !== undefined && isLooseEnd(reader, now);
    // Where nothing is mounted yet the cable ends at a buried point, which belongs to the room that it comes from.
    const point = to ? undefined : isLoose ? now : crypto.randomUUID();
    const pointMade: SingleChangeBody | undefined = !point
      ? undefined
      : isLoose
        ? setting('boxes', point, { tag: loose.trim() })
        : adding('boxes', { id: point, tag: loose.trim(), catalogueId: BURIED_POINT });
    const fields = {
      from: end(from, fromSlot),
      to: to ? end(to, toSlot) : { boxId: point! },
      kind,
      circuitIds,
      plannedCable: kind === 'cable' ? cable || null : null,
      wires: kind === 'raceway' && 'wires' in read ? read.wires : null,
      tradeSize: (kind === 'raceway' && tradeSize) || null,
      purpose: purpose || null,
      measuredLengthIn: lengthIn ?? null,
      label: label.trim() || null,
    };
    const present = Object.fromEntries(Object.entries(fields).filter(([, value]) => value !== null));
    const body: SingleChangeBody = id
      ? setting('runs', id, fields)
      : adding('runs', { id: crypto.randomUUID(), ...present } as Run);
    const title = id
      ? $localize`Changed a run that ends loose: ${loose.trim()}`
      : $localize`Added a run that ends loose: ${loose.trim()}`;
    const refusal = this.desk.make(pointMade ? { kind: 'group', title, changes: [pointMade, body] } : body);
    if (refusal) this.problem.set(refusal.message);
    else this.leave();
  }

  /** Closes the form; what was half entered is let go of. */
  protected leave(): void {
    this.entry.set(null);
    this.finished.emit();
  }

  protected async remove(): Promise<void> {
    const removed = await this.removal.of('runs', this.runId()!, $localize`Remove the run and its pulls`);
    if (removed.kind === 'refused') this.problem.set(removed.message);
    else if (removed.kind === 'gone') this.leave();
  }
}
