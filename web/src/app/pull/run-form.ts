import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { CableId, Run, SingleChangeBody } from '@mule-tally/core';
import {
  BURIED_POINT,
  RunPurpose,
  adding,
  boxName,
  circuitsAt,
  isLooseEnd,
  readLength,
  setting,
  usualCable,
} from '@mule-tally/core';
import { BoxField } from '../parts/pick-field';
import { TermPipe } from '../parts/term';
import { Removal } from '../parts/removal';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';
import { kept } from '../sync/draft-store';
import { readWireLine, wireLine } from './wire-list';

interface RunDraft {
  from?: string;
  fromSlot: string;
  to?: string;
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
  imports: [FormsModule, BoxField, TermPipe],
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
  readonly roomId = input<string>();
  readonly finished = output();

  protected readonly cables = computed(() => this.derived.trade().cables.map(({ id }) => id));
  protected readonly purposes = RunPurpose.options;
  protected readonly circuits = computed(() => this.derived.reader()?.all('circuits') ?? []);
  /** What is half entered outlives the page, and other people's changes. */
  private readonly entry = kept<RunDraft | null>(
    () => runDraftName(this.derived.reader()?.houseId, this.runId(), this.roomId()),
    null,
  );
  protected readonly draft = computed<RunDraft>(() => this.entry.value() ?? this.read());
  protected readonly problem = signal<string | undefined>(undefined);
  /** What would go with the run, once the person has been told. */

  private read(): RunDraft {
    const id = this.runId();
    const run = id ? this.derived.reader()?.get('runs', id) : undefined;
    const reader = this.derived.reader();
    const isLoose = run && reader && isLooseEnd(reader, run.to.boxId);
    const loose = isLoose ? boxName(reader, run.to.boxId) : '';
    return {
      from: run?.from.boxId,
      fromSlot: String(run?.from.slot ?? ''),
      to: isLoose ? undefined : run?.to.boxId,
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

  protected edit(part: Partial<RunDraft>): void {
    const next = { ...this.draft(), ...part };
    const reader = this.derived.reader();
    // A run out of a box with one circuit is on that circuit, until somebody says otherwise.
    if (part.from && !next.circuitId && reader) {
      const circuits = circuitsAt(reader, part.from);
      if (circuits.length === 1) next.circuitId = circuits[0]!;
    }
    const circuit = next.circuitId ? reader?.get('circuits', next.circuitId) : undefined;
    if (circuit && reader && !next.cable && next.kind === 'cable')
      next.cable = usualCable(reader, circuit) ?? '';
    this.entry.set(next);
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
    const lengthIn = readLength(length, this.derived.units().system);
    if (!from || (!to && !loose.trim())) {
      this.problem.set('Pick a box at both ends, or say where the run ends loose.');
      return;
    }
    if (lengthIn !== undefined && !(lengthIn >= 0)) {
      this.problem.set(
        this.derived.units().typed === 'm'
          ? 'The length is in metres, such as 3.5.'
          : "The length is in feet, such as 12 or 12'6.",
      );
      return;
    }
    const id = this.runId();
    const end = (boxId: string, slot: string) => ({ boxId, ...(slot.trim() && { slot: Number(slot) }) });
    const before = this.derived.reader()?.get('runs', this.runId() ?? '')?.circuitIds ?? [];
    // More than two circuits in a run are kept as they are.
    const circuitIds = [...new Set([circuitId, secondId, ...before.slice(2)].filter(Boolean))];
    const read = readWireLine(
      this.draft().wires,
      this.circuits().filter(({ id }) => circuitIds.includes(id)),
    );
    if (kind === 'raceway' && 'problem' in read) {
      this.problem.set(read.problem);
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
    const title = `${id ? 'Changed' : 'Added'} a run that ends loose: ${loose.trim()}`;
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
    const removed = await this.removal.of('runs', this.runId()!, 'Remove the run and its pulls');
    if (removed.kind === 'refused') this.problem.set(removed.message);
    else if (removed.kind === 'gone') this.leave();
  }
}
