const cell = (value: string | number) => {
  const text = String(value);
  return /[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
};

/** What a spreadsheet would run as a formula, also behind spaces and line breaks. */
const FORMULA = /^\s*[=+@\t\r-]/;

/** The text of a cell as it was before an apostrophe was put before it. */
export const fromCell = (text: string): string => (text.startsWith("'") && FORMULA.test(text.slice(1)) ? text.slice(1) : text);

/** Rows as comma-separated values (RFC 4180): CRLF, quotes where needed. A cell that a spreadsheet would run as a formula has an apostrophe put before it; plain numbers stay. */
export function toCsv(rows: readonly (readonly (string | number)[])[]): string {
  const safe = (value: string | number) =>
    typeof value === 'string' && FORMULA.test(value) && !/^[+-]?\d+(\.\d+)?$/.test(value) ? `'${value}` : value;
  return rows
    .map((row) => row.map((value) => cell(safe(value))).join(','))
    .join('\r\n')
    .concat('\r\n');
}
