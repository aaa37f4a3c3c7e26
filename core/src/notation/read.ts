import type { SyntaxNode } from '@lezer/common';
import { parser } from './generated/parser.ts';

export type Notation = 'Formula' | 'Arithmetic';

/** What may stand at a place, tried in this order; each with a sample of it. */
const PIECES = {
  Formula: [
    ['a signal', '"x"'],
    ['a number', '1'],
    ['a < or >', '<'],
    ['a “)”', ')'],
    ['a “]”', ']'],
    ['a “,”', ','],
    ['a “%”', '%'],
  ],
  Arithmetic: [
    ['a number', '1'],
    ['a “)”', ')'],
    ['a “(”', '('],
  ],
} as const;

export type Piece = (typeof PIECES)[Notation][number][0];

const readers = {
  Formula: parser.configure({ top: 'Formula', strict: true }),
  Arithmetic: parser.configure({ top: 'Arithmetic', strict: true }),
};

/** What a text that cannot be read fails at. */
export interface Failure {
  /** The word or sign that does not fit; empty at the end of the text. */
  at: string;
  /** The word or sign before it; empty at the beginning. */
  after: string;
  /** What is missing there; null when nothing could stand there. */
  missing: Piece | null;
  /** What follows from a sign that the notation does not have; empty when it has the sign. */
  unknown: string;
}

/** A text as the grammar reads it, or where it fails. */
export type Read = { ok: true; value: SyntaxNode } | { ok: false; failure: Failure };

const TOKEN = /"[^"\n]+"|[A-Za-z][\w-]*|\d+(?:\.\d+)?|->|<=|>=|<>|\S/y;

/** The place at which a text cannot be read any further; −1 when all of it can. */
function stopsAt(text: string, notation: Notation): number {
  try {
    readers[notation].parse(text);
    return -1;
  } catch (caught) {
    const at = caught instanceof SyntaxError ? /No parse at (\d+)/.exec(caught.message)?.[1] : undefined;
    if (at === undefined) throw caught;
    return Number(at);
  }
}

function tokensOf(text: string): { text: string; at: number }[] {
  const tokens: { text: string; at: number }[] = [];
  for (let at = 0; at < text.length;) {
    TOKEN.lastIndex = at;
    const token = TOKEN.exec(text)?.[0];
    if (token !== undefined) tokens.push({ text: token, at });
    at += token?.length ?? 1;
  }
  return tokens;
}

function failureAt(stop: number, text: string, notation: Notation): Failure {
  const tokens = tokensOf(text);
  const next = tokens.findIndex((token) => token.at + token.text.length > stop);
  const before = text.slice(0, tokens[next]?.at ?? text.length);
  const last = next < 0 ? tokens.at(-1) : tokens[next - 1];
  const fits = ([, sample]: readonly [Piece, string]) => {
    const whole = `${before} ${sample}`;
    const now = stopsAt(whole, notation);
    return now < 0 || now >= whole.length;
  };
  const at = tokens[next]?.text ?? '';
  const known = notation === 'Formula' ? /^["A-Za-z\d()<>[\],%-]/ : /^[A-Za-z\d()<>=,*/+-]/;
  return {
    at,
    after: last?.text ?? '',
    // Where all before it makes sense by itself nothing is missing: what follows is too much.
    missing: stopsAt(before, notation) < 0 ? null : (PIECES[notation].find(fits)?.[0] ?? null),
    unknown: at === '' || known.test(at) ? '' : text.slice(tokens[next]!.at),
  };
}

/**
 * Reads a text of a notation whole, or tells where it stops making sense and what is missing there. Nothing is evaluated.
 * The caller bounds the length of the text.
 */
export function readNotation(text: string, notation: Notation): Read {
  const stop = stopsAt(text, notation);
  return stop < 0
    ? { ok: true, value: readers[notation].parse(text).topNode }
    : { ok: false, failure: failureAt(stop, text, notation) };
}

/** How deep brackets and other parts of a reading lie in each other. */
export function depthOf(node: SyntaxNode): number {
  let [depth, deepest] = [0, 0];
  node.cursor().iterate(
    () => void (deepest = Math.max(deepest, ++depth)),
    () => void depth--,
  );
  return deepest;
}

/** The parts of a node that stand for something: without brackets, signs and key words. */
export function partsOf(node: SyntaxNode): SyntaxNode[] {
  const parts: SyntaxNode[] = [];
  for (let child = node.firstChild; child; child = child.nextSibling)
    if (/^[A-Z]/.test(child.name) && child.name !== 'Keyword') parts.push(child);
  return parts;
}
