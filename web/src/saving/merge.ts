import { diff3Merge } from 'node-diff3';

/** Two texts made from one, put together line by line; null where both changed the same lines. */
export function mergedText(base: string, mine: string, theirs: string): string | null {
  if (mine === theirs || theirs === base) return mine;
  if (mine === base) return theirs;
  const lines: string[] = [];
  for (const part of diff3Merge(mine.split('\n'), base.split('\n'), theirs.split('\n'))) {
    if (!part.ok) return null;
    lines.push(...part.ok);
  }
  return lines.join('\n');
}

type Fields = Record<string, unknown>;
const isFields = (value: unknown): value is Fields =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
export const sameData = (a: unknown, b: unknown): boolean =>
  a === b || JSON.stringify(a) === JSON.stringify(b);

/** As JSON, without the blanks at the ends of texts, which the server takes off. */
const trimmed = (value: unknown): string =>
  JSON.stringify(value, (_, part: unknown) => (typeof part === 'string' ? part.trim() : part)) ?? '';
/** Whether two states differ in blanks at the ends of texts at most. */
export const alikeData = (a: unknown, b: unknown): boolean => sameData(a, b) || trimmed(a) === trimmed(b);

/** What two people did to one field; `clash` where both changed it, each in another way. */
const clash = Symbol('clash');

function put(base: unknown, mine: unknown, theirs: unknown): unknown {
  if (alikeData(mine, theirs) || alikeData(theirs, base)) return mine;
  if (sameData(mine, base)) return theirs;
  if (isFields(base) && isFields(mine) && isFields(theirs)) {
    const all: Fields = {};
    for (const key of new Set([...Object.keys(mine), ...Object.keys(theirs)])) {
      const one = put(base[key], mine[key], theirs[key]);
      if (one === clash) return clash;
      if (one !== undefined) all[key] = one;
    }
    return all;
  }
  // Lists are put together only item by item: where one grew or shrank nobody knows which item is which.
  if (Array.isArray(base) && Array.isArray(mine) && Array.isArray(theirs)) {
    if (mine.length !== base.length || theirs.length !== base.length) return clash;
    const all = mine.map((item, i) => put(base[i], item, theirs[i]));
    return all.includes(clash) ? clash : all;
  }
  return clash;
}

/** Two states made from one, put together field by field; null where both changed the same. */
export function mergedData<V>(base: V, mine: V, theirs: V): V | null {
  const all = put(base, mine, theirs);
  return all === clash ? null : (all as V);
}
