import type { MarkQuestion, Units } from '@mule-tally/core/work';

/** What is asked about a mark on the sheath, or about a pull. */
export function markText(question: MarkQuestion, { long, mark }: Pick<Units, 'long' | 'mark'>): string {
  switch (question.kind) {
    case 'none-since':
      return $localize`Nothing was logged off this reel since its last mark.`;
    case 'backwards':
      return $localize`The marks ran the other way until ${mark(question.before)}.`;
    case 'gap':
      return $localize`The last mark of this reel was ${mark(question.before)}, and this begins at ${mark(question.start)}. Is it another reel?`;
    case 'unlikely':
      return $localize`That is ${long(question.usedIn)} for runs that were to take ${long(question.plannedIn)}.`;
    case 'more-than-left':
      return $localize`That is ${long(question.usedIn)}, and only ${long(question.leftIn)} was left on it.`;
  }
}
