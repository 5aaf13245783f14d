import { WordsPipe } from '../parts/words';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  viewChild,
} from '@angular/core';
import type { ProofFailure } from '@mule-tally/core/work';
import { circuitOfPoint, roomOf, sameJson } from '@mule-tally/core';
import {
  CableCurrents,
  Machine,
  allPositions,
  netlistOf,
  positionsOf,
  proveCircuit,
  wireCircuit,
} from '@mule-tally/core/work';
import { Value } from '../parts/value';
import { Caution } from '../parts/caution';
import { TermPipe } from '../parts/term';
import { saveText } from '../parts/save-text';
import { Derived } from '../state/derived';
import type { LoadState } from './circuit-picture';
import { CircuitPicture, STATES } from './circuit-picture';
import { drawSwitching } from './switching-drawing';

/** A truth table has no more rows than this on the screen. */
const ROWS_TO = 6;

/**
 * One circuit, alive: flip its switches and see what is hot, where current flows and what is lit; every position in a table;
 * what the proof says, and its counterexample with one touch.
 */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-flip-switches',
  imports: [WordsPipe, Value, Caution, CircuitPicture, TermPipe],
  templateUrl: './flip-switches.html',
  styleUrl: './flip-switches.scss',
})
export class FlipSwitches {
  private readonly derived = inject(Derived);
  readonly room = input<string>();
  readonly wanted = input<string>();

  protected readonly circuits = computed(() =>
    [...(this.derived.reader()?.all('circuits') ?? [])].sort((a, b) => a.number - b.number),
  );
  /** The circuit that was asked for, else the one that has a switch in this room, else the first. */
  protected readonly circuitId = linkedSignal<string | undefined>(() => {
    const reader = this.derived.reader();
    const wanted = this.wanted();
    if (!reader) return undefined;
    if (wanted && reader.get('circuits', wanted)) return wanted;
    const here = reader
      .all('points')
      .find(
        (point) =>
          point.role === 'lever' &&
          roomOf(reader, reader.get('devices', point.deviceId)!.boxId)?.id === this.room(),
      );
    return (here && circuitOfPoint(reader, here)) ?? this.circuits()[0]?.id;
  });
  protected readonly controlId = linkedSignal<string | undefined, string>({
    source: this.circuitId,
    computation: () => '',
  });
  /** Levers that are up. */
  protected readonly up = linkedSignal<string | undefined, ReadonlySet<string>>({
    source: this.circuitId,
    computation: () => new Set(),
  });
  protected readonly allFailures = linkedSignal<string | undefined, boolean>({
    source: this.circuitId,
    computation: () => false,
  });
  protected readonly shown = linkedSignal<string | undefined, ProofFailure | undefined>({
    source: this.circuitId,
    computation: () => undefined,
  });

  protected readonly netlist = computed(() => {
    const reader = this.derived.reader();
    const id = this.circuitId();
    return reader && id && reader.get('circuits', id) ? netlistOf(reader, id) : undefined;
  });
  protected readonly wiring = computed(() => {
    const reader = this.derived.reader();
    const id = this.circuitId();
    return reader && id && reader.get('circuits', id) ? wireCircuit(reader, id) : undefined;
  });
  protected readonly proof = computed(() => {
    const reader = this.derived.reader();
    const id = this.circuitId();
    return reader && id && reader.get('circuits', id) ? proveCircuit(reader, id) : undefined;
  });
  protected readonly breaker = computed(() => {
    const circuit = this.circuits().find(({ id }) => id === this.circuitId());
    return circuit ? [{ number: circuit.number, name: circuit.name, amps: circuit.breakerAmps }] : [];
  });
  protected readonly controls = computed(() => {
    const reader = this.derived.reader();
    const netlist = this.netlist();
    if (!reader || !netlist) return [];
    return [...netlist.places.keys()].flatMap((id) => reader.get('controls', id) ?? []);
  });
  private readonly control = computed(() => this.controls().find(({ id }) => id === this.controlId()));

  protected readonly drawing = computed(() => {
    const reader = this.derived.reader();
    const [netlist, wiring, control] = [this.netlist(), this.wiring(), this.control()];
    const say = this.derived.words()?.say;
    if (!reader || !netlist || !wiring || !say) return undefined;
    const nodeOf = (pointId: string): string | undefined => {
      const device = reader.get('devices', reader.get('points', pointId)?.deviceId ?? '');
      return device && (wiring.tree.moved.get(device.id) ?? device.boxId);
    };
    const only = control
      ? [...control.places, ...control.loads]
          .flatMap((id) => nodeOf(id) ?? [])
          .filter((node) => wiring.tree.boxOf.has(node))
      : undefined;
    return drawSwitching(reader, say, wiring, netlist, only);
  });
  private readonly machine = computed(() => {
    const netlist = this.netlist();
    return netlist && { machine: new Machine(netlist), currents: new CableCurrents(netlist) };
  });
  /** What is hot, flows and is lit with the levers as they are. */
  protected readonly alive = computed(() => {
    const netlist = this.netlist();
    const made = this.machine();
    if (!netlist || !made) return undefined;
    const levers = positionsOf(netlist, this.up());
    const operated = made.machine.operate(levers);
    const volts = Float64Array.from(operated.loads, (load) => load.volts);
    const amps = operated.shorts.length
      ? new Float64Array(netlist.conductors.length)
      : made.currents.amps(netlist, levers, volts);
    const hot = new Set<string>();
    const flowing = new Set<string>();
    netlist.conductors.forEach(({ runId, key, from }, index) => {
      if (operated.hot.has(netlist.joints[from]!.net)) hot.add(`${runId} ${key}`);
      if (Math.abs(amps[index]!) > 1e-6) flowing.add(`${runId} ${key}`);
    });
    return {
      hot,
      flowing,
      shorts: operated.shorts,
      loads: new Map(operated.loads.map((load) => [load.pointId, load])),
    };
  });
  protected readonly table = computed(() => {
    const reader = this.derived.reader();
    const netlist = this.netlist();
    const control = this.control();
    const made = this.machine();
    if (!reader || !netlist || !control || !made || control.places.length > ROWS_TO) return undefined;
    const tag = (pointId: string): string => {
      const device = reader.get('devices', reader.get('points', pointId)!.deviceId)!;
      return reader.get('boxes', device.boxId)!.tag;
    };
    return {
      places: control.places.map(tag),
      loads: control.loads.map(tag),
      rows: allPositions(control.places.length).map((mask) => {
        const up = new Set(control.places.filter((_, index) => (mask >>> index) & 1));
        const states = new Map(
          made.machine.operate(positionsOf(netlist, up)).loads.map(({ pointId, state }) => [pointId, state]),
        );
        return {
          up,
          levers: control.places.map((id) => up.has(id)),
          loads: control.loads.map((id) => states.get(id) ?? 'off'),
        };
      }),
    };
  });

  /** `<run> <conductor>` of what the failure that is shown says to look at. */
  protected readonly lookAt = computed((): ReadonlySet<string> => {
    const conductor = this.shown()?.conductor;
    return new Set(conductor ? [`${conductor.runId} ${conductor.key}`] : []);
  });
  private readonly picture = viewChild(CircuitPicture);
  protected readonly noLever: ReadonlySet<string> = new Set();
  protected readonly upWord = $localize`up`;
  protected readonly downWord = $localize`down`;
  protected stateWord(state: LoadState): string {
    return STATES[state];
  }
  protected throwLever(pointId: string): void {
    const next = new Set(this.up());
    if (!next.delete(pointId)) next.add(pointId);
    this.up.set(next);
    this.shown.set(undefined);
  }

  protected setAll(points: ReadonlySet<string>): void {
    this.up.set(points);
    this.shown.set(undefined);
  }

  protected isRow(row: { readonly up: ReadonlySet<string> }): boolean {
    const places = this.control()?.places ?? [];
    return places.every((id) => row.up.has(id) === this.up().has(id));
  }

  /** Puts the levers where the proof found that something does not hold. */
  protected replay(failure: ProofFailure): void {
    // Where circuits are joined, what to look at may be in the picture of the other one.
    const run = this.derived.reader()?.get('runs', failure.conductor?.runId ?? '');
    const [other] = run?.circuitIds ?? [];
    if (run && other && !this.wiring()?.runs.has(run.id)) {
      this.circuitId.set(other);
      this.allFailures.set(true);
    }
    this.controlId.set(
      failure.controlId && this.controls().some(({ id }) => id === failure.controlId)
        ? failure.controlId
        : '',
    );
    this.up.set(new Set(failure.up ?? []));
    this.shown.set(failure);
    this.picture()?.showLookAt();
  }

  protected isShown(failure: ProofFailure): boolean {
    return sameJson(this.shown(), failure);
  }

  protected readonly words = this.derived.words;

  protected async export(kind: 'spice' | 'csv' | 'json'): Promise<void> {
    const reader = this.derived.reader();
    const netlist = this.netlist();
    const circuit = this.circuits().find(({ id }) => id === this.circuitId());
    if (!reader || !netlist || !circuit) return;
    const name = `circuit-${circuit.number}`;
    const { conductorSchedule, writeNetlistJson, writeScheduleCsv, writeSpice } =
      await import('@mule-tally/core/exchange');
    if (kind === 'spice')
      saveText(`${name}.cir`, writeSpice(reader, netlist, `circuit ${circuit.number}`), 'text/plain');
    else if (kind === 'csv')
      saveText(`${name}-conductors.csv`, writeScheduleCsv(conductorSchedule(reader, netlist)), 'text/csv');
    else saveText(`${name}-netlist.json`, writeNetlistJson(reader, netlist), 'application/json');
  }
}
