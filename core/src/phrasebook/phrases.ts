import { cExpr } from './cLike.ts';
import { ForeignText, type ForeignExpr, type Syntax } from './foreign.ts';
import { pythonExpr } from './python.ts';

/** One thing that a kit's text language can say, and how the step script says it. */
export interface Phrase {
  /** As it is typed there, with `$name` for what may stand in a place: `move(ahead, $speed)`. */
  pattern: string;
  /** Steps, or a value or question, with the same `$name`s: `drive $speed %`. Several steps stand on several lines. */
  says: string;
}

/** The words of a kit's text language. */
export interface Phrasebook {
  name: string;
  syntax: Syntax;
  /** Declarations that a carried program begins with when it uses their names: `sensor floor is light on K3`. */
  declares: string[];
  phrases: Phrase[];
}

export const PHRASEBOOK_LIMIT = { phrases: 200, pattern: 200, says: 500 };

/** A phrase whose pattern has been read. */
export interface ReadPhrase {
  pattern: ForeignExpr;
  says: string;
  holes: string[];
}

const HOLE = 'hole__';
const holesIn = (text: string) => [...new Set([...text.matchAll(/\$([a-z]\w*)/gi)].map((m) => m[1]!))];

/** Something wrong with a phrase of a phrasebook, counted from 1. */
export interface PhraseFault {
  phrase: number;
  says: string;
}

/** Reads a phrase's pattern; a sentence when it cannot be one. */
export function readPhrase({ pattern, says }: Phrase, syntax: Syntax): ReadPhrase | string {
  const holes = holesIn(pattern);
  const text = pattern
    .trim()
    .replace(/;$/, '')
    .replace(/\$([a-z]\w*)/gi, `${HOLE}$1`);
  const wrapped = syntax === 'c' ? `void f(){${text};}` : text;
  const node = syntax === 'c' ? cExpr(text) : pythonExpr(text);
  if (!node) return `“${pattern}” is no call or expression in this syntax.`;
  const read = new ForeignText(wrapped).expr(node);
  if (read.kind !== 'call' && read.kind !== 'name')
    return `“${pattern}” must be a call or a name, such as move(ahead, $speed).`;
  const missing = holesIn(says).find((hole) => !holes.includes(hole));
  if (missing) return `“$${missing}” stands in the steps and not in the pattern.`;
  if (says.trim() === '') return `“${pattern}” says nothing yet.`;
  return { pattern: read, says, holes };
}

/** Everything wrong with a phrasebook's phrases. */
export function phraseFaults({ phrases, syntax }: Pick<Phrasebook, 'phrases' | 'syntax'>): PhraseFault[] {
  const seen = new Map<string, number>();
  return phrases.flatMap((phrase, i): PhraseFault[] => {
    const read = readPhrase(phrase, syntax);
    if (typeof read === 'string') return [{ phrase: i + 1, says: read }];
    const key = JSON.stringify(read.pattern).replaceAll(/hole__\w+/g, '$');
    const before = seen.get(key);
    if (before !== undefined) return [{ phrase: i + 1, says: `It catches the same as phrase ${before}.` }];
    seen.set(key, i + 1);
    return [];
  });
}

/** What stands in the holes when an expression fits a pattern; null when it does not. */
export function matchPhrase(pattern: ForeignExpr, expr: ForeignExpr): Map<string, ForeignExpr> | null {
  const found = new Map<string, ForeignExpr>();
  const fits = (p: ForeignExpr, e: ForeignExpr): boolean => {
    if (p.kind === 'name' && p.name.startsWith(HOLE)) {
      const hole = p.name.slice(HOLE.length);
      const before = found.get(hole);
      if (before) return JSON.stringify(before) === JSON.stringify(e);
      found.set(hole, e);
      return e.kind !== 'other';
    }
    if (p.kind === 'number' && e.kind === 'number') return Number(p.value) === Number(e.value);
    if (p.kind === 'call' && e.kind === 'call') {
      return (
        p.name === e.name &&
        p.args.length === e.args.length &&
        p.args.every((arg, i) => fits(arg, e.args[i]!))
      );
    }
    if (p.kind === 'unary' && e.kind === 'unary') return p.op === e.op && fits(p.operand, e.operand);
    if (p.kind === 'binary' && e.kind === 'binary')
      return p.op === e.op && fits(p.left, e.left) && fits(p.right, e.right);
    return JSON.stringify(p) === JSON.stringify(e);
  };
  return fits(pattern, expr) ? found : null;
}
