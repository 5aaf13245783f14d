import { InjectionToken } from '@angular/core';
import type { Language } from '@mule-tally/core/work';
import { ENGLISH } from '@mule-tally/core/work';

/** The language of whoever works on this device: it is loaded before anything is drawn, and changes with the page. */
export const SPOKEN = new InjectionToken<Language>('the language that is spoken', { factory: () => ENGLISH });
