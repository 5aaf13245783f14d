import type { PipeTransform } from '@angular/core';
import { Pipe, inject } from '@angular/core';
import type { Term } from '@mule-tally/core';
import { Derived } from '../state/derived';

/** What the trade calls something where this house is built: `{{ 'pigtail' | term }}`. */
@Pipe({ name: 'term', pure: false })
export class TermPipe implements PipeTransform {
  private readonly trade = inject(Derived).trade;

  transform(word: Term): string {
    return this.trade().glossary[word];
  }
}
