import { Directive, computed, inject, input } from '@angular/core';
import { Rights } from '../state/rights';

/**
 * Fields and buttons that only a lead changes something with, or that a hand does too, around them: whoever may only look reads
 * what stands in them. What adds or takes away is not shown to them at all.
 */
@Directive({
  selector: 'fieldset[mtOnlyFor]',
  host: { class: 'only-for', '[disabled]': 'isShut()' },
})
export class OnlyFor {
  private readonly rights = inject(Rights);
  readonly mtOnlyFor = input.required<'lead' | 'hand'>();
  protected readonly isShut = computed(() =>
    this.mtOnlyFor() === 'lead' ? !this.rights.isLead() : this.rights.isViewer(),
  );
}
