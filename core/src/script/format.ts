import { lineOf, type Line } from './lines.ts';
import { ownWords, reworded } from './ownWords.ts';

/** Spaces that each block adds. */
const INDENT = 2;

const token = /"[^"\n]*"?|\d+(?:\.\d+)?|\.\d+|[\p{L}_][\p{L}\p{N}_']*|<=|>=|<>|!=|==|\S/gu;

/** A line taken apart: its step with spaces laid, and its comment. */
export interface LaidLine {
  line: Line;
  code: string;
  /** With its `#`; empty when there is none. */
  comment: string;
}

/** Where the comment of a line begins; its length when there is none. A `#` inside a text is no comment. */
export function commentStart(text: string): number {
  let quoted = false;
  for (let i = 0; i < text.length; i++) {
    if (text[i] === '"') quoted = !quoted;
    if (text[i] === '#' && !(quoted && text.includes('"', i))) return i;
  }
  return text.length;
}

/**
 * Lays the spaces of one line and says it in the script's own words: whoever types “loop” learns “repeat”, and all scripts of a class
 * read alike. A line that is not understood stays as it was typed.
 */
export function layLine(text: string, number: number): LaidLine {
  const line = lineOf(text, number);
  const changes = line.error || !line.node ? [] : ownWords(line.node, text);
  if (changes.length === 0) return laidOut(line, text);
  const own = reworded(text, changes);
  const plain = lineOf(own, number);
  // Should the own words ever not be understood, or not be the last word, what was typed stays.
  return plain.error || ownWords(plain.node!, own).length > 0 ? laidOut(line, text) : laidOut(plain, own);
}

function laidOut(line: Line, text: string): LaidLine {
  const at = commentStart(text);
  const comment = text.slice(at).trimEnd();
  const typed = text.slice(0, at).trim();
  if (line.error || !line.node) return { line, code: typed, comment };
  const lower = new Set<number>();
  const minus = new Set<number>();
  let socket = { from: -1, to: -1 };
  line.node.toTree().iterate({
    enter(node) {
      const from = node.from + line.node!.from;
      if (node.name === 'Keyword' && !inName(node.node.parent?.name)) lower.add(from);
      if (node.name === 'Negative') minus.add(from);
      if (node.name === 'Socket') socket = { from, to: node.to + line.node!.from };
    },
  });
  let code = '';
  let glued = true;
  for (const match of text.slice(0, at).matchAll(token)) {
    const [word] = match;
    const from = match.index;
    const tight =
      glued ||
      /^[,).]$/.test(word) ||
      (word === '(' && calls(code)) ||
      (from > socket.from && from < socket.to);
    code += `${tight ? '' : ' '}${lower.has(from) ? word.toLowerCase() : word}`;
    glued =
      word === '(' ||
      word === '.' ||
      minus.has(from) ||
      (from > socket.from && from < socket.to - 1 && word === '-');
  }
  return { line, code, comment };
}

/** `left` and `right` inside a name keep the case they are written in. */
const inName = (parent: string | undefined) => parent === 'Name' || parent === 'NameRef';

/** Whether an opening bracket after `code` belongs to a function's name. */
const calls = (code: string) => /(?:^|[\s(,])(?:min|max|abs|round|floor|clamp|remainder|state)$/i.test(code);

/** How a line changes the depth: before itself and after itself. */
export function depthSteps({ line }: LaidLine): { before: number; after: number } {
  const name = line.node?.name ?? '';
  if (line.opens) return { before: 0, after: 1 };
  if (line.error) return { before: 0, after: 0 };
  if (name === 'EndStep') return { before: -1, after: 0 };
  if (name === 'ElseStep' || name === 'ElseIfStep') return { before: -1, after: 1 };
  return { before: 0, after: 0 };
}

/** A line as it is written at a depth. */
export function writeLine({ code, comment }: Pick<LaidLine, 'code' | 'comment'>, depth: number): string {
  const gap = code !== '' && comment !== '' ? '  ' : '';
  const text = `${code}${gap}${comment}`;
  return text === '' ? '' : ' '.repeat(INDENT * Math.max(0, depth)) + text;
}

/** Blocks within blocks beyond this are not moved in further: the text would grow without end. */
const DEEPEST = 40;

/**
 * Lays out a script: two spaces for each block, single spaces between words, key words in lower case, at most one
 * empty line in a row. Meaning and comments stay; lines that are not understood keep their words.
 */
export function formatScript(text: string): string {
  let depth = 0;
  const lines: string[] = [];
  text
    .replace(/\r\n?/g, '\n')
    .split('\n')
    .forEach((line, i) => {
      const laid = layLine(line, i + 1);
      const { before, after } = depthSteps(laid);
      depth = Math.max(0, depth + before);
      const written = writeLine(laid, Math.min(depth, DEEPEST));
      if (written !== '' || (lines.length > 0 && lines.at(-1) !== '')) lines.push(written);
      depth += after;
    });
  while (lines.at(-1) === '') lines.pop();
  return lines.length === 0 ? '' : `${lines.join('\n')}\n`;
}
