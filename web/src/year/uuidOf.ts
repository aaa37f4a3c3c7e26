import { v5 } from 'uuid';

/** The name space of everything that Vigilum names by a rule (RFC 9562, 5.5). */
const SPACE = '6f1d7c0a-4a83-4c1e-9a58-1d3c5b7e9f20';

/** A UUID of a text, the same for the same text wherever it is made. */
export const uuidOf = (text: string): string => v5(text, SPACE);
