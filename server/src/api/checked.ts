import { problemsOf } from '@mule-tally/core';
import type * as z from 'zod';
import { HttpProblem } from './problem.js';

/** What was sent, checked against its schema; else a problem that lists everything wrong. */
export function checked<S extends z.ZodType>(schema: S, input: unknown): z.infer<S> {
  const parsed = schema.safeParse(input, { reportInput: true });
  if (parsed.success) return parsed.data;
  const problems = problemsOf(parsed.error.issues).map((problem) => ({
    ...problem,
    code: problem.code.replace('file.', 'request.'),
  }));
  throw new HttpProblem(400, 'request.invalid', problems[0]?.message ?? 'This request is not understood.', {
    problems,
  });
}
