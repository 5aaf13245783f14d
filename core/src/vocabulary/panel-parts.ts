/** What a wire can land on in a panel. A breaker is told by its circuit, never by the number written beside it. */
export const GROUND_BAR = 'ground bar';

export const NEUTRAL_BAR = 'neutral bar';

export const BREAKER = 'breaker';

export const SECOND_POLE = 'breaker, second pole';

/** The neutral terminal of an AFCI, GFCI or dual-function breaker. */
export const BREAKER_NEUTRAL = 'breaker, neutral';

/** Where the hots of a feeder land in a sub-panel. */
export const LUGS = ['main lug 1', 'main lug 2'] as const;

/** A pigtail left in a box for a device that may come later. */
export const CAPPED = 'capped, for a later device';

/** A wire from one splice to another of what is joined in two because no connector takes so many. */
export const LINK = 'link ';
