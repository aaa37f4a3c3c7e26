import type { SyntaxNode } from '@lezer/common';
import { parser } from '@lezer/python';
import {
  broken,
  childrenOf,
  DEEPEST,
  ForeignText,
  isExpr,
  type ForeignArm,
  type ForeignExpr,
  type ForeignParameter,
  type ForeignStep,
} from './foreign.ts';

const zero: ForeignExpr = { kind: 'number', value: '0' };

/** What `range(…)` counts from and to, and by how much; null where that is not a plain number. */
function bounds(args: readonly ForeignExpr[]): { from: ForeignExpr; to: ForeignExpr; by: number } | null {
  const [first, second, third] = args;
  if (!first || args.length > 3) return null;
  if (!second) return { from: zero, to: first, by: 1 };
  if (!third) return { from: first, to: second, by: 1 };
  const [sign, number] = third.kind === 'unary' && third.op === '-' ? [-1, third.operand] : [1, third];
  const by = number.kind === 'number' ? sign * Number(number.value) : 0;
  return by === 0 ? null : { from: first, to: second, by };
}

class PythonReader {
  private readonly source: ForeignText;

  constructor(source: ForeignText) {
    this.source = source;
  }

  block(node: SyntaxNode | null, depth: number): ForeignStep[] {
    if (!node) return [];
    return childrenOf(node)
      .filter(({ name }) => name !== ':' && name !== ';')
      .flatMap((child) => this.step(child, depth));
  }

  private step(node: SyntaxNode, depth: number): ForeignStep[] {
    const at = { line: this.source.line(node.from), words: this.source.firstLine(node) };
    const other: ForeignStep = { ...at, kind: 'other', text: this.source.words(node) };
    if (depth > DEEPEST) return [other];
    const parts = childrenOf(node);
    const holds = [
      'IfStatement',
      'WhileStatement',
      'ForStatement',
      'FunctionDefinition',
      'TryStatement',
    ].includes(node.name);
    // A slip inside a block is the inner statement's own; anywhere else the whole statement is not understood.
    if (!holds && node.name !== 'StatementGroup' && broken(node)) return [other];
    switch (node.name) {
      case 'StatementGroup':
        return this.block(node, depth);
      case 'Comment':
        return [{ ...at, kind: 'remark', text: this.source.words(node).replace(/^#\s?/, '') }];
      case 'PassStatement':
      case 'ScopeStatement':
        return [{ ...at, kind: 'nothing' }];
      // What is needed to find words elsewhere does nothing itself.
      case 'ImportStatement':
        return [{ ...at, kind: 'remark', text: this.source.words(node) }];
      case 'TryStatement':
        return this.heads(node, depth);
      case 'ExpressionStatement': {
        const call = this.source.expr(node.firstChild);
        return call.kind === 'call' ? [{ ...at, kind: 'call', call }] : [other];
      }
      case 'AssignStatement': {
        const [name, sign, value] = parts.filter((part) => part.name !== 'TypeDef');
        const three = parts.filter((part) => part.name !== 'TypeDef').length === 3;
        if (name?.name !== 'VariableName' || sign?.name !== 'AssignOp' || !three) return [other];
        return [
          { ...at, kind: 'assign', name: this.source.words(name), op: '', value: this.source.expr(value!) },
        ];
      }
      case 'UpdateStatement': {
        const [name, sign, value] = parts;
        const op = sign && /^([-+*/])=$/.exec(this.source.words(sign))?.[1];
        if (name?.name !== 'VariableName' || !op || !value) return [other];
        return [
          {
            ...at,
            kind: 'assign',
            name: this.source.words(name),
            op: op as '+',
            value: this.source.expr(value),
          },
        ];
      }
      case 'IfStatement':
        return [{ ...at, kind: 'if', arms: this.arms(parts, depth) }];
      case 'WhileStatement': {
        const test = parts.find(isExpr) ?? null;
        if (parts.some(({ name }) => name === 'else')) return this.heads(node, depth);
        return [
          {
            ...at,
            kind: 'while',
            test: this.source.expr(test),
            body: this.block(node.getChild('Body'), depth + 1),
          },
        ];
      }
      case 'ForStatement': {
        const counter = node.getChild('VariableName');
        const range = this.source.expr(node.getChild('CallExpression'));
        const counting =
          counter && range.kind === 'call' && range.name === 'range' ? bounds(range.args) : null;
        if (!counter || !counting || parts.some(({ name }) => name === 'else'))
          return this.heads(node, depth);
        const body = this.block(node.getChild('Body'), depth + 1);
        return [
          { ...at, kind: 'count', counter: this.source.words(counter), ...counting, reaches: false, body },
        ];
      }
      case 'BreakStatement':
        return [{ ...at, kind: 'break' }];
      case 'ReturnStatement':
        return [{ ...at, kind: 'return', value: parts.length === 1 ? null : this.source.expr(parts[1]!) }];
      case 'FunctionDefinition': {
        const list = node.getChild('ParamList');
        const parameters = list && this.parameters(list);
        const name = node.getChild('VariableName');
        if (!name || !parameters) return this.heads(node, depth);
        return [
          {
            ...at,
            kind: 'function',
            name: this.source.words(name),
            parameters,
            body: this.block(node.getChild('Body'), depth + 1),
          },
        ];
      }
      default:
        return [other];
    }
  }

  /** What a function is given; null where a list has more than names with what they usually are. */
  private parameters(list: SyntaxNode): ForeignParameter[] | null {
    const found: ForeignParameter[] = [];
    const parts = childrenOf(list);
    for (let i = 0; i < parts.length; i++) {
      const part = parts[i]!;
      if (['(', ')', ',', 'TypeDef'].includes(part.name)) continue;
      if (part.name === 'AssignOp' && found.length > 0) found.at(-1)!.usual = this.source.expr(parts[++i]!);
      else if (part.name === 'VariableName') found.push({ name: this.source.words(part), usual: null });
      else return null;
    }
    return found;
  }

  /** A block whose head is not known: its heads stand as they were typed, and what they hold is read all the same. */
  private heads(node: SyntaxNode, depth: number): ForeignStep[] {
    const found: ForeignStep[] = [];
    let from = node.from;
    for (const part of childrenOf(node)) {
      if (part.name !== 'Body') continue;
      const words = this.source.words({ from, to: part.from + 1 }).trim();
      found.push({ line: this.source.line(from), words, kind: 'other', text: words });
      found.push(...this.block(part, depth + 1));
      from = part.to;
      while (/\s/.test(this.source.words({ from, to: from + 1 }))) from++;
    }
    return found;
  }

  private arms(parts: SyntaxNode[], depth: number): ForeignArm[] {
    const arms: ForeignArm[] = [];
    let head: SyntaxNode | null = null;
    let test: SyntaxNode | null = null;
    for (const part of parts) {
      if (['if', 'elif', 'else'].includes(part.name)) [head, test] = [part, null];
      else if (part.name === 'Body' && head) {
        const words = this.source.words({ from: head.from, to: part.from }).trim();
        const body = this.block(part, depth + 1);
        const asked = head.name === 'else' ? null : this.source.expr(test);
        arms.push({ line: this.source.line(head.from), test: asked, words, body });
      } else if (isExpr(part)) test = part;
    }
    return arms;
  }
}

/** Reads a program in Python-like syntax. */
export function readPython(text: string): ForeignStep[] {
  return new PythonReader(new ForeignText(text)).block(parser.parse(text).topNode, 0);
}

/** The expression that a pattern in Python-like syntax is. */
export function pythonExpr(text: string): SyntaxNode | null {
  const statement = parser.parse(text).topNode.firstChild;
  if (statement?.name !== 'ExpressionStatement' || statement.nextSibling || broken(statement)) return null;
  return statement.firstChild;
}
