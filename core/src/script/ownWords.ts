import type { SyntaxNode } from '@lezer/common';
import { signOf } from './questions.ts';
import { otherWords } from './shapes.ts';
import { unitOfWord } from './names.ts';

/** Other text for a stretch of a line. Columns count from 0. */
export interface Rewording {
  from: number;
  to: number;
  text: string;
}

const heads = new Set(['StopStep', 'ZeroStep', 'WaitStep', 'ElseIfStep', 'ElseStep', 'ShowStep', 'GiveStep']);

/** The key words at the start of a step, up to its first part. */
function leading(node: SyntaxNode): SyntaxNode[] {
  const found: SyntaxNode[] = [];
  for (let child = node.firstChild; child?.name === 'Keyword'; child = child.nextSibling) found.push(child);
  return found;
}

/** “go back 30 %” is “drive -30 %”. */
function drive(node: SyntaxNode, text: string, out: Rewording[]): void {
  const way = node.getChild('Way');
  const words = leading(node);
  const go = words.at(-1);
  const raw = go && /^raw$/i.test(text.slice(go.from, go.to)) ? go : null;
  const verb = raw || !go ? null : go;
  if (verb && !/^drive$/i.test(text.slice(verb.from, verb.to)))
    out.push({ from: verb.from, to: verb.to, text: 'drive' });
  if (!way) return;
  const back = !/^(ahead|forwards?)$/i.test(text.slice(way.from, way.to));
  const expr = way.nextSibling!;
  const lead = `${verb ? '' : 'drive '}${back ? '-' : ''}`;
  const alone = ['Quantity', 'NameRef', 'Paren'].includes(expr.name);
  // A name that begins with a word for a way would be taken for one.
  const bracket = back ? !alone : /^(ahead|forwards?|back|backwards?|reverse)\b/i.test(text.slice(expr.from));
  out.push({ from: way.from, to: expr.from, text: bracket ? `${lead}(` : lead });
  if (bracket) out.push({ from: expr.to, to: expr.to, text: ')' });
}

/** “loop”, “forever”, “while …”, “repeat 4” as repeats. */
function repeat(node: SyntaxNode, text: string, out: Rewording[]): void {
  const [verb] = leading(node);
  if (verb && !/^repeat$/i.test(text.slice(verb.from, verb.to)))
    out.push({ from: verb.from, to: verb.to, text: 'repeat' });
  const part = node.firstChild!.name === 'Keyword' ? node.firstChild!.nextSibling : node.firstChild;
  if (!part) return;
  if (part.name === 'Forever') out.push({ from: part.from, to: part.to, text: verb ? '' : 'repeat' });
  else if (!verb) out.push({ from: part.from, to: part.from, text: 'repeat ' });
  if (part.name === 'TimesPart' && !part.getChild('Keyword'))
    out.push({ from: part.to, to: part.to, text: ' times' });
}

function head(node: SyntaxNode, text: string, out: Rewording[]): void {
  const [verb, second] = leading(node);
  if (!verb) return;
  const typed = text.slice(verb.from, verb.to).toLowerCase();
  if (otherWords[typed]) out.push({ from: verb.from, to: verb.to, text: otherWords[typed] });
  if (node.name !== 'WaitStep') return;
  const part = node.getChild('ForPart');
  const word = part?.getChild('Keyword') ?? second;
  if (part && word) out.push({ from: word.from, to: word.to, text: '' });
}

/**
 * A step that is said in other words, in the script's own: what the formatter writes instead of “loop”, “go back 30 %” or “is less
 * than”. The meaning stays. Nothing where the own words stand already.
 */
export function ownWords(step: SyntaxNode, text: string): Rewording[] {
  const out: Rewording[] = [];
  if (step.name === 'DriveStep') drive(step, text, out);
  else if (step.name === 'RepeatStep') repeat(step, text, out);
  else if (heads.has(step.name)) head(step, text, out);
  const look = (node: SyntaxNode): void => {
    const words = text.slice(node.from, node.to);
    // “then then”: without the last the first would be left out as well, and so on.
    const twice = node.name === 'Then' && /\bthen\s*$/i.test(text.slice(0, node.from));
    if (twice) return;
    if (node.name === 'Then' || node.name === 'EndWord') out.push({ from: node.from, to: node.to, text: '' });
    else if (node.name === 'Compare' || (node.name === 'Equals' && step.name !== 'LetStep')) {
      const sign = signOf(words);
      if (sign !== words) out.push({ from: node.from, to: node.to, text: sign });
    } else if (node.name === 'Than') {
      const is = node.prevSibling!;
      out.push({ from: is.from, to: node.to, text: signOf(words) });
    } else if (node.name === 'Unit' && step.name !== 'SensorStep') {
      const unit = unitOfWord(words);
      if (unit && unit.toLowerCase() !== words.toLowerCase() && words.toLowerCase() !== 'turn')
        out.push({ from: node.from, to: node.to, text: unit });
    }
    for (let child = node.firstChild; child; child = child.nextSibling) look(child);
  };
  look(step);
  return out.sort((a, b) => a.from - b.from || a.to - b.to);
}

/** A text with some of its stretches reworded. */
export function reworded(text: string, changes: readonly Rewording[]): string {
  let [done, at] = ['', 0];
  for (const { from, to, text: instead } of changes) {
    done += text.slice(at, from) + instead;
    at = to;
  }
  return done + text.slice(at);
}
