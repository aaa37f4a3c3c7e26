import type { SyntaxNode } from '@lezer/common';
import { depthOf, isKeyword, partsOf, readNotation, type Failure } from '../notation/index.ts';
import { formatNumber, found, refused, units, type Outcome, type Unit } from '../quantity/index.ts';
import {
  all,
  always,
  any,
  eventually,
  forShare,
  implies,
  not,
  type Formula,
  type Window,
} from './formula.ts';

/** Longest formula, and deepest nesting, that is read. */
const LONGEST = 1000;
const DEEPEST = 40;

const EXAMPLE = 'For example: always (speed < 200) and eventually[0, 5] "gap ahead" < 15 cm';

class Fault extends Error {}

/** Builds the formula from what the grammar read; what only numbers can tell is a fault. */
class Builder {
  private readonly text: string;
  constructor(text: string) {
    this.text = text;
  }

  private textOf(node: SyntaxNode): string {
    return this.text.slice(node.from, node.to);
  }
  private level(node: SyntaxNode): number {
    return Number(this.textOf(node).replace(/\s/g, ''));
  }
  private window(node: SyntaxNode): Window {
    const [start, end] = partsOf(node);
    const from = this.level(start!);
    const to = end!.name === 'End' ? null : this.level(end!);
    if (from < 0 || (to !== null && to < from))
      throw new Fault('A stretch of time must run forwards from 0 s or later.');
    return [from, to];
  }
  private within(node: SyntaxNode, make: (of: Formula, window: Window) => Formula): Formula {
    const parts = partsOf(node);
    return make(this.formula(parts.at(-1)!), parts.length > 1 ? this.window(parts[0]!) : [0, null]);
  }

  formula(node: SyntaxNode): Formula {
    const parts = partsOf(node);
    switch (node.name) {
      case 'Formula':
      case 'Group':
        return this.formula(parts[0]!);
      case 'Implies':
        return implies(this.formula(parts[0]!), this.formula(parts[1]!));
      case 'Or':
        return any(...parts.map((part) => this.formula(part)));
      case 'And':
        return all(...parts.map((part) => this.formula(part)));
      case 'Until': {
        const [first, then] = [this.formula(parts[0]!), this.formula(parts.at(-1)!)];
        return { is: 'until', window: parts.length > 2 ? this.window(parts[1]!) : [0, null], first, then };
      }
      case 'Not':
        return not(this.formula(parts[0]!));
      case 'Always':
        return this.within(node, always);
      case 'Eventually':
        return this.within(node, eventually);
      case 'Share': {
        const percent = this.level(parts[0]!);
        if (percent < 0 || percent > 100) throw new Fault('A share of the time lies between 0 % and 100 %.');
        return forShare(percent / 100, this.formula(parts.at(-1)!));
      }
      default:
        return this.comparison(parts);
    }
  }

  private comparison([signal, op, level, unit]: SyntaxNode[]): Formula {
    const word = unit && this.textOf(unit);
    if (word !== undefined && !Object.hasOwn(units, word))
      throw new Fault(`“${word}” is no unit that lengths, times or angles are given in.`);
    return {
      is: 'compare',
      signal: this.textOf(signal!).replaceAll('"', ''),
      op: this.textOf(op!)[0] as '<' | '>',
      value: this.level(level!),
      ...(word !== undefined ? { unit: word as Unit } : {}),
    };
  }
}

function saying({ at, after: before, missing, unknown }: Failure): string {
  const after = before.replaceAll('"', '');
  if (unknown) return `“${unknown.slice(0, 12)}” is not understood.`;
  if (!missing) return `“${at}” does not belong here.`;
  if (missing === 'a < or >' && after) return `After “${after}” ${missing} is missing.`;
  if (!at) return `At the end ${missing} is missing.`;
  return missing.includes('“')
    ? `Before “${at}” ${missing} is missing.`
    : `“${at}” stands where ${missing} is missing.`;
}

/** Formulas that were read before: a proof asks for the same ones at every run. */
const read = new Map<string, Outcome<Formula>>();
const READ_KEPT = 200;

/**
 * Reads a formula a person wrote: `always`, `eventually`, `until` with `[from, to]` in seconds (`end` for the end),
 * `for 95 %`, `not`, `and`, `or`, `->`, and comparisons of a signal with a number that may carry a unit. Signals of several
 * words stand in "quotation marks". Nothing is evaluated; a fault is one sentence.
 */
export function readFormula(text: string): Outcome<Formula> {
  let known = read.get(text);
  if (!known) {
    if (read.size >= READ_KEPT) read.clear();
    read.set(text, (known = readAnew(text)));
  }
  return known;
}

function readAnew(text: string): Outcome<Formula> {
  if (text.length > LONGEST)
    return refused(`A formula has at most ${LONGEST} characters.`, 'Say it in parts.');
  if (text.trim() === '') return refused('The formula is empty.', EXAMPLE);
  const tree = readNotation(text, 'Formula');
  if (!tree.ok) return refused(saying(tree.failure), EXAMPLE);
  if (depthOf(tree.value) > DEEPEST) return refused('It is nested too deeply.', EXAMPLE);
  try {
    return found(new Builder(text).formula(tree.value));
  } catch (fault) {
    if (!(fault instanceof Fault)) throw fault;
    return refused(fault.message, EXAMPLE);
  }
}

const name = (signal: string): string =>
  /^[A-Za-z][\w-]*$/.test(signal) && !isKeyword(signal) ? signal : `"${signal}"`;
const stretch = ([from, to]: Window): string =>
  from === 0 && to === null ? '' : `[${formatNumber(from, 3)}, ${to === null ? 'end' : formatNumber(to, 3)}]`;

/** A formula as text that `readFormula` reads again. */
export function formulaText(formula: Formula): string {
  const inner = (of: Formula) => (of.is === 'compare' ? formulaText(of) : `(${formulaText(of)})`);
  switch (formula.is) {
    case 'compare':
      return `${name(formula.signal)} ${formula.op} ${formula.value}${formula.unit ? ` ${formula.unit}` : ''}`;
    case 'not':
      return `not ${inner(formula.of)}`;
    case 'and':
    case 'or':
      return formula.of.map(inner).join(` ${formula.is} `);
    case 'always':
    case 'eventually':
      return `${formula.is}${stretch(formula.window)} ${inner(formula.of)}`;
    case 'share':
      return `for ${formatNumber(formula.least * 100)} % ${inner(formula.of)}`;
    case 'until':
      return `${inner(formula.first)} until${stretch(formula.window)} ${inner(formula.then)}`;
  }
}
