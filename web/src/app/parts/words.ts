import type { PipeTransform } from '@angular/core';
import { Pipe, inject } from '@angular/core';
import { worded } from '../language/messages';
import { Derived } from '../state/derived';

/**
 * A sentence that is put together in an expression, in the trade words of where the house is built:
 * `{{ 'Undo entry {}' | words: entry.seq }}`.
 */
@Pipe({ name: 'words', pure: false })
export class WordsPipe implements PipeTransform {
  private readonly derived = inject(Derived);
  private last: readonly unknown[] = [];
  private said = '';

  transform(english: string, ...values: readonly unknown[]): string {
    const asked = [this.derived.trade(), english, ...values];
    if (asked.length !== this.last.length || asked.some((one, at) => one !== this.last[at])) {
      this.last = asked;
      this.said = worded(this.derived.inTrade(english), ...values);
    }
    return this.said;
  }
}
