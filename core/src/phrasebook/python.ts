import type { SyntaxNode } from '@lezer/common';
import { parser } from '@lezer/python';
import {
  broken,
  childrenOf,
  DEEPEST,
  ForeignText,
  isExpr,
  type ForeignArm,
  type ForeignStep,
} from './foreign.ts';

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
    const other: ForeignStep = { ...at, kind: 'other' };
    if (depth > DEEPEST) return [other];
    const parts = childrenOf(node);
    const holds = ['IfStatement', 'WhileStatement', 'ForStatement', 'FunctionDefinition'].includes(node.name);
    // A slip inside a block is the inner statement's own; anywhere else the whole statement is not understood.
    if (!holds && node.name !== 'StatementGroup' && broken(node)) return [other];
    switch (node.name) {
      case 'StatementGroup':
        return this.block(node, depth);
      case 'Comment':
        return [{ ...at, kind: 'remark', text: this.source.words(node).replace(/^#\s?/, '') }];
      case 'PassStatement':
        return [{ ...at, kind: 'nothing' }];
      case 'ExpressionStatement': {
        const call = this.source.expr(node.firstChild);
        return call.kind === 'call' ? [{ ...at, kind: 'call', call }] : [other];
      }
      case 'AssignStatement': {
        const [name, sign, value] = parts;
        if (name?.name !== 'VariableName' || sign?.name !== 'AssignOp' || parts.length !== 3) return [other];
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
        if (parts.some(({ name }) => name === 'else')) return [other];
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
        if (!counter || range.kind !== 'call' || range.name !== 'range' || range.args.length !== 1)
          return [other];
        const body = this.block(node.getChild('Body'), depth + 1);
        return [{ ...at, kind: 'count', counter: this.source.words(counter), times: range.args[0]!, body }];
      }
      case 'BreakStatement':
        return [{ ...at, kind: 'break' }];
      case 'ReturnStatement':
        return parts.length === 1 ? [{ ...at, kind: 'return' }] : [other];
      case 'FunctionDefinition': {
        const list = node.getChild('ParamList');
        const names = list ? childrenOf(list).filter(({ name }) => !['(', ')', ','].includes(name)) : [];
        const name = node.getChild('VariableName');
        if (!name || names.some((one) => one.name !== 'VariableName')) return [other];
        const parameters = names.map((one) => this.source.words(one));
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
