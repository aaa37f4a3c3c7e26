import { convert, countOf, units, type Unit } from '../quantity/index.ts';
import {
  asReading,
  isSensorKind,
  type Kit,
  type Sample,
  type SensorKind,
  type SensorMode,
} from '../sensing/index.ts';
import { unguarded, writeCsv, type CsvFault, type CsvRecord } from './csv.ts';

/** What a column of a readings file can hold. */
export const readingColumns = [
  'value',
  'surface',
  'socket',
  'kind',
  'true value',
  'unit',
  'light',
  'red',
  'green',
  'blue',
] as const;
export type ReadingColumn = (typeof readingColumns)[number];

/** Which column of the file holds what, by its place; `value` (or red, green and blue) must be there. */
export type ColumnMapping = Partial<Record<ReadingColumn, number>>;

/** A set of readings in a file: everything of one surface, socket and true value. */
export interface FileSet {
  socket: string;
  kind: SensorKind;
  surface: string;
  truth: number | null;
  lightNote: string;
  samples: Sample[];
}

const heads = [
  'robot',
  'socket',
  'kind',
  'unit',
  'surface',
  'true value',
  'light',
  'sample',
  'value',
  'red',
  'green',
  'blue',
];

/** All sets of a robot as one CSV file, a line a sample. */
export function writeReadings(robot: string, sets: readonly (FileSet & { unit: string })[]): string {
  const rows = sets.flatMap((set) =>
    set.samples.map((sample, i) => [
      robot,
      set.socket,
      set.kind,
      set.unit,
      set.surface,
      set.truth,
      set.lightNote,
      i + 1,
      ...(typeof sample === 'number'
        ? [sample, null, null, null]
        : sample === null
          ? [null, null, null, null]
          : [null, ...sample]),
    ]),
  );
  return writeCsv([heads, ...rows]);
}

/** Guesses the mapping from the names in the header. */
export function guessMapping(header: readonly string[]): ColumnMapping {
  const other: Record<string, ReadingColumn> = {
    reading: 'value',
    readings: 'value',
    mean: 'value',
    colour: 'surface',
    label: 'surface',
    place: 'surface',
    port: 'socket',
    sensor: 'kind',
    truth: 'true value',
    ruler: 'true value',
    distance: 'true value',
    note: 'light',
    r: 'red',
    g: 'green',
    b: 'blue',
  };
  const mapping: ColumnMapping = {};
  header.forEach((raw, i) => {
    const name = raw.trim().toLowerCase();
    const column = readingColumns.find((known) => known === name) ?? other[name];
    if (column && mapping[column] === undefined) mapping[column] = i;
  });
  return mapping;
}

/** What the file leaves open, as answered by the person. */
export interface ImportChoices {
  mapping: ColumnMapping;
  /** For files without those columns. */
  socket: string;
  kind: SensorKind;
  surface: string;
  /** Unit of the numbers in the file when no column says it; '' for the sensor's own. */
  unit: string;
  /** Whether 12,5 is twelve and a half. */
  decimalComma: boolean;
}

/** Files with more readings are refused. */
export const MOST_ROWS = 200_000;
const MOST_FAULTS = 200;
const MOST_SETS = 200;

/**
 * Collects the rows of a readings file one by one, so that a large file needs no second copy of itself.
 * A row that cannot be taken becomes a fault with its line; what to do about those is the person's choice.
 */
export class ReadingsImport {
  private readonly sets = new Map<string, FileSet>();
  /** Looked up once, not once a row. */
  private readonly sockets: ReadonlySet<string>;
  private readonly modes: ReadonlyMap<string, SensorMode>;
  private readonly scales = new Map<string, number | null>();
  private readonly kit: Kit;
  private readonly choices: ImportChoices;
  private readonly columns: number;
  readonly faults: CsvFault[] = [];
  faulty = 0;
  rows = 0;

  constructor(kit: Kit, header: readonly string[], choices: ImportChoices) {
    this.kit = kit;
    this.choices = choices;
    this.columns = header.length;
    this.sockets = new Set(kit.sockets.filter(({ takes }) => takes === 'sensor').map(({ name }) => name));
    const modes = kit.sensors.flatMap((sensor) => sensor.modes);
    // The first sensor that measures a kind says how.
    this.modes = new Map(modes.toReversed().map((mode) => [mode.kind, mode]));
  }

  add({ line, fields }: CsvRecord): void {
    if (this.rows >= MOST_ROWS) return this.fault(line, `More than ${MOST_ROWS} readings: split the file.`);
    this.rows++;
    if (fields.length !== this.columns)
      return this.fault(
        line,
        `${countOf(fields.length, 'field')} instead of ${this.columns}: a comma too many or too few?`,
      );
    const said = this.read(fields);
    if (typeof said === 'string') return this.fault(line, said);
    const key = `${said.socket}\n${said.kind}\n${said.surface.toLowerCase()}\n${said.truth}\n${said.lightNote}`;
    const set = this.sets.get(key);
    if (set) set.samples.push(said.sample);
    else if (this.sets.size >= MOST_SETS)
      this.fault(line, `More than ${MOST_SETS} different sets: check the columns.`);
    else {
      const { sample, ...rest } = said;
      this.sets.set(key, { ...rest, samples: [sample] });
    }
  }

  /** The sets found so far, in the order they first appear. */
  result(): FileSet[] {
    return [...this.sets.values()];
  }

  private fault(line: number, says: string): void {
    this.faulty++;
    if (this.faults.length < MOST_FAULTS) this.faults.push({ line, says });
  }

  private read(fields: readonly string[]): (Omit<FileSet, 'samples'> & { sample: Sample }) | string {
    const { mapping, kind: usualKind } = this.choices;
    const text = (column: ReadingColumn) => {
      const at = mapping[column];
      return at === undefined ? undefined : unguarded((fields[at] ?? '').trim());
    };
    const kindWord = text('kind')?.toLowerCase() || usualKind;
    if (!isSensorKind(kindWord)) return `“${kindWord}” is not a kind of sensor.`;
    const socket = text('socket') || this.choices.socket;
    if (!this.sockets.has(socket)) return `${this.kit.name} has no sensor socket “${socket}”.`;
    const surface = (text('surface') || this.choices.surface).slice(0, 60);
    if (surface === '') return 'No surface is named.';
    const mode = this.modes.get(kindWord);
    if (!mode) return `${this.kit.name} has nothing that measures ${kindWord}.`;
    const unit = text('unit') || this.choices.unit || mode.unit;
    const scale = this.scale(unit, mode.unit);
    if (scale === null) return `“${unit}” cannot be turned into ${mode.unit || 'a plain number'}.`;
    const truthWord = text('true value');
    const truth = truthWord ? this.number(truthWord) : null;
    if (typeof truth === 'string') return `True value: ${truth}`;
    const one = (word: string | undefined, what: string): number | null | string => {
      if (word === undefined || word === '' || /^(none|nothing|no reading|-|–)$/i.test(word)) return null;
      const raw = this.number(word);
      if (typeof raw === 'string') return `${what}: ${raw}`;
      if (asReading(raw, mode) === null) return null;
      const value = raw * scale;
      return value < mode.min - 1e-9 || value > mode.max + 1e-9
        ? `${what}: ${word} ${unit} is outside what the sensor can read (${mode.min} to ${mode.max} ${mode.unit}).`
        : value;
    };
    const common = {
      socket,
      kind: kindWord,
      surface,
      truth: truth === null ? null : truth * scale,
      lightNote: (text('light') ?? '').slice(0, 120),
    };
    if (kindWord === 'rgb') {
      const parts = (['red', 'green', 'blue'] as const).map((c) => one(text(c), c));
      const wrong = parts.find((part) => typeof part === 'string');
      if (wrong !== undefined) return wrong;
      const [r, g, b] = parts as (number | null)[];
      if (r === undefined || g === undefined || b === undefined || r === null || g === null || b === null)
        return 'An rgb reading needs red, green and blue.';
      return { ...common, sample: [r, g, b] };
    }
    if (mapping.value === undefined) return 'No column holds the readings.';
    const value = one(text('value'), 'value');
    return typeof value === 'string' ? value : { ...common, sample: value };
  }

  private number(word: string): number | string {
    const comma = this.choices.decimalComma;
    if (!comma && /^-?\d+,\d+$/.test(word)) return `“${word}” has a comma: is it a decimal comma?`;
    const plain = comma ? word.replace(',', '.') : word;
    const value = /^[-−+]?(\d+\.?\d*|\.\d+)(e[-+]?\d{1,3})?$/i.test(plain)
      ? Number(plain.replace('−', '-'))
      : NaN;
    return Number.isFinite(value) ? value : `“${word.slice(0, 30)}” is not a number.`;
  }

  /** Factor from the file's unit to the sensor's; null when they are of different kinds. */
  private scale(from: string, to: string): number | null {
    if (from === to || from === '') return 1;
    const key = `${from}\n${to}`;
    let scale = this.scales.get(key);
    if (scale === undefined) this.scales.set(key, (scale = scaleBetween(from, to)));
    return scale;
  }
}

function scaleBetween(from: string, to: string): number | null {
  const known = (word: string): word is Unit => Object.hasOwn(units, word);
  if (!known(from) || !known(to) || units[from].kind !== units[to].kind) return null;
  return convert(1, from, to);
}
