import { formatNumber } from '../quantity/index.ts';
import type { LogColumn } from './compiled.ts';
import { LOG_LIMIT, type LogRow, type Run, type RunEvent } from './trace.ts';

/** Longest display text kept, and most events of a run. */
const DISPLAY_LIMIT = 60;
const EVENT_LIMIT = 20_000;

/** What a robot tells while it runs: display, lamp, sound, the log, and what is sent to and heard from another robot. */
export class Tellings {
  readonly events: RunEvent[] = [];
  /** Where what is sent goes; nowhere without another robot. */
  onSend: ((text: string) => void) | null = null;
  private readonly clock: { readonly timeMs: number };
  private readonly columns: LogColumn[];
  private readonly rows: LogRow[] = [];
  private logFull = false;
  private readonly mail = new Map<string, number>();
  private shown = '';
  private lit = 'off';

  constructor(clock: { readonly timeMs: number }, columns: LogColumn[]) {
    this.clock = clock;
    this.columns = columns;
  }

  /** Puts a text on the robot's one-line display. */
  show(text: string): void {
    const shown = text.slice(0, DISPLAY_LIMIT);
    if (shown === this.shown) return;
    this.shown = shown;
    this.tell('display', shown);
  }

  lamp(colour: string | null): void {
    const text = colour ?? 'off';
    if (text === this.lit) return;
    this.lit = text;
    this.tell('lamp', text);
  }

  beep(pitchHz: number, forS: number, volume: number): void {
    this.tell(
      'sound',
      `${formatNumber(pitchHz, 0)} Hz for ${formatNumber(forS)} s at ${formatNumber(volume, 0)} %`,
    );
  }

  log(columns: readonly number[], values: readonly number[]): void {
    if (this.rows.length >= LOG_LIMIT) {
      this.logFull = true;
      return;
    }
    const row = Array.from(this.columns, () => NaN);
    columns.forEach((column, i) => (row[column] = values[i]!));
    this.rows.push({ atS: this.clock.timeMs / 1000, values: row });
  }

  get logged(): Run['log'] {
    return { columns: this.columns, rows: this.rows, full: this.logFull };
  }

  send(text: string): void {
    this.tell('sent', text);
    this.onSend?.(text);
  }

  /** Something that another robot has sent has come here. */
  receive(text: string): void {
    this.mail.set(text, (this.mail.get(text) ?? 0) + 1);
    this.tell('heard', text);
  }

  /** Whether another robot has sent this; it is taken then. */
  heard(text: string): boolean {
    const waiting = this.mail.get(text) ?? 0;
    if (waiting === 0) return false;
    this.mail.set(text, waiting - 1);
    return true;
  }

  /** The program has ended now. */
  over(): void {
    this.events.push({ atS: this.clock.timeMs / 1000, kind: 'program over', text: '' });
  }

  /** The robot came to rest at a time in s. */
  rests(atS: number): void {
    this.events.push({ atS, kind: 'at rest', text: '' });
  }

  private tell(kind: RunEvent['kind'], text: string): void {
    // A run that says more than can be kept keeps what it said last: the one before it goes.
    if (this.events.length >= EVENT_LIMIT)
      this.events.splice(
        this.events.findLastIndex((event) => event.kind === kind),
        1,
      );
    this.events.push({ atS: this.clock.timeMs / 1000, kind, text });
  }
}
