import type { HouseReader, Term } from '@mule-tally/core';
import type { LookAt } from '@mule-tally/core/furnish';

/** A few of many names, and how many more. */
function some(names: readonly string[]): string {
  const shown = names.slice(0, 4).join(', ');
  const left = names.length - 4;
  return left > 0 ? $localize`${shown} and ${left} more` : shown;
}

/** What to look at before a draft is used, in a sentence, and where it is put right. */
export function lookAtText(
  reader: HouseReader,
  look: LookAt,
  term: (word: Term) => string,
): { text: string; of?: string } {
  const room = (id: string): string => reader.get('rooms', id)?.name ?? '';
  switch (look.code) {
    case 'size-assumed':
      return {
        text: $localize`Say how large these rooms are, their sizes are assumed: ${some(look.roomIds.map(room))}.`,
        of: 'rooms',
      };
    case 'nameplate':
      return {
        text: $localize`Read the nameplates before the wide cable is pulled: ${some(look.circuits)}.`,
        of: 'asks',
      };
    case 'gangs-split':
      return {
        text: $localize`${room(look.roomId)} asks for ${look.gangs} gangs, more than one box has: they are in two boxes.`,
      };
    case 'one-from-every':
      return {
        text: $localize`${room(look.roomId)}, ${look.item}\: switched from the first way in only. One pair of ${term('travelers')} goes between two boxes.`,
      };
    case 'pulled-circuit':
      return {
        text: $localize`${room(look.roomId)}\: its circuit stays as it is, so ${look.items} more boxes are left for you to add.`,
      };
    case 'no-box-holds':
      return {
        text: $localize`${room(look.roomId)}, ${look.tag}\: no box of the list holds what enters. Look for another one.`,
      };
    case 'panel-place':
      return {
        text: $localize`The ${term('panel')} hangs in ${room(look.roomId)}, where it may not\: ${reader.rules().section('panelPlace')}.`,
      };
    case 'own-boxes':
      return {
        text: $localize`Somebody has set boxes in these rooms, they get nothing: ${some(look.roomIds.map(room))}.`,
      };
  }
}
