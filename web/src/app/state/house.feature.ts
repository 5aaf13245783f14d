import type { House, HouseDiff } from '@mule-tally/core';
import { applyChange, applyDiff } from '@mule-tally/core';
import { createFeature, createReducer, createSelector, on } from '@ngrx/store';
import type { OutboxItem } from '../sync/outbox';
import { HouseEvents } from './house.actions';

/** How many steps back a person can go. */
const UNDO_STEPS = 200;

export interface HouseState {
  readonly houseId: string | null;
  readonly phase: 'closed' | 'loading' | 'ready' | 'missing' | 'unreadable';
  /** The house as the server has it at journal number `seq`. */
  readonly head: House | null;
  readonly seq: number;
  readonly outbox: readonly OutboxItem[];
  /** What is shown: head with the outbox applied. */
  readonly view: House | null;
  /** Diffs of changes that may be undone, by change id. */
  readonly history: Readonly<Record<string, HouseDiff>>;
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
  head: null,
  seq: 0,
  outbox: [],
  view: null,
  history: {},
  undo: [],
  redo: [],
  away: false,
  epoch: '',
  message: null,
};

/** Head with the outbox on top. A change that does not apply here any more stays in the outbox and is left out. */
function viewOf(
  head: House,
  outbox: readonly OutboxItem[],
  known: HouseState['history'],
): Pick<HouseState, 'view' | 'history'> {
  let view = head;
  const history = { ...known };
  for (const { change, refusal } of outbox) {
    if (refusal) continue;
    const applied = applyChange(view, change.body, (id) => history[id]);
    if (!applied.ok) continue;
    view = applied.house;
    history[change.id] = applied.diff;
  }
  return { view, history };
}

/** An item that is to be sent again. */
export const unrefused = ({ refusal: _, ...item }: OutboxItem): OutboxItem => item;

const withView = (state: HouseState): HouseState =>
  state.head ? { ...state, ...viewOf(state.head, state.outbox, state.history) } : state;

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
    on(HouseEvents.houseRead, (state, { house, seq, outbox, stacks, history, away, epoch }): HouseState => {
      if (state.houseId !== house.head.id) return state;
      const known = Object.fromEntries(history.map((entry) => [entry.changeId, entry.diff]));
      return withView({
        ...state,
        phase: 'ready',
        head: house,
        seq,
        outbox,
        history: { ...state.history, ...known },
        ...stacks,
        away,
        epoch,
      });
    }),
    on(HouseEvents.changeMade, (state, { envelope, diff, step }): HouseState => {
      if (!state.view || !state.houseId) return state;
      const { change } = envelope;
      const stacks = {
        do: { undo: [...state.undo, change.id].slice(-UNDO_STEPS), redo: [] },
        undo: { undo: state.undo.slice(0, -1), redo: [...state.redo, change.id] },
        redo: { undo: [...state.undo, change.id], redo: state.redo.slice(0, -1) },
      }[step];
      return {
        ...state,
        ...stacks,
        view: applyDiff(state.view, diff),
        history: { ...state.history, [change.id]: diff },
        outbox: [...state.outbox, { houseId: state.houseId, ...envelope }],
        message: null,
      };
    }),
    on(HouseEvents.diffFetched, (state, { houseId, changeId, diff }): HouseState =>
      state.houseId === houseId ? { ...state, history: { ...state.history, [changeId]: diff } } : state,
    ),
    on(HouseEvents.changeNotMade, (state, { refusal }): HouseState => ({
      ...state,
      message: refusal.message,
    })),
    on(HouseEvents.journalArrived, (state, { houseId, entries }): HouseState => {
      if (state.houseId !== houseId || !state.head) return state;
      const newer = entries.filter((entry) => entry.seq > state.seq);
      if (newer.length === 0) return state;
      const arrived = new Set(newer.map((entry) => entry.changeId));
      return withView({
        ...state,
        head: newer.reduce((house, entry) => applyDiff(house, entry.diff), state.head),
        seq: newer.at(-1)!.seq,
        outbox: state.outbox.filter(({ change }) => !arrived.has(change.id)),
        history: {
          ...state.history,
          ...Object.fromEntries(newer.map((entry) => [entry.changeId, entry.diff])),
        },
      });
    }),
    on(HouseEvents.changesAnswered, (state, { houseId, done, refused, overwrote }): HouseState => {
      if (state.houseId !== houseId || (done.length === 0 && refused.length === 0)) return state;
      const gone = new Set(done);
      const reasons = new Map(refused.map(({ id, code, message }) => [id, { code, message }]));
      const dead = new Set(reasons.keys());
      return withView({
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
      });
    }),
    on(HouseEvents.outboxRead, (state, { houseId, outbox }): HouseState =>
      state.houseId === houseId ? withView({ ...state, outbox }) : state,
    ),
    on(HouseEvents.refusedChangeDropped, (state, { changeId }): HouseState =>
      withView({ ...state, outbox: state.outbox.filter(({ change }) => change.id !== changeId) }),
    ),
    on(HouseEvents.refusedChangeRetried, (state, { changeId }): HouseState =>
      withView({
        ...state,
        outbox: state.outbox.map((item) => (item.change.id === changeId ? unrefused(item) : item)),
      }),
    ),
    on(HouseEvents.serverAway, (state): HouseState => (state.away ? state : { ...state, away: true })),
    on(HouseEvents.serverBack, (state): HouseState => (state.away ? { ...state, away: false } : state)),
    on(HouseEvents.messageRead, (state): HouseState => ({ ...state, message: null })),
  ),
  extraSelectors: ({ selectOutbox }) => ({
    selectUnsent: createSelector(selectOutbox, (outbox) => outbox.filter((item) => !item.refusal)),
    selectRefused: createSelector(selectOutbox, (outbox) => outbox.filter((item) => item.refusal)),
  }),
});
