import type { PipeTransform } from '@angular/core';
import { Pipe, inject } from '@angular/core';
import type { Term } from '@mule-tally/core';
import { Derived } from '../state/derived';
import { SPOKEN } from '../state/spoken';

/** What the trade calls something where this house is built: `{{ 'pigtail' | term }}`. */
@Pipe({ name: 'term', pure: false })
export class TermPipe implements PipeTransform {
  private readonly glossary = inject(Derived).glossary;

  transform(word: Term): string {
    return this.glossary()[word];
  }
}

/** Text that comes from rulebook, catalogue, core or server, in the language of the person: `{{ rule.title | told }}`. */
@Pipe({ name: 'told' })
export class ToldPipe implements PipeTransform {
  private readonly language = inject(SPOKEN);

  transform(text: string | undefined | null): string {
    return text ? this.language.told(text) : '';
  }
}
