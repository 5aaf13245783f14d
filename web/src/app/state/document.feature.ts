import type { MemoizedSelector } from '@ngrx/store';
import { createFeature, createReducer, createSelector, on } from '@ngrx/store';
import type { OutboxItem } from '../sync/outbox';
import type { DocumentEvents } from './document.events';
import { CrewEvents, HouseEvents } from './document.events';

/** How many steps back a person can go. */
const UNDO_STEPS = 200;

/** Where an open document stands between this device and the server; the document itself is kept by its `OpenDocument`. */
export interface DocumentState {
  readonly documentId: string | null;
  readonly phase: 'closed' | 'loading' | 'ready' | 'missing' | 'unreadable';
  /** Number of the last entry of the journal that has arrived. */
  readonly seq: number;
  readonly outbox: readonly OutboxItem[];
  /** Changes among them that are not in the database of the device yet. */
  readonly unkept: readonly string[];
  readonly undo: readonly string[];
  readonly redo: readonly string[];
  readonly away: boolean;
  /** The database that the head was read from. */
  readonly epoch: string;
  /** A sentence to show until it is read. */
  readonly message: string | null;
}

const closed: DocumentState = {
  documentId: null,
  phase: 'closed',
  seq: 0,
  outbox: [],
  unkept: [],
  undo: [],
  redo: [],
  away: false,
  epoch: '',
  message: null,
};

/** An item that is to be sent again. */
export const unrefused = ({ refusal: _, ...item }: OutboxItem): OutboxItem => item;

/** What is kept of an open document, told by its events. */
const reducerOf = (events: DocumentEvents) =>
  createReducer(
    closed,
    on(events.opened, (_state, { documentId }): DocumentState => ({
      ...closed,
      documentId,
      phase: 'loading',
    })),
    on(events.closed, (): DocumentState => closed),
    on(events.missing, (state): DocumentState => ({ ...state, phase: 'missing' })),
    on(events.unreadable, (state, { message }): DocumentState => ({
      ...state,
      phase: 'unreadable',
      message,
    })),
    on(events.read, (state, { documentId, seq, outbox, stacks, away, epoch }): DocumentState =>
      state.documentId === documentId
        ? { ...state, phase: 'ready', seq, outbox, ...stacks, away, epoch }
        : state,
    ),
    on(events.changeMade, (state, { envelope, step }): DocumentState => {
      if (state.phase !== 'ready' || !state.documentId) return state;
      const { change } = envelope;
      const stacks = {
        do: { undo: [...state.undo, change.id].slice(-UNDO_STEPS), redo: [] },
        undo: { undo: state.undo.slice(0, -1), redo: [...state.redo, change.id] },
        redo: { undo: [...state.undo, change.id], redo: state.redo.slice(0, -1) },
      }[step];
      return {
        ...state,
        ...stacks,
        outbox: [...state.outbox, { documentId: state.documentId, ...envelope }],
        unkept: [...state.unkept, change.id],
        message: null,
      };
    }),
    // A step back or forward that cannot be gone is left out: those beyond it can.
    on(events.changeNotMade, (state, { refusal, step }): DocumentState => ({
      ...state,
      ...(step === 'undo' && { undo: state.undo.slice(0, -1) }),
      ...(step === 'redo' && { redo: state.redo.slice(0, -1) }),
      message: refusal.message,
    })),
    on(events.journalArrived, (state, { documentId, seq, changeIds }): DocumentState => {
      if (state.documentId !== documentId || seq <= state.seq) return state;
      const arrived = new Set(changeIds);
      return { ...state, seq, outbox: state.outbox.filter(({ change }) => !arrived.has(change.id)) };
    }),
    on(events.changesAnswered, (state, { documentId, done, refused, overwrote }): DocumentState => {
      if (state.documentId !== documentId || (done.length === 0 && refused.length === 0)) return state;
      const gone = new Set(done);
      const reasons = new Map(refused.map(({ id, code, message }) => [id, { code, message }]));
      const dead = new Set(reasons.keys());
      return {
        ...state,
        outbox: state.outbox
          .filter(({ change }) => !gone.has(change.id))
          .map((item) => ({
            ...item,
            ...(reasons.has(item.change.id) && { refusal: reasons.get(item.change.id)! }),
          })),
        undo: state.undo.filter((id) => !dead.has(id)),
        redo: state.redo.filter((id) => !dead.has(id)),
        message: refused[0]
          ? $localize`Not taken by the server: ${refused[0].message}`
          : (overwrote[0] ?? state.message),
      };
    }),
    on(events.changeKept, (state, { changeId }): DocumentState => ({
      ...state,
      unkept: state.unkept.filter((id) => id !== changeId),
    })),
    on(events.outboxRead, (state, { documentId, outbox }): DocumentState => {
      if (state.documentId !== documentId) return state;
      // What is on its way to the device stays behind what is there.
      const unkept = state.outbox.filter(({ change }) => state.unkept.includes(change.id));
      return { ...state, outbox: [...outbox, ...unkept] };
    }),
    on(events.refusedChangeDropped, (state, { changeId }): DocumentState => ({
      ...state,
      outbox: state.outbox.filter(({ change }) => change.id !== changeId),
    })),
    on(events.refusedChangeRetried, (state, { changeId }): DocumentState => ({
      ...state,
      outbox: state.outbox.map((item) => (item.change.id === changeId ? unrefused(item) : item)),
    })),
    on(events.serverAway, (state): DocumentState => (state.away ? state : { ...state, away: true })),
    on(events.serverBack, (state): DocumentState => (state.away ? { ...state, away: false } : state)),
    on(events.messageRead, (state): DocumentState => ({ ...state, message: null })),
  );

const unsentAndRefused = ({
  selectOutbox,
}: {
  readonly selectOutbox: MemoizedSelector<object, readonly OutboxItem[]>;
}) => ({
  selectUnsent: createSelector(selectOutbox, (outbox) => outbox.filter((item) => !item.refusal)),
  selectRefused: createSelector(selectOutbox, (outbox) => outbox.filter((item) => item.refusal)),
});

export const houseFeature = createFeature({
  name: 'house',
  reducer: reducerOf(HouseEvents),
  extraSelectors: unsentAndRefused,
});
export const crewFeature = createFeature({
  name: 'crew',
  reducer: reducerOf(CrewEvents),
  extraSelectors: unsentAndRefused,
});
