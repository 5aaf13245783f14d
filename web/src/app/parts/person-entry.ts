import { Name } from '@mule-tally/core';
import * as z from 'zod';

/** Somebody new of the crew, as they are entered. */
export const personEntry = z.object({
  name: z
    .string()
    .trim()
    .min(1, $localize`A name is needed.`)
    .max(200, $localize`A name has up to 200 characters.`)
    .pipe(Name),
});
