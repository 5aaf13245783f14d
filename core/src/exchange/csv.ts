import Papa from 'papaparse';

const FORMULA = /^[=+\-@\t\r]/;

/** Rows as CSV (RFC 4180). What a spreadsheet would take for a formula is kept as text. */
export const csvOf = (rows: readonly (readonly (string | number)[])[]): string =>
  `${Papa.unparse(rows as (string | number)[][], { newline: '\r\n', escapeFormulae: FORMULA })}\r\n`;

/** A row of a table: its number in the file, the headings being row 1, and its cells by heading. */
export interface CsvRow {
  readonly row: number;
  readonly cells: Readonly<Record<string, string>>;
  /** There are more cells in it than headings. */
  readonly isTooLong: boolean;
}
export interface CsvTable {
  /** As they stand in the file. */
  readonly headings: readonly string[];
  readonly rows: readonly CsvRow[];
}

/** How a heading is known: whatever is written large, or with other signs between. */
export const headingKey = (heading: string): string => heading.toLowerCase().replace(/[^\p{L}\p{N}]+/gu, '');

/** What was kept as text from being a formula. */
const unescaped = (cell: string): string => (/^'[=+\-@\t\r]/.test(cell) ? cell.slice(1) : cell);

/** Reads a table with headings (RFC 4180; commas, semicolons or tabs between). Rows in which nothing stands are left out. */
export function readCsv(text: string): CsvTable {
  const { data } = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), {
    delimitersToGuess: [',', ';', '\t'],
  });
  const [first = [], ...rest] = data;
  const keys = first.map(headingKey);
  return {
    headings: first.map((heading) => heading.trim()),
    rows: rest.flatMap((cells, at): CsvRow[] =>
      cells.every((cell) => !cell.trim())
        ? []
        : [
            {
              row: at + 2,
              cells: Object.fromEntries(
                keys.flatMap((key, column) => (key ? [[key, unescaped((cells[column] ?? '').trim())]] : [])),
              ),
              isTooLong: cells.slice(first.length).some((cell) => cell.trim() !== ''),
            },
          ],
    ),
  };
}
