import type { Finding } from '../script/index.ts';

/** A script with what a teacher says of it and what the review says. */
export interface TableCase {
  what: string;
  /** The rule that should speak; null where nothing should. */
  wanted: string | null;
  found: readonly Finding[];
}

/** How often a rule spoke where it should, did not, and spoke where nothing was wrong. */
export interface TableRow {
  rule: string;
  hits: number;
  misses: number;
  falseAlarms: number;
}

export interface ReviewTable {
  rows: TableRow[];
  cases: number;
  faulty: number;
  /** Cases with nothing wrong, and those of them about which the review said something that is more than a note. */
  right: number;
  alarmed: number;
  hits: number;
  /** Of the alarms, those that said that a right script will not work. */
  falseFaults: number;
  missed: string[];
  alarms: string[];
}

const weighty = ({ grade }: Finding) => grade !== 'note';

/** The review measured on labelled scripts: hits, misses and false alarms of each rule. */
export function reviewTable(cases: readonly TableCase[]): ReviewTable {
  const rows = new Map<string, TableRow>();
  const row = (rule: string) => {
    const found = rows.get(rule) ?? { rule, hits: 0, misses: 0, falseAlarms: 0 };
    rows.set(rule, found);
    return found;
  };
  const table: ReviewTable = {
    rows: [],
    cases: cases.length,
    faulty: 0,
    right: 0,
    alarmed: 0,
    hits: 0,
    falseFaults: 0,
    missed: [],
    alarms: [],
  };
  for (const { what, wanted, found } of cases) {
    if (wanted !== null) {
      const hit = found.some(({ rule }) => rule === wanted);
      row(wanted)[hit ? 'hits' : 'misses']++;
      table.faulty++;
      if (hit) table.hits++;
      else table.missed.push(`${wanted}: ${what}`);
      continue;
    }
    const alarms = found.filter(weighty);
    table.right++;
    if (alarms.length === 0) continue;
    table.alarmed++;
    if (alarms.some(({ grade }) => grade === 'fault')) table.falseFaults++;
    table.alarms.push(`${what}: ${alarms.map(({ rule, grade }) => `${grade} ${rule}`).join(', ')}`);
    new Set(alarms.map(({ rule }) => rule)).forEach((rule) => row(rule).falseAlarms++);
  }
  table.rows = [...rows.values()].sort((a, b) => (a.rule < b.rule ? -1 : 1));
  return table;
}
