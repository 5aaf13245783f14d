import { SPANISH } from '@mule-tally/core/spanish';
import type { Spoken } from '../messages';
import { SPANISH_MESSAGES } from './messages';

/** Spanish as crews in the United States speak it. */
export const SPANISH_SPOKEN: Spoken = { trade: SPANISH, messages: SPANISH_MESSAGES };
