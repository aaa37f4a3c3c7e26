import { ExternalTokenizer } from '@lezer/lr';
import * as terms from './generated/parser.terms.ts';

// Node names start with a capital; words that are also TypeScript's carry a leading underscore.
const ids = new Map(
  Object.entries(terms)
    .filter(([name]) => /^_?[a-z]/.test(name))
    .map(([name, id]) => [name.replace(/^_/, ''), id]),
);

/**
 * Words that mean something only where they can stand, and may be names everywhere else, each with the term that it counts as:
 * a script that calls a value “list” or “back” goes on meaning what it meant.
 */
const soft: Record<string, readonly string[]> = {
  list: ['list'],
  add: ['add'],
  go: ['go', 'move'],
  ahead: ['ahead', 'forward', 'forwards'],
  back: ['back'],
  backward: ['backward', 'backwards', 'reverse'],
  brake: ['brake'],
  reset: ['reset'],
  pause: ['pause'],
  loop: ['loop'],
  forever: ['forever'],
  then: ['then'],
  elif: ['elif', 'elseif'],
  otherwise: ['otherwise'],
  print: ['print'],
  say: ['say'],
  log: ['log'],
  send: ['send'],
  heard: ['heard'],
  give: ['give'],
  return: ['return'],
  whenever: ['whenever'],
  as: ['as'],
  random: ['random'],
  from: ['from'],
  more: ['more'],
  greater: ['greater', 'larger', 'bigger', 'higher'],
  above: ['above', 'over'],
  less: ['less', 'smaller', 'fewer', 'lower'],
  below: ['below', 'under'],
  most: ['most'],
  least: ['least'],
  equal: ['equal'],
  than: ['than'],
};
const softIds = new Map(
  Object.entries(soft).flatMap(([term, words]) => words.map((word) => [word, ids.get(term)!] as const)),
);

/** The words that the script keeps for itself, in lower case: no name may be made of them. */
export const keywords: readonly string[] = [...ids.keys()].filter((name) => !(name in soft)).sort();

/** Words of the script that may also be names, in lower case. */
export const softWords: readonly string[] = [...softIds.keys()].sort();

/** Words of the script that may also be part of a name: “left floor”, “right wheel”. */
export const nameWords: readonly string[] = ['left', 'right'];

const kept = new Map(keywords.map((word) => [word, ids.get(word)!]));

/** For the grammar: the term of a key word, or −1. Key words are not case sensitive. */
export function keywordOf(value: string, _stack?: unknown): number {
  return kept.get(value.toLowerCase()) ?? -1;
}

/** For the grammar: the term of a word that means something only where it can stand, or −1. */
export function softWordOf(value: string, _stack?: unknown): number {
  return softIds.get(value.toLowerCase()) ?? -1;
}

const letter = (code: number) =>
  (code >= 97 && code <= 122) ||
  (code >= 65 && code <= 90) ||
  code === 95 ||
  (code >= 0xc0 && code <= 0x24f && code !== 0xd7 && code !== 0xf7);
const digit = (code: number) => code >= 48 && code <= 57;
const blank = (code: number) => code === 32 || code === 9 || code === 0xa0;

/** For the grammar: the name of an own step, words up to “by” or the end of what is written. */
export const taskName = new ExternalTokenizer((input) => {
  if (!letter(input.next)) return;
  let end = 0;
  let length = 0;
  for (;;) {
    let word = '';
    while (letter(input.next) || (word !== '' && (digit(input.next) || input.next === 39))) {
      word += String.fromCharCode(input.next);
      input.advance();
      length++;
    }
    if (word === '' || word.toLowerCase() === 'by') break;
    end = length;
    while (blank(input.next)) {
      input.advance();
      length++;
    }
  }
  if (end > 0) input.acceptToken(terms.TaskName, end - length);
});
