import { createFeature, createReducer, createSelector, on } from '@ngrx/store';
import type { OutboxItem } from '../sync/outbox';
import { HouseEvents } from './house.actions';

/** How many steps back a person can go. */
const UNDO_STEPS = 200;

/** Where the open house stands between this device and the server; the house itself is kept by `OpenHouse`. */
export interface HouseState {
  readonly houseId: string | null;
  readonly phase: 'closed' | 'loading' | 'ready' | 'missing' | 'unreadable';
  /** Number of the last entry of the journal that has arrived. */
  readonly seq: number;
  readonly outbox: readonly OutboxItem[];
  readonly undo: readonly string[];
  readonly redo: readonly string[];
  readonly away: boolean;
  /** The database that the head was read from. */
  readonly epoch: string;
  /** A sentence to show until it is read. */
  readonly message: string | null;
}

const closed: HouseState = {
  houseId: null,
  phase: 'closed',
  seq: 0,
  outbox: [],
  undo: [],
  redo: [],
  away: false,
  epoch: '',
  message: null,
};

/** An item that is to be sent again. */
export const unrefused = ({ refusal: _, ...item }: OutboxItem): OutboxItem => item;

export const houseFeature = createFeature({
  name: 'house',
  reducer: createReducer(
    closed,
    on(HouseEvents.houseOpened, (_state, { houseId }): HouseState => ({
      ...closed,
      houseId,
      phase: 'loading',
    })),
    on(HouseEvents.houseClosed, (): HouseState => closed),
    on(HouseEvents.houseMissing, (state): HouseState => ({ ...state, phase: 'missing' })),
    on(HouseEvents.houseUnreadable, (state, { message }): HouseState => ({
      ...state,
      phase: 'unreadable',
      message,
    })),
    on(HouseEvents.houseRead, (state, { houseId, seq, outbox, stacks, away, epoch }): HouseState =>
      state.houseId === houseId ? { ...state, phase: 'ready', seq, outbox, ...stacks, away, epoch } : state,
    ),
    on(HouseEvents.changeMade, (state, { envelope, step }): HouseState => {
      if (state.phase !== 'ready' || !state.houseId) return state;
      const { change } = envelope;
      const stacks = {
        do: { undo: [...state.undo, change.id].slice(-UNDO_STEPS), redo: [] },
        undo: { undo: state.undo.slice(0, -1), redo: [...state.redo, change.id] },
        redo: { undo: [...state.undo, change.id], redo: state.redo.slice(0, -1) },
      }[step];
      return {
        ...state,
        ...stacks,
        outbox: [...state.outbox, { houseId: state.houseId, ...envelope }],
        message: null,
      };
    }),
    on(HouseEvents.changeNotMade, (state, { refusal }): HouseState => ({
      ...state,
      message: refusal.message,
    })),
    on(HouseEvents.journalArrived, (state, { houseId, seq, changeIds }): HouseState => {
      if (state.houseId !== houseId || seq <= state.seq) return state;
      const arrived = new Set(changeIds);
      return { ...state, seq, outbox: state.outbox.filter(({ change }) => !arrived.has(change.id)) };
    }),
    on(HouseEvents.changesAnswered, (state, { houseId, done, refused, overwrote }): HouseState => {
      if (state.houseId !== houseId || (done.length === 0 && refused.length === 0)) return state;
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
          ? `Not taken by the server: ${refused[0].message}`
          : (overwrote[0] ?? state.message),
      };
    }),
    on(HouseEvents.outboxRead, (state, { houseId, outbox }): HouseState =>
      state.houseId === houseId ? { ...state, outbox } : state,
    ),
    on(HouseEvents.refusedChangeDropped, (state, { changeId }): HouseState => ({
      ...state,
      outbox: state.outbox.filter(({ change }) => change.id !== changeId),
    })),
    on(HouseEvents.refusedChangeRetried, (state, { changeId }): HouseState => ({
      ...state,
      outbox: state.outbox.map((item) => (item.change.id === changeId ? unrefused(item) : item)),
    })),
    on(HouseEvents.serverAway, (state): HouseState => (state.away ? state : { ...state, away: true })),
    on(HouseEvents.serverBack, (state): HouseState => (state.away ? { ...state, away: false } : state)),
    on(HouseEvents.messageRead, (state): HouseState => ({ ...state, message: null })),
  ),
  extraSelectors: ({ selectOutbox }) => ({
    selectUnsent: createSelector(selectOutbox, (outbox) => outbox.filter((item) => !item.refusal)),
    selectRefused: createSelector(selectOutbox, (outbox) => outbox.filter((item) => item.refusal)),
  }),
});
