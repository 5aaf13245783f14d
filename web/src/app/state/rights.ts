import { Injectable, computed, inject } from '@angular/core';
import { roleOf } from '@mule-tally/core';
import { Identity } from './identity';
import { OpenHouse } from './open-house';

/** What whoever works here is in the open house: so that screens offer what can be done, and nothing else. */
@Injectable({ providedIn: 'root' })
export class Rights {
  private readonly identity = inject(Identity);
  private readonly house = inject(OpenHouse);

  private readonly role = computed(() => {
    // By rules that are not here nothing can be worked out: it is only looked at.
    if (this.house.view()?.head.rulebook.elsewhere) return 'viewer';
    const actor = this.identity.actor();
    return actor ? roleOf(actor, this.house.view()?.head.id) : 'lead';
  });
  readonly isLead = computed(() => this.role() === 'lead');
  /** Only looks. */
  readonly isViewer = computed(() => this.role() === 'viewer');
}
