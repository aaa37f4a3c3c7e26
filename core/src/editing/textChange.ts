/** The smallest change that turns one text into another; null where they are the same. */
export function textChange(old: string, next: string): { from: number; to: number; insert: string } | null {
  if (old === next) return null;
  let from = 0;
  while (from < old.length && from < next.length && old[from] === next[from]) from++;
  let end = 0;
  while (end < Math.min(old.length, next.length) - from && old.at(-1 - end) === next.at(-1 - end)) end++;
  return { from, to: old.length - end, insert: next.slice(from, next.length - end) };
}
