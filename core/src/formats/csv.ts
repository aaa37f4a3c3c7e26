import Papa from 'papaparse';

/** One record of a CSV file with the line it begins on, counted from 1. */
export interface CsvRecord {
  line: number;
  fields: string[];
}

export interface CsvFault {
  line: number;
  says: string;
}

export type Delimiter = ',' | ';' | '\t';

/** The delimiter that a header line most likely uses, and the text without a byte order mark. */
export function sniff(text: string): { delimiter: Delimiter; text: string } {
  const clean = text.startsWith('\ufeff') ? text.slice(1) : text;
  const head = clean.slice(0, clean.search(/[\r\n]|$/));
  const count = (mark: Delimiter) => head.split(mark).length;
  const ranked = ([',', ';', '\t'] as const).map((mark) => ({ mark, n: count(mark) }));
  ranked.sort((a, b) => b.n - a.n);
  return { delimiter: ranked[0]!.mark, text: clean };
}

const faultWords: Record<string, string> = {
  MissingQuotes: 'A quotation mark is opened here and never closed.',
  InvalidQuotes: 'Text follows a closing quotation mark.',
};

/** Lines that a CSV file can have. */
export const CSV_LINES = 500_000;

/** Whether a text has more than so many lines. */
function lineBeyond(text: string, most: number): boolean {
  if (text.length <= most) return false;
  let lines = 1;
  for (let at = text.indexOf('\n'); at >= 0; at = text.indexOf('\n', at + 1)) if (++lines > most) return true;
  return false;
}

/**
 * Goes through CSV text (RFC 4180; a byte order mark is dropped, empty lines are left out) and hands over one
 * record at a time, so that a large file needs no second copy of itself. Nothing is mended in silence.
 * `record` may return false to stop; `at` is how far it has come, 0–1.
 */
export function scanCsv(
  raw: string,
  record: (record: CsvRecord, at: number) => boolean | void,
  fault: (fault: CsvFault) => void,
): Delimiter {
  const { delimiter, text } = sniff(raw);
  const tooLong = lineBeyond(text, CSV_LINES);
  if (tooLong) {
    fault({ line: CSV_LINES + 1, says: 'The file has more than half a million lines. Split it.' });
    return delimiter;
  }
  let line = 1;
  Papa.parse<string[]>(text, {
    delimiter,
    step: ({ data, errors, meta }, parser) => {
      for (const { type, code } of errors)
        if (type === 'Quotes') fault({ line, says: faultWords[code] ?? 'The quotation marks do not match.' });
      const more =
        data.length > 1 || data[0] !== ''
          ? record({ line, fields: data }, text.length > 0 ? meta.cursor / text.length : 1)
          : true;
      line += 1;
      for (const field of data) if (/[\r\n]/.test(field)) line += field.match(/\r\n|\r|\n/g)!.length;
      if (more === false) parser.abort();
    },
  });
  return delimiter;
}

/** Reads whole CSV text into records. */
export function readCsv(raw: string): { records: CsvRecord[]; faults: CsvFault[]; delimiter: Delimiter } {
  const records: CsvRecord[] = [];
  const faults: CsvFault[] = [];
  const delimiter = scanCsv(
    raw,
    (record) => void records.push(record),
    (fault) => faults.push(fault),
  );
  return { records, faults, delimiter };
}

/** Writes records as CSV (RFC 4180, CRLF). Texts that a spreadsheet would run as a formula get an apostrophe; numbers stay numbers. */
export function writeCsv(records: readonly (readonly (string | number | null)[])[]): string {
  const safe = records.map((record) =>
    record.map((field) =>
      typeof field === 'string' && /^[=+\-@\t\r]/.test(field) ? `'${field}` : (field ?? ''),
    ),
  );
  return `${Papa.unparse(safe, { newline: '\r\n' })}\r\n`;
}

/** A text field as it was before `writeCsv` made it safe. */
export const unguarded = (field: string): string => (/^'[=+\-@\t\r]/.test(field) ? field.slice(1) : field);
