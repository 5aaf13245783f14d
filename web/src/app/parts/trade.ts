import type { PipeTransform } from '@angular/core';
import { Pipe, inject } from '@angular/core';
import { Derived } from '../state/derived';

/** A text that is written in the trade words of the United States, in those of where the house is built: `{{ tab.name | trade }}`. */
@Pipe({ name: 'trade', pure: false })
export class TradePipe implements PipeTransform {
  private readonly derived = inject(Derived);

  transform(text: string): string {
    return this.derived.inTrade(text);
  }
}
