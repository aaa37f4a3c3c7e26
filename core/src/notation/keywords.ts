import * as terms from './generated/parser.terms.ts';

// Node names start with a capital; words that are also TypeScript's carry a leading underscore.
const ids = new Map(
  Object.entries(terms)
    .filter(([name]) => /^_?[a-z]/.test(name))
    .map(([name, id]) => [name.replace(/^_/, ''), id]),
);

/** For the grammar: the term of a key word of formulas, or −1. Key words are not case sensitive. */
export const keywordOf = (value: string, _stack?: unknown): number => ids.get(value.toLowerCase()) ?? -1;

/** Whether formulas keep a word for themselves: as the name of a signal it stands in quotation marks. */
export const isKeyword = (word: string): boolean => keywordOf(word) >= 0;
