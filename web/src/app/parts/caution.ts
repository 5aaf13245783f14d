import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { Derived } from '../state/derived';
import { TermPipe } from './term';

/** The usual cautions, on every screen that can lead a hand to a conductor. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-caution',
  imports: [TermPipe],
  template: `
    <strong>Before anybody reaches in:</strong>
    @if (breakers().length) {
      open {{ list() }} at the {{ 'panel' | term }}, tag each “crew working, leave off”, then
    } @else {
      power off and tagged at the {{ 'panel' | term }}, then
    }
    prove dead: tester on a known live source, on the work, on the live source again. Local code, the
    inspector and a licensed electrician decide; this sheet only advises.
  `,
  styles: `
    :host {
      display: block;
      padding: 0.5rem 0.8rem;
      border: 2px solid var(--attention);
      border-left-width: 0.6rem;
      background: var(--paper-raised);
    }
  `,
})
export class Caution {
  private readonly trade = inject(Derived).trade;
  readonly breakers = input<readonly { number: number; name: string; amps: number }[]>([]);
  protected list(): string {
    return this.breakers()
      .map(({ number, name, amps }) => `${this.trade().glossary.breaker} ${number} (${name}, ${amps} A)`)
      .join(' and ');
  }
}
