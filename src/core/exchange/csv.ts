import Papa from 'papaparse';

/** What a spreadsheet would run as a formula, also behind spaces and line breaks; a plain number is none. */
const FORMULA = /^(?![+-]?\d+(\.\d+)?$)\s*[=+@\t\r-]/;

/** The text of a cell as it was before an apostrophe was put before it. */
export const fromCell = (text: string): string => (text.startsWith("'") && FORMULA.test(text.slice(1)) ? text.slice(1) : text);

/** Rows as comma-separated values (RFC 4180): CRLF, quotes where needed. A cell that a spreadsheet would run as a formula has an apostrophe put before it; plain numbers stay. */
export function toCsv(rows: readonly (readonly (string | number)[])[]): string {
  return `${Papa.unparse(rows as (string | number)[][], { newline: '\r\n', escapeFormulae: FORMULA })}\r\n`;
}
