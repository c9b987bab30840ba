/** What a spreadsheet would take for a formula at the start of a field. */
const FORMULA = /^[=+\-@\t\r]/;

/** A field of a table as RFC 4180 writes it; what a spreadsheet would reckon is made plain text by an apostrophe. */
function field(value: string | number | boolean | null): string {
  if (value === null) return '';
  if (typeof value !== 'string') return String(value);
  const text = FORMULA.test(value) ? `'${value}` : value;
  return /[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
}

/** A row of a table (RFC 4180), with its end of line. */
export const csvRow = (values: readonly (string | number | boolean | null)[]): string =>
  `${values.map(field).join(',')}\r\n`;
