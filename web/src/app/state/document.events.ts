import type { EnvelopeOf, RefusalIn } from '@mule-tally/core';
import { createActionGroup, emptyProps, props } from '@ngrx/store';
import type { UndoStacks } from '../sync/device-store';
import type { OutboxItem } from '../sync/outbox';

/** What a change means for the undo stacks: something new, a step back, a step forward. */
export type Step = 'do' | 'undo' | 'redo';

/** What happens to a document that is open: one group of these for houses, one for the crew book. */
const documentEvents = (source: string) =>
  createActionGroup({
    // The store tells events by their text, which is of this source; their types are those of any document.
    source: source as 'Document',
    events: {
      Opened: props<{ documentId: string }>(),
      Read: props<{
        documentId: string;
        seq: number;
        outbox: readonly OutboxItem[];
        stacks: UndoStacks;
        away: boolean;
        epoch: string;
      }>(),
      Missing: emptyProps(),
      Unreadable: props<{ message: string }>(),
      Closed: emptyProps(),
      'Change Made': props<{ envelope: EnvelopeOf; step: Step }>(),
      'Change Not Made': props<{ refusal: RefusalIn; step: Step }>(),
      'Change Kept': props<{ changeId: string }>(),
      /** Something waits on the device that was not made here just now: it is to be sent again, or was brought. */
      'Change Waits': emptyProps(),
      'Journal Arrived': props<{ documentId: string; seq: number; changeIds: readonly string[] }>(),
      'Changes Answered': props<{
        documentId: string;
        done: readonly string[];
        refused: readonly { id: string; code: string; message: string }[];
        overwrote: readonly string[];
      }>(),
      'Refused Change Dropped': props<{ changeId: string }>(),
      'Refused Change Retried': props<{ changeId: string }>(),
      'Outbox Read': props<{ documentId: string; outbox: readonly OutboxItem[] }>(),
      'Server Away': emptyProps(),
      'Server Back': emptyProps(),
      'Message Read': emptyProps(),
    },
  });
export type DocumentEvents = ReturnType<typeof documentEvents>;

export const HouseEvents = documentEvents('House');
export const CrewEvents = documentEvents('Crew');
