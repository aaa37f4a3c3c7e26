import type { SyntaxNode, Tree } from '@lezer/common';
import { fault, type Finding } from './findings.ts';
import { parser } from './generated/parser.ts';
import { keywords, nameWords } from './keywords.ts';
import type { LineReader } from './lower.ts';
import { nearest, otherWords, shapeOf, shapes } from './shapes.ts';
import { lineInstead, signInstead, stepInstead } from './slips.ts';

const lineParser = parser.configure({ top: 'Line' });
/** Gives up at the first thing that does not follow the grammar: most lines have none. */
const strictParser = parser.configure({ top: 'Line', strict: true });

/** The syntax tree of one line, and the first place where it does not follow the grammar. */
function parseLine(text: string): { tree: Tree; error: { from: number; to: number } | null } {
  try {
    return { tree: strictParser.parse(text), error: null };
  } catch (caught) {
    if (!(caught instanceof SyntaxError)) throw caught;
    const tree = lineParser.parse(text);
    return { tree, error: firstError(tree) ?? { from: 0, to: text.length } };
  }
}

/** The step of a line's tree; null for an empty one. */
function stepNode(tree: Tree): SyntaxNode | null {
  let node = tree.topNode.firstChild;
  while (node && !node.name.endsWith('Step')) node = node.nextSibling;
  return node;
}

/** The first place where a tree does not follow the grammar. */
function firstError(tree: Tree): { from: number; to: number } | null {
  let found: { from: number; to: number } | null = null;
  tree.iterate({
    enter(node) {
      if (node.type.isError && !found) found = { from: node.from, to: node.to };
      return !found;
    },
  });
  return found;
}

/** What is wrong with a line that does not follow the grammar, in one sentence. */
export function notUnderstood(reader: LineReader, error: { from: number; to: number }): Finding {
  const text = reader.text;
  if (text.length > LINE_LIMIT) {
    const says = `This line is longer than ${LINE_LIMIT.toLocaleString('en')} characters.`;
    return fault(reader.place({ from: 0, to: LINE_LIMIT }), 'size', says, 'One step a line.');
  }
  const first = /[^\s#]+/.exec(text) ?? /^[^]*/.exec(text)!;
  const word = /^[A-Za-z]+/.exec(first[0])?.[0].toLowerCase() ?? '';
  if (!shapes[word] && !otherWords[word]) return noStep(reader, first);
  const rest = text.slice(error.from).replace(/#.*$/, '').trim();
  const at = reader.place({ from: error.from, to: Math.max(error.to, error.from + rest.length) });
  const reserved = /^[a-z]+/i.exec(rest)?.[0].toLowerCase() ?? '';
  const usual = lineInstead(text);
  if (usual && rest !== '')
    return fault(at, 'shape', `“${word}” does not go on with “${shortened(rest)}”.`, usual);
  if (usual) return fault(at, 'shape', `This “${word}” is not complete.`, usual);
  const sign = signInstead(rest);
  if (sign) return fault(at, 'shape', sign.says, sign.mend);
  const naming = ['sensor', 'motor', 'let', 'set', 'task'].includes(word);
  const taken = naming && keywords.includes(reserved) && !nameWords.includes(reserved);
  return fault(
    at,
    'shape',
    rest === ''
      ? `This “${word}” is not complete.`
      : taken
        ? `“${reserved}” is a word of the script itself and cannot be a name.`
        : `“${word}” does not go on with “${shortened(rest)}”.`,
    `It reads like: ${shapeOf(word)}.`,
  );
}

/** A line whose first word is no step: what it may have been meant for, by what it says and only then by its spelling. */
function noStep(reader: LineReader, first: RegExpExecArray): Finding {
  const text = reader.text.replace(/#.*$/, '');
  const at = reader.place({ from: first.index, to: first.index + first[0].length });
  const word = /^[\p{L}_]+/u.exec(first[0])?.[0] ?? '';
  // What a pasted program had there and nobody could carry over.
  const pasted = /^\s*\?\?\?\s*(.+)$/.exec(text)?.[1]?.trim();
  if (pasted) {
    const says = `“${shortened(pasted)}” was not carried over.`;
    return fault(at, 'not carried', says, 'Write in steps what it does, or remove the line.');
  }
  const told = `“${shortened(first[0])}” is not a step.`;
  const assigned = /^\s*([\p{L}_][\p{L}\p{N}_ ]*?)\s*(?:[-+*/]?=|\+\+|--)/u.exec(text)?.[1];
  const [, led] = assigned ? [] : (/^\s*([\p{L}_][\p{L}\p{N}_ ]*?)\s*(?:[<>≤≥!]|\bis\b)/u.exec(text) ?? []);
  const name = assigned ?? led;
  if (name && reader.isKnown(name)) {
    const asks = `wait until ${shortened(text.trim())}, or: if ${shortened(text.trim())}`;
    const isValue = reader.valueIndex(name) >= 0;
    return fault(
      at,
      'unknown step',
      `“${shortened(text.trim())}” is no step by itself.`,
      assigned && isValue
        ? `To change it write: set ${name} to ….`
        : `To ask it write: ${asks.replace(' = ', ' is ')}.`,
    );
  }
  const sign = word === '' ? signInstead(text.trim()) : null;
  if (sign) return fault(at, 'unknown step', sign.says, sign.mend);
  const instead = stepInstead(word);
  if (instead) return fault(at, 'unknown step', told, instead);
  if (assigned) {
    const mend = text.includes('=')
      ? `To begin a value write: let ${assigned} = ….`
      : `Write, for example: set ${assigned} to ${assigned} + 1.`;
    return fault(at, 'unknown step', told, mend);
  }
  const near = nearest(word, Object.keys(shapes));
  return fault(
    at,
    'unknown step',
    told,
    near
      ? `Did you mean “${near}”? It reads like: ${shapeOf(near)}.`
      : `Steps start with ${Object.keys(shapes).join(', ')}.`,
  );
}

const shortened = (text: string) => (text.length > 40 ? `${text.slice(0, 40)}…` : text);

/** The step that opens a block, however it was said. */
export type Opening = 'repeat' | 'if' | 'task' | 'whenever';

/** A line of a script, parsed and not yet understood. */
export interface Line {
  text: string;
  number: number;
  node: SyntaxNode | null;
  error: { from: number; to: number } | null;
  /** The word of a block that this line opens, even when it goes astray further on. */
  opens: Opening | null;
  /** What was understood of it last: shared by all readings of the same words. */
  kept: { understood?: Understood };
}

/** What a line meant when these names were known, at its place. */
export interface Understood {
  names: string;
  number: number;
  meaning: unknown;
}

/** An own step, or what is done beside the main program, and the lines between its head and its `end`. */
export interface BlockLines {
  head: Line;
  body: Line[];
  end: Line | null;
}

const opener = /^\s*(repeat|loop|forever|while|until|if|task|whenever)\b/i;

function opening(text: string): Opening | null {
  const word = opener.exec(text)?.[1]!.toLowerCase();
  if (!word) return null;
  return word === 'if' || word === 'task' || word === 'whenever' ? word : 'repeat';
}

/** A line may not be longer than this, in characters. */
export const LINE_LIMIT = 2000;

/**
 * What was worked out lately by its text, in two generations: whoever types changes one line, and all the others are as they were. Few
 * are kept, because what is kept long costs the collector more than working it out again.
 */
class Lately<T> {
  private now = new Map<string, T>();
  private before = new Map<string, T>();

  of(text: string, work: () => T): T {
    const known = this.now.get(text) ?? this.before.get(text);
    if (known) return known;
    const found = work();
    if (text.length > KEEP.characters) return found;
    if (this.now.size >= KEEP.lines) [this.before, this.now] = [this.now, new Map<string, T>()];
    this.now.set(text, found);
    return found;
  }
}
const KEEP = { lines: 600, characters: 200 };

const parsed = new Lately<Omit<Line, 'number'>>();
/** Trees by lines with every digit a 0: which digits a number has changes no place and no part of a tree. */
const shaped = new Lately<Pick<Line, 'node' | 'error' | 'opens'>>();

function shapeOfLine(text: string): Pick<Line, 'node' | 'error' | 'opens'> {
  const shape = text.replace(/[1-9]/g, '0');
  return shaped.of(shape, () => {
    const { tree, error } = parseLine(shape);
    return { node: stepNode(tree), error, opens: opening(shape) };
  });
}

/** A line of a script by itself. */
export function lineOf(text: string, number: number): Line {
  if (text.length > LINE_LIMIT) {
    return { text, number, node: null, error: { from: 0, to: text.length }, opens: null, kept: {} };
  }
  const { node, error, opens, kept } = parsed.of(text, () => ({ text, ...shapeOfLine(text), kept: {} }));
  return { text, number, node, error, opens, kept };
}

/** Takes the lines of own steps, and of what is done beside the main program, out; what is left is the main program. */
export function partBlocks(lines: readonly Line[]): {
  main: Line[];
  tasks: BlockLines[];
  watchers: BlockLines[];
} {
  const main: Line[] = [];
  const found = { task: [] as BlockLines[], whenever: [] as BlockLines[] };
  let depth = 0;
  let block: BlockLines | null = null;
  for (const line of lines) {
    const ends = line.node?.name === 'EndStep' && !line.error;
    if ((line.opens === 'task' || line.opens === 'whenever') && (depth === 0 || block)) {
      // One inside another: the first was left open. It is said once, where the first begins.
      block = { head: line, body: [], end: null };
      found[line.opens].push(block);
      depth = 1;
      continue;
    }
    if (line.opens) depth++;
    if (ends && depth > 0) depth--;
    if (block && depth === 0) {
      if (ends) block.end = line;
      block = null;
      continue;
    }
    (block?.body ?? main).push(line);
  }
  return { main, tasks: found.task, watchers: found.whenever };
}
