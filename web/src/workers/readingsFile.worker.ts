import type { Whose } from '@vigilum/contract/types';
import { expose } from 'comlink';
import {
  ReadingsImport,
  scanCsv,
  type CsvFault,
  type FileSet,
  type ImportChoices,
} from '@vigilum/core/formats';
import { countOf } from '@vigilum/core/quantity';
import { asNumber, summarise, type Kit, type SensorKind } from '@vigilum/core/sensing';

/** The first lines of a file, for the question which column holds what. */
export interface Preview {
  name: string;
  header: string[];
  rows: string[][];
  delimiter: string;
  /** Why the file cannot be read at all; empty when it can. */
  refused: string;
}

/** One set found in the file, as it will be kept. */
export interface FoundSet {
  socket: string;
  kind: SensorKind;
  surface: string;
  truth: number | null;
  n: number;
  mean: number | null;
  noReadings: number;
}

export interface FileSummary {
  rows: number;
  faulty: number;
  faults: CsvFault[];
  sets: FoundSet[];
}

/** Larger files are refused before they are read. */
const MOST_BYTES = 24 * 1024 * 1024;

let text = '';
let found: FileSet[] = [];

const readings = {
  /** Takes a file in and shows its head. */
  async open(file: File): Promise<Preview> {
    text = '';
    found = [];
    const preview: Preview = { name: file.name, header: [], rows: [], delimiter: ',', refused: '' };
    if (file.size === 0) return { ...preview, refused: 'The file is empty.' };
    if (file.size > MOST_BYTES)
      return {
        ...preview,
        refused: `The file has ${Math.round(file.size / 1024 / 1024)} MB; 24 MB is the most. Split it.`,
      };
    const content = await file.text();
    if (content.includes('\0'))
      return { ...preview, refused: 'This is no text file. Save the table as CSV first.' };
    const delimiter = scanCsv(
      content,
      ({ fields }) => {
        if (preview.header.length === 0) preview.header = fields;
        else preview.rows.push(fields);
        return preview.rows.length < 4;
      },
      () => undefined,
    );
    if (preview.header.length === 0) return { ...preview, refused: 'The file holds no line.' };
    if (preview.rows.length === 0)
      return {
        ...preview,
        refused: 'The file holds one line only: a heading without readings, or readings without a heading.',
      };
    text = content;
    return { ...preview, delimiter };
  },

  /** Reads the whole file as the person said; tells how far it has come, 0–1. Keeps the sets for `send`. */
  collect(kit: Kit, choices: ImportChoices, told: (share: number) => void): FileSummary {
    found = [];
    let into: ReadingsImport | null = null;
    const quotes: CsvFault[] = [];
    let shown = 0;
    scanCsv(
      text,
      (record, at) => {
        if (!into) into = new ReadingsImport(kit, record.fields, choices);
        else into.add(record);
        if (at - shown >= 0.02) {
          shown = at;
          told(at);
        }
      },
      (fault) => {
        if (quotes.length < 20) quotes.push(fault);
      },
    );
    told(1);
    const made = into as ReadingsImport | null;
    if (!made) return { rows: 0, faulty: 0, faults: quotes, sets: [] };
    found = made.result();
    return {
      rows: made.rows,
      faulty: made.faulty + quotes.length,
      faults: [...quotes, ...made.faults].sort((a, b) => a.line - b.line),
      sets: found.map(({ samples, lightNote: _, ...set }) => {
        const s = summarise(samples.map(asNumber));
        return { ...set, n: samples.length, mean: s.mean, noReadings: s.noReadings };
      }),
    };
  },

  /** Sends the sets to the server, all or none, for a team’s work or for nobody. Returns the sentence that tells what came of it. */
  async send(robotId: number, whose: Whose | null): Promise<{ ok: boolean; says: string }> {
    const sets = found.map(({ samples, ...set }) => ({ ...set, values: samples }));
    try {
      const response = await fetch(`/api/robots/${robotId}/imports`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ sets, ...(whose ? { whose } : {}) }),
      });
      if (response.ok) return { ok: true, says: `${countOf(sets.length, 'set')} of readings imported.` };
      const problem = (await response.json().catch(() => ({}))) as { detail?: string };
      return { ok: false, says: problem.detail ?? 'Nothing was imported: the server refused the file.' };
    } catch {
      return { ok: false, says: 'Nothing was imported: the server does not answer. Try again in a moment.' };
    }
  },
};

export type ReadingsFile = typeof readings;
expose(readings);
