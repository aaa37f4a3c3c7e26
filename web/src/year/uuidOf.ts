/** Four mixed halves of a text (FNV-1a, 32 bits each, from other beginnings): the same for the same text, in any browser. */
function mixed(text: string, seed: number): string {
  let hash = seed >>> 0;
  for (const char of text) hash = Math.imul(hash ^ char.codePointAt(0)!, 16777619) >>> 0;
  hash ^= hash >>> 15;
  return (Math.imul(hash, 0x2c1b3c6d) >>> 0).toString(16).padStart(8, '0');
}

/** A UUID (version 8 of RFC 9562, made by a rule of our own) of a text. */
export function uuidOf(text: string): string {
  const hex = [2166136261, 0x9747b28c, 0x1b873593, 0xcc9e2d51].map((seed) => mixed(text, seed)).join('');
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-8${hex.slice(13, 16)}-8${hex.slice(17, 20)}-${hex.slice(20, 32)}`;
}
