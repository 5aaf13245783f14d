import { Injectable, computed, inject } from '@angular/core';
import type { HouseReader } from '@mule-tally/core';
import { Derivations } from '@mule-tally/core';
import { Store } from '@ngrx/store';
import { houseFeature } from './house.feature';

/**
 * What follows from the house that is shown. Screens read it in their computed values; after a change only what the change
 * touches is derived again.
 */
@Injectable({ providedIn: 'root' })
export class Derived {
  private readonly view = inject(Store).selectSignal(houseFeature.selectView);
  private derivations: Derivations | undefined;

  readonly reader = computed((): HouseReader | undefined => {
    const house = this.view();
    if (!house) return undefined;
    if (this.derivations?.house.head.id === house.head.id) this.derivations.update(house);
    else this.derivations = new Derivations(house);
    return this.derivations.reader();
  });
}
