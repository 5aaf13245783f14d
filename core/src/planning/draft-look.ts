import { readerOf } from '../derive/reader.js';
import type { DraftChoices, HouseDraft } from '../furnish/draft-house.js';
import { draftHouse } from '../furnish/draft-house.js';
import { takeBackDraft } from '../furnish/merge.js';
import type { RoughCount } from '../furnish/rough-count.js';
import { roughCount } from '../furnish/rough-count.js';
import type { House } from '../house/house.js';
import { rowsOf } from '../house/house.js';
import { inspectHouse } from '../inspection/inspect-house.js';

/** A draft with what would be counted and found once it is used. */
export interface DraftLook extends Omit<HouseDraft, 'house'> {
  readonly count: RoughCount;
  /** How much of what would be found has to be put right. */
  readonly found: { readonly stop: number; readonly fix: number };
  /** The house has been drafted before. */
  readonly isAgain: boolean;
  /** How many records taking the draft back would leave, as somebody changed them or worked on them; nothing to take back without. */
  readonly staysOnTakingBack?: number;
}

/** What drafting a house would do, for a person to look at. */
export function draftLook(house: House, choices: DraftChoices = {}): DraftLook {
  const { house: after, ...draft } = draftHouse(house, choices);
  const reader = readerOf(after);
  const back = takeBackDraft(house);
  const found = inspectHouse(reader);
  const many = (severity: 'stop' | 'fix'): number => found.filter((one) => one.severity === severity).length;
  return {
    ...draft,
    count: roughCount(reader),
    found: { stop: many('stop'), fix: many('fix') },
    isAgain: rowsOf(house, 'drafts').length > 0,
    ...(back && { staysOnTakingBack: back.stays }),
  };
}
