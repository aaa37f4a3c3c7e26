import { readCsv } from './csv.ts';

/** Teams that one class can have. */
export const MOST_TEAMS = 20;
/** Letters that a team’s name can have. */
export const LONGEST_TEAM = 40;
/** What a list of teams can be long, characters: more is no list of twenty teams. */
const LONGEST_LIST = 20_000;

/** The team names in a text, and what keeps them from being taken; null where nothing does. */
export interface TeamNames {
  names: string[];
  fault: string | null;
}

/** Words that stand above the column of teams in a table, best first. */
const heads = ['team', 'nickname', 'group', 'crew', 'name'];

/** “1. Curlew” and “- Curlew” are Curlew. */
const unmarked = (line: string): string => line.trim().replace(/^(?:[-–•*]|\d{1,2}[.)])\s+/, '');

/**
 * Team names as somebody has them: one a line, with or without numbers or dashes before them; one line with commas between; or a table,
 * copied from a sheet or saved as CSV, whose column of teams is the one headed so, else the first. In a table a team may
 * stand in several rows, one for each of its members; members are not read.
 */
export function readTeamNames(raw: string): TeamNames {
  if (raw.length > LONGEST_LIST)
    return { names: [], fault: 'This is far longer than a list of twenty teams.' };
  const { records, faults } = readCsv(raw);
  const rows = records
    .map(({ fields }) => fields.map((field) => field.trim()))
    .filter((row) => row.some((f) => f));
  const header = rows[0]?.map((field) => field.toLowerCase()) ?? [];
  const column = heads.map((head) => header.indexOf(head)).find((at) => at >= 0);
  const isTable =
    (column !== undefined && records.length > 1) ||
    (rows.length > 1 && rows[0]!.length > 1 && rows.every((row) => row.length === rows[0]!.length));
  if (isTable && faults[0]) return { names: [], fault: `Line ${faults[0].line}: ${faults[0].says}` };
  const inTable = () => [
    ...new Set(rows.slice(column === undefined ? 0 : 1).map((row) => row[column ?? 0] ?? '')),
  ];
  const inLines = () =>
    rows.length === 1 && rows[0]!.length > 1 ? rows[0]! : raw.replace(/^\ufeff/, '').split(/\r\n|\r|\n/);
  const names = (isTable ? inTable() : inLines()).map(unmarked).filter((name) => name !== '');
  return { names, fault: faultOf(names) };
}

function faultOf(names: readonly string[]): string | null {
  if (names.length === 0) return 'At least one team, one name a line.';
  if (names.length > MOST_TEAMS) return `Twenty teams at most; these are ${names.length}.`;
  const long = names.find((name) => name.length > LONGEST_TEAM);
  if (long) return `“${long.slice(0, 20)}…” is longer than 40 letters.`;
  const twice = names.find((name, i) => names.findIndex((n) => n.toLowerCase() === name.toLowerCase()) !== i);
  return twice ? `“${twice}” stands twice.` : null;
}
