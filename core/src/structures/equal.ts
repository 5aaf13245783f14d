import { dequal } from 'dequal/lite';

/** Deep equality of JSON values; the order of an object's fields does not matter. */
export const sameJson = (a: unknown, b: unknown): boolean => dequal(a, b);
