import Papa from 'papaparse';

const FORMULA = /^[=+\-@\t\r]/;

/** Rows as CSV (RFC 4180). What a spreadsheet would take for a formula is kept as text. */
export const csvOf = (rows: readonly (readonly (string | number)[])[]): string =>
  `${Papa.unparse(rows as (string | number)[][], { newline: '\r\n', escapeFormulae: FORMULA })}\r\n`;
