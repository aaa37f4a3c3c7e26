import * as terms from './generated/parser.terms.ts';

// Node names start with a capital; words that are also TypeScript's carry a leading underscore.
const ids = new Map(
  Object.entries(terms)
    .filter(([name]) => /^_?[a-z]/.test(name))
    .map(([name, id]) => [name.replace(/^_/, ''), id]),
);

/** The words that the script keeps for itself, in lower case. */
export const keywords: readonly string[] = [...ids.keys()].sort();

/** For the grammar: the term of a key word, or −1. Key words are not case sensitive. */
export function keywordOf(value: string, _stack?: unknown): number {
  return ids.get(value.toLowerCase()) ?? -1;
}
