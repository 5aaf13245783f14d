import type { PipeTransform } from '@angular/core';
import { Pipe } from '@angular/core';
import { worded } from '../language/messages';

/** A sentence that is put together in an expression: `{{ 'Undo entry {}' | words: entry.seq }}`. */
@Pipe({ name: 'words' })
export class WordsPipe implements PipeTransform {
  transform(english: string, ...values: readonly unknown[]): string {
    return worded(english, ...values);
  }
}
