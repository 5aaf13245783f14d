import { Rights } from '../state/rights';
import { OnlyFor } from '../parts/only-for';
import { CdkDrag, CdkDropList, CdkDropListGroup } from '@angular/cdk/drag-drop';
import type { CdkDragDrop } from '@angular/cdk/drag-drop';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type { PanelSpace } from '@mule-tally/core/furnish';
import { boxFacts } from '@mule-tally/core';
import { moveBreaker, panelLayout } from '@mule-tally/core/furnish';
import { TermPipe, ToldPipe } from '../parts/term';
import { WordsPipe } from '../parts/words';
import { Derived } from '../state/derived';
import { Desk } from '../state/desk';

/** The panel with its cover off: two columns of spaces; a breaker is moved by dragging, or by touching it and then its space. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-panel-sheet',
  imports: [OnlyFor, CdkDrag, CdkDropList, CdkDropListGroup, TermPipe, ToldPipe, WordsPipe],
  templateUrl: './panel-sheet.html',
  styleUrl: './panel-sheet.scss',
})
export class PanelSheet {
  protected readonly rights = inject(Rights);
  private readonly derived = inject(Derived);
  private readonly desk = inject(Desk);
  /** The circuit that has been touched and goes where is touched next. */
  protected readonly moving = signal<string | undefined>(undefined);
  protected readonly problem = signal<string | undefined>(undefined);

  /** Whether the service has two legs, between which load is shared out. */
  protected readonly twoLegs = computed(() => this.derived.trade().legs === 2);

  protected readonly panels = computed(() => {
    const reader = this.derived.reader();
    if (!reader) return [];
    return reader
      .all('boxes')
      .filter((box) => boxFacts(reader, box).kind === 'panel')
      .map((box) => {
        const layout = panelLayout(reader, box.id);
        return {
          box,
          layout,
          without: layout.without.map((id) => this.nameOf(id)),
          directory: reader
            .mentioning('circuits', box.id)
            .filter(({ panelId }) => panelId === box.id)
            .toSorted((a, b) => a.number - b.number),
        };
      });
  });

  private nameOf(circuitId: string): { id: string; number: number; name: string } {
    const circuit = this.derived.reader()?.get('circuits', circuitId);
    return { id: circuitId, number: circuit?.number ?? 0, name: circuit?.name ?? '' };
  }

  protected circuitAt({ circuitId }: PanelSpace) {
    return circuitId ? this.derived.reader()?.get('circuits', circuitId) : undefined;
  }

  /** First touch takes a breaker up, second puts it down. */
  protected touched({ space, circuitId }: PanelSpace): void {
    const moving = this.moving();
    if (moving === undefined) return this.moving.set(circuitId);
    this.moving.set(undefined);
    if (moving !== circuitId) this.move(moving, space);
  }

  protected dropped({ item, container }: CdkDragDrop<PanelSpace, PanelSpace, string>): void {
    this.moving.set(undefined);
    this.move(item.data, container.data.space);
  }

  private move(circuitId: string, space: number): void {
    const reader = this.derived.reader();
    if (!reader) return;
    const changes = moveBreaker(reader, circuitId, space);
    if (changes.length === 0) return;
    const { number } = this.nameOf(circuitId);
    this.problem.set(
      this.desk.make({
        kind: 'group',
        title: $localize`Moved circuit ${number} to space ${space}`,
        changes,
      })?.message,
    );
  }

  protected label(entry: PanelSpace): string {
    const circuit = this.circuitAt(entry);
    return circuit
      ? $localize`Space ${entry.space}\: circuit ${circuit.number}, ${circuit.name}`
      : $localize`Space ${entry.space}\: free`;
  }

  protected print(): void {
    window.print();
  }
}
