import type { SyntaxNode } from '@lezer/common';

/** Text languages that a program can be carried over from. */
export const syntaxes = ['python', 'c'] as const;
export type Syntax = (typeof syntaxes)[number];

/** An expression of a foreign program, the same whatever language it came from. */
export type ForeignExpr =
  | { kind: 'number'; value: string }
  | { kind: 'text'; value: string }
  | { kind: 'truth'; value: boolean }
  /** Dotted names stay whole: `robot.move`. */
  | { kind: 'name'; name: string }
  | { kind: 'call'; name: string; args: ForeignExpr[] }
  | { kind: 'unary'; op: '-' | 'not'; operand: ForeignExpr }
  | { kind: 'binary'; op: string; left: ForeignExpr; right: ForeignExpr }
  /** A text with values in it. */
  | { kind: 'joined'; parts: ForeignExpr[] }
  /** One of two by a test: `a if b else c`, `b ? a : c`. */
  | { kind: 'choice'; test: ForeignExpr; yes: ForeignExpr; no: ForeignExpr }
  | { kind: 'emptyList' }
  /** One thing of a list, counted from 0. */
  | { kind: 'index'; name: string; at: ForeignExpr }
  | { kind: 'other'; text: string };

export interface ForeignArm {
  line: number;
  /** Null for `else`. */
  test: ForeignExpr | null;
  words: string;
  body: ForeignStep[];
}

/** A statement of a foreign program. `words` is how it was typed, up to the end of its first line. */
export type ForeignStep = { line: number; words: string } & (
  | { kind: 'call'; call: Extract<ForeignExpr, { kind: 'call' }> }
  | { kind: 'assign'; name: string; op: '' | '+' | '-' | '*' | '/'; value: ForeignExpr }
  | { kind: 'if'; arms: ForeignArm[] }
  | { kind: 'while'; test: ForeignExpr; body: ForeignStep[] }
  /** Tests after each round. */
  | { kind: 'doWhile'; test: ForeignExpr; body: ForeignStep[] }
  /** Counts in `counter` from a number by steps of `by`, as long as it is below `to` (above it, where `by` is negative), or reaches it. */
  | {
      kind: 'count';
      counter: string;
      from: ForeignExpr;
      to: ForeignExpr;
      reaches: boolean;
      by: number;
      body: ForeignStep[];
    }
  | { kind: 'break' }
  | { kind: 'return'; value: ForeignExpr | null }
  | { kind: 'function'; name: string; parameters: ForeignParameter[]; body: ForeignStep[] }
  | { kind: 'remark'; text: string }
  | { kind: 'nothing' }
  /** Every line of it as typed. */
  | { kind: 'other'; text: string }
);

/** What a function is given, and what it takes when it is given nothing. */
export interface ForeignParameter {
  name: string;
  usual: ForeignExpr | null;
}

/** Deeper than this nothing is read: a program that nests so far is no team's. */
export const DEEPEST = 60;

const operators: Record<string, string> = {
  '==': '=',
  '!=': '<>',
  '&&': 'and',
  '||': 'or',
  and: 'and',
  or: 'or',
  '<': '<',
  '<=': '<=',
  '>': '>',
  '>=': '>=',
  '+': '+',
  '-': '-',
  '*': '*',
  '/': '/',
  '//': '//',
  '%': '%',
};

/** Reads a program's text with the lines it stands on. */
export class ForeignText {
  readonly text: string;
  private readonly starts: number[] = [0];

  constructor(text: string) {
    this.text = text;
    for (let i = text.indexOf('\n'); i >= 0; i = text.indexOf('\n', i + 1)) this.starts.push(i + 1);
  }

  words(node: { from: number; to: number }): string {
    return this.text.slice(node.from, node.to);
  }

  /** The line of a place, counted from 1. */
  line(at: number): number {
    let [low, high] = [0, this.starts.length - 1];
    while (low < high) {
      const mid = (low + high + 1) >> 1;
      if (this.starts[mid]! <= at) low = mid;
      else high = mid - 1;
    }
    return low + 1;
  }

  /** A text with values in curly brackets. */
  private formatted(node: SyntaxNode, depth: number): ForeignExpr {
    const found: ForeignExpr[] = [];
    let at = node.from + this.words(node).search(/["']/) + 1;
    const text = (to: number) => {
      const value = this.text.slice(at, to);
      if (value !== '') found.push({ kind: 'text', value });
    };
    for (const part of childrenOf(node)) {
      if (part.name !== 'FormatReplacement') continue;
      text(part.from);
      found.push(this.expr(childrenOf(part).find(isExpr) ?? null, depth + 1));
      at = part.to;
    }
    text(node.to - 1);
    return { kind: 'joined', parts: found };
  }

  /** A statement's first line as typed. */
  firstLine(node: { from: number; to: number }): string {
    return this.words(node).split('\n')[0]!.trim();
  }

  /** An expression; the two grammars differ only in what they call its parts. */
  expr(node: SyntaxNode | null, depth = 0): ForeignExpr {
    if (!node || depth > DEEPEST) return { kind: 'other', text: node ? this.firstLine(node) : '' };
    const other: ForeignExpr = { kind: 'other', text: this.firstLine(node) };
    const parts = childrenOf(node);
    switch (node.name) {
      case 'Number': {
        const found = /^(\d+(?:\.\d*)?|\.\d+)[fFlLuU]*$/.exec(this.words(node));
        return found ? { kind: 'number', value: found[1]!.replace(/\.$/, '') } : other;
      }
      case 'String': {
        const found = /^["']([^"'\\\n]*)["']$/.exec(this.words(node));
        return found ? { kind: 'text', value: found[1]! } : other;
      }
      case 'FormatString':
        return this.formatted(node, depth);
      case 'ArrayExpression':
        return parts.length === 2 ? { kind: 'emptyList' } : other;
      case 'ConditionalExpression': {
        const [first, second, third] = parts.filter(isExpr);
        if (!first || !second || !third) return other;
        // Python says what comes of it first, C asks first.
        const python = parts.some(({ name }) => name === 'if');
        const [test, yes, no] = python ? [second, first, third] : [first, second, third];
        return {
          kind: 'choice',
          test: this.expr(test, depth + 1),
          yes: this.expr(yes, depth + 1),
          no: this.expr(no, depth + 1),
        };
      }
      case 'Boolean':
      case 'True':
      case 'False':
        return { kind: 'truth', value: /^true$/i.test(this.words(node)) };
      case 'VariableName':
      case 'Identifier':
        return { kind: 'name', name: this.words(node) };
      case 'MemberExpression':
      case 'FieldExpression': {
        if (parts[1]?.name === '[' && parts[0]?.name === 'VariableName' && parts[2])
          return { kind: 'index', name: this.words(parts[0]), at: this.expr(parts[2], depth + 1) };
        const name = this.words(node).replace(/\s+/g, '').replaceAll('->', '.');
        return /^[\p{L}_][\p{L}\p{N}_.]*$/u.test(name) ? { kind: 'name', name } : other;
      }
      case 'ParenthesizedExpression':
        return this.expr(parts.find(isExpr) ?? null, depth + 1);
      case 'CallExpression': {
        const callee = this.expr(parts[0] ?? null, depth + 1);
        const list = parts.find(({ name }) => name === 'ArgList' || name === 'ArgumentList');
        // Arguments by name would need their names in the phrases too: such a call is listed, not guessed.
        const named = list && childrenOf(list).some(({ name }) => name === 'AssignOp');
        if (callee.kind !== 'name' || !list || named) return other;
        return {
          kind: 'call',
          name: callee.name,
          args: childrenOf(list)
            .filter(isExpr)
            .map((arg) => this.expr(arg, depth + 1)),
        };
      }
      case 'UnaryExpression': {
        const sign = this.words(parts[0]!);
        const operand = parts.filter(isExpr).at(-1);
        if (!operand || !['-', '!', 'not', '+'].includes(sign)) return other;
        const inner = this.expr(operand, depth + 1);
        return sign === '+' ? inner : { kind: 'unary', op: sign === '-' ? '-' : 'not', operand: inner };
      }
      case 'BinaryExpression': {
        const [left, sign, right] = parts;
        const op = sign && operators[this.words(sign)];
        if (!op || !right || parts.length > 3) return other;
        return { kind: 'binary', op, left: this.expr(left!, depth + 1), right: this.expr(right, depth + 1) };
      }
      default:
        return other;
    }
  }
}

export function childrenOf(node: SyntaxNode): SyntaxNode[] {
  const found: SyntaxNode[] = [];
  for (let child = node.firstChild; child; child = child.nextSibling) found.push(child);
  return found;
}

const expressions = new Set([
  'Number',
  'String',
  'Boolean',
  'True',
  'False',
  'VariableName',
  'Identifier',
  'MemberExpression',
  'FieldExpression',
  'ParenthesizedExpression',
  'CallExpression',
  'UnaryExpression',
  'BinaryExpression',
  'ArrayExpression',
]);

/** Whether a part is an expression, or what should have been one. */
export const isExpr = ({ name }: SyntaxNode): boolean =>
  expressions.has(name) || /Expression$|^(FormatString|None|CharLiteral)$/.test(name);

/** Whether a statement has a place that its grammar does not know. */
export function broken(node: SyntaxNode): boolean {
  let found = false;
  node.cursor().iterate((part) => {
    if (part.type.isError) found = true;
    return !found;
  });
  return found;
}
