import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  output,
} from '@angular/core';
import type { MeterEnd, Report } from '@mule-tally/core';
import { boxName } from '@mule-tally/core';
import { netlistOf, sentence } from '@mule-tally/core/work';
import { Value } from '../parts/value';
import { Derived } from '../state/derived';
import { WordsPipe } from '../parts/words';

/** What a meter showed between two conductors of a box: dead, whether it rang; with the breaker on, what it read. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-meter-report',
  imports: [Value, WordsPipe],
  template: `
    <div class="fields">
      <label
        ><span i18n class="name">Box</span>
        <select class="form-select" [mtValue]="shownBox()" (mtValueChange)="boxId.set($event)">
          @for (box of boxes(); track box.id) {
            <option [value]="box.id">{{ box.name }}</option>
          }
        </select></label
      >
      <label
        ><span i18n class="name">From</span>
        <select class="form-select" [mtValue]="shown()[0]" (mtValueChange)="one.set($event)">
          @for (end of ends(); track $index) {
            <option [value]="$index">{{ end.name }}</option>
          }
        </select></label
      >
      <label
        ><span i18n class="name">To</span>
        <select class="form-select" [mtValue]="shown()[1]" (mtValueChange)="other.set($event)">
          @for (end of ends(); track $index) {
            <option [value]="$index">{{ end.name }}</option>
          }
        </select></label
      >
    </div>
    @if (pair()) {
      <p class="line">
        <ng-container i18n>Dead:</ng-container>
        <button i18n type="button" class="btn btn-line" (click)="rang(true)">It rings</button>
        <button i18n type="button" class="btn btn-line" (click)="rang(false)">It does not ring</button>
      </p>
      <p class="line">
        <ng-container>{{ 'Breaker on:' | words }}</ng-container>
        <button i18n type="button" class="btn btn-line" (click)="read('full')">Full voltage</button>
        <button i18n type="button" class="btn btn-line" (click)="read('none')">None</button>
        <button i18n type="button" class="btn btn-line" (click)="read('between')">Something between</button>
      </p>
      <p i18n class="soft">
        A wire that hangs on nothing can show a ghost voltage: put a lamp across it before you believe it.
        Prove the tester on a known live source before and after.
      </p>
    }
  `,
  styles: `
    .line {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 8px;
      margin: 0.4rem 0;
    }
  `,
})
export class MeterReport {
  private readonly derived = inject(Derived);
  readonly circuit = input.required<string>();
  /** Points of which the lever is up. */
  readonly up = input.required<ReadonlySet<string>>();
  readonly told = output<Report>();

  private readonly joints = computed(() => {
    const reader = this.derived.reader();
    return reader && reader.get('circuits', this.circuit()) ? netlistOf(reader, this.circuit()).joints : [];
  });
  protected readonly boxes = computed(() => {
    const reader = this.derived.reader();
    const ids = [...new Set(this.joints().map(({ boxId }) => boxId))];
    return reader ? ids.map((id) => ({ id, name: boxName(reader, id) })) : [];
  });
  protected readonly boxId = linkedSignal<string, string>({ source: this.circuit, computation: () => '' });
  protected readonly shownBox = computed(() => this.boxId() || this.boxes()[0]?.id || '');
  protected readonly ends = computed((): readonly { readonly end: MeterEnd; readonly name: string }[] => {
    const say = this.derived.words()?.say;
    const boxId = this.shownBox();
    return this.joints()
      .filter((one) => one.boxId === boxId)
      .flatMap(({ joint }) => joint.ends)
      .map(({ runId, key }) => ({
        end: { boxId, runId, key },
        name: sentence(say?.conductor({ runId, key }, boxId) ?? key),
      }));
  });
  protected readonly one = linkedSignal<string, number>({ source: this.shownBox, computation: () => 0 });
  protected readonly other = linkedSignal<string, number>({ source: this.shownBox, computation: () => 1 });
  protected readonly shown = computed(() => [Number(this.one()), Number(this.other())] as const);
  protected readonly pair = computed((): readonly [MeterEnd, MeterEnd] | undefined => {
    const [a, b] = this.shown().map((at) => this.ends()[at]?.end);
    return a && b && a !== b ? [a, b] : undefined;
  });

  protected rang(rings: boolean): void {
    const ends = this.pair();
    if (ends) this.told.emit({ kind: 'rang', ends, rings });
  }
  protected read(reads: 'full' | 'none' | 'between'): void {
    const ends = this.pair();
    if (ends) this.told.emit({ kind: 'volts', ends, up: [...this.up()], reads });
  }
}
