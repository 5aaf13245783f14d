import type { Envelope, Refusal } from '@mule-tally/core';
import { createActionGroup, emptyProps, props } from '@ngrx/store';
import type { UndoStacks } from '../sync/device-store';
import type { OutboxItem } from '../sync/outbox';

/** What a change means for the undo stacks: something new, a step back, a step forward. */
export type Step = 'do' | 'undo' | 'redo';

/** What happens to the house that is open. */
export const HouseEvents = createActionGroup({
  source: 'House',
  events: {
    'House Opened': props<{ houseId: string }>(),
    'House Read': props<{
      houseId: string;
      seq: number;
      outbox: readonly OutboxItem[];
      stacks: UndoStacks;
      away: boolean;
      epoch: string;
    }>(),
    'House Missing': emptyProps(),
    'House Unreadable': props<{ message: string }>(),
    'House Closed': emptyProps(),
    'Change Made': props<{ envelope: Envelope; step: Step }>(),
    'Change Not Made': props<{ refusal: Refusal }>(),
    'Change Kept': props<{ changeId: string }>(),
    'Journal Arrived': props<{ houseId: string; seq: number; changeIds: readonly string[] }>(),
    'Changes Answered': props<{
      houseId: string;
      done: readonly string[];
      refused: readonly { id: string; code: string; message: string }[];
      overwrote: readonly string[];
    }>(),
    'Refused Change Dropped': props<{ changeId: string }>(),
    'Refused Change Retried': props<{ changeId: string }>(),
    'Outbox Read': props<{ houseId: string; outbox: readonly OutboxItem[] }>(),
    'Server Away': emptyProps(),
    'Server Back': emptyProps(),
    'Message Read': emptyProps(),
  },
});
