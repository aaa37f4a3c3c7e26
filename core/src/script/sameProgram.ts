import { layLine } from './format.ts';

/** A script without what changes nothing that it does: comments, empty lines, spaces, depth, the case of key words. */
const bare = (text: string): string =>
  text
    .split('\n')
    .map((line, i) => layLine(line, i + 1).code)
    .filter((code) => code !== '')
    .join('\n');

/** Whether two scripts say the same program: they differ in blanks, layout or comments at most. */
export const sameProgram = (a: string, b: string): boolean => a === b || bare(a) === bare(b);
