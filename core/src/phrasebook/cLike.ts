import type { SyntaxNode } from '@lezer/common';
import { parser } from '@lezer/cpp';
import {
  broken,
  childrenOf,
  DEEPEST,
  ForeignText,
  isExpr,
  type ForeignArm,
  type ForeignStep,
} from './foreign.ts';

type Unplaced<T> = T extends unknown ? Omit<T, 'line' | 'words'> : never;
type Bare = Unplaced<ForeignStep>;

class CReader {
  private readonly source: ForeignText;

  constructor(source: ForeignText) {
    this.source = source;
  }

  block(node: SyntaxNode | null, depth: number): ForeignStep[] {
    if (!node) return [];
    if (node.name !== 'CompoundStatement' && node.name !== 'Program') return this.step(node, depth);
    return childrenOf(node)
      .filter(({ name }) => name !== '{' && name !== '}')
      .flatMap((child) => this.step(child, depth));
  }

  private step(node: SyntaxNode, depth: number): ForeignStep[] {
    const at = { line: this.source.line(node.from), words: this.source.firstLine(node) };
    const holds = [
      'IfStatement',
      'WhileStatement',
      'ForStatement',
      'FunctionDefinition',
      'CompoundStatement',
    ];
    const lost = depth > DEEPEST || (!holds.includes(node.name) && broken(node));
    const found: Bare[] = lost ? [{ kind: 'other' }] : this.bare(node, depth);
    return found.map((one) => ({ ...at, ...one }));
  }

  private bare(node: SyntaxNode, depth: number): Bare[] {
    const parts = childrenOf(node);
    const other: Bare = { kind: 'other' };
    switch (node.name) {
      case 'LineComment':
      case 'BlockComment': {
        const text = this.source.words(node).replace(/^\/[/*]+\s?|\s*\*+\/$/g, '');
        return text.split('\n').map((line) => ({ kind: 'remark', text: line.trim() }));
      }
      case 'CompoundStatement':
        return this.block(node, depth + 1);
      case ';':
        return [{ kind: 'nothing' }];
      case 'Declaration':
        return this.declaration(node);
      case 'ExpressionStatement':
        return this.expression(node);
      case 'IfStatement':
        return [{ kind: 'if', arms: this.arms(node, depth) }];
      case 'WhileStatement': {
        const body = parts.at(-1)!;
        return [{ kind: 'while', test: this.condition(node), body: this.block(body, depth + 1) }];
      }
      case 'ForStatement':
        return [this.counting(node, depth)];
      case 'BreakStatement':
        return [{ kind: 'break' }];
      case 'ReturnStatement': {
        const value = parts.find(isExpr);
        return [!value || this.source.words(value) === '0' ? { kind: 'return' } : other];
      }
      case 'FunctionDefinition':
        return [this.definition(node, depth)];
      default:
        return [other];
    }
  }

  private declaration(node: SyntaxNode): Bare[] {
    const inits = node.getChildren('InitDeclarator');
    if (inits.length === 0) return node.getChild('Identifier') ? [{ kind: 'nothing' }] : [{ kind: 'other' }];
    return inits.map((init): Bare => {
      const [name, value] = [init.getChild('Identifier'), childrenOf(init).filter(isExpr).at(-1)];
      if (!name || !value || value.from === name.from) return { kind: 'other' };
      return { kind: 'assign', name: this.source.words(name), op: '', value: this.source.expr(value) };
    });
  }

  private expression(node: SyntaxNode): Bare[] {
    const inner = node.firstChild;
    if (!inner || this.source.words(node).trim() === ';') return [{ kind: 'nothing' }];
    const parts = childrenOf(inner);
    if (inner.name === 'AssignmentExpression') {
      const [name, sign, value] = parts.length === 3 ? parts : [parts[0], null, parts[1]];
      const op = sign ? (/^([-+*/])=$/.exec(this.source.words(sign))?.[1] ?? '?') : '';
      if (name?.name !== 'Identifier' || !value || op === '?') return [{ kind: 'other' }];
      return [
        { kind: 'assign', name: this.source.words(name), op: op as '', value: this.source.expr(value) },
      ];
    }
    if (inner.name === 'UpdateExpression') {
      const name = inner.getChild('Identifier');
      const sign = inner.getChild('UpdateOp');
      if (!name || !sign) return [{ kind: 'other' }];
      const op = this.source.words(sign) === '++' ? '+' : '-';
      return [{ kind: 'assign', name: this.source.words(name), op, value: { kind: 'number', value: '1' } }];
    }
    const call = this.source.expr(inner);
    return call.kind === 'call' ? [{ kind: 'call', call }] : [{ kind: 'other' }];
  }

  private condition(node: SyntaxNode) {
    const clause = node.getChild('ConditionClause');
    return this.source.expr(clause ? (childrenOf(clause).find(isExpr) ?? null) : null);
  }

  private arms(node: SyntaxNode, depth: number): ForeignArm[] {
    const parts = childrenOf(node);
    const clause = node.getChild('ConditionClause');
    const other = parts.findIndex(({ name }) => name === 'else');
    const bodyOf = (from: number, to: number) =>
      parts.slice(from, to).find(({ name }) => !/Comment$/.test(name)) ?? null;
    const from = clause ? parts.findIndex((part) => part.from === clause.from) + 1 : 1;
    const first: ForeignArm = {
      line: this.source.line(node.from),
      test: this.condition(node),
      words: `if ${clause ? this.source.words(clause).replace(/\s+/g, ' ') : ''}`,
      body: this.block(bodyOf(from, other < 0 ? parts.length : other), depth + 1),
    };
    if (other < 0) return [first];
    const rest = bodyOf(other + 1, parts.length);
    const line = this.source.line(parts[other]!.from);
    if (rest?.name === 'IfStatement' && depth < DEEPEST) {
      const [next, ...more] = this.arms(rest, depth + 1);
      return [first, { ...next!, line, words: `else ${next!.words}` }, ...more];
    }
    return [first, { line, test: null, words: 'else', body: this.block(rest, depth + 1) }];
  }

  /** `for (int i = 0; i < n; i++)` counts; any other is not carried over. */
  private counting(node: SyntaxNode, depth: number): Bare {
    const parts = childrenOf(node);
    const body = parts.at(-1)!;
    const [start] = node.getChild('Declaration') ? this.declaration(node.getChild('Declaration')!) : [];
    const test = this.source.expr(node.getChild('BinaryExpression'));
    const update = node.getChild('UpdateExpression');
    const counts =
      start?.kind === 'assign' &&
      start.value.kind === 'number' &&
      Number(start.value.value) === 0 &&
      test.kind === 'binary' &&
      test.op === '<' &&
      test.left.kind === 'name' &&
      test.left.name === start.name &&
      update !== null &&
      this.source.words(update).replace(/\s/g, '').replace('++', '') === start.name;
    if (!counts) {
      const endless =
        !node.getChild('Declaration') &&
        test.kind === 'other' &&
        !update &&
        !node.getChild('AssignmentExpression');
      if (!endless) return { kind: 'other' };
      return { kind: 'while', test: { kind: 'truth', value: true }, body: this.block(body, depth + 1) };
    }
    return { kind: 'count', counter: start.name, times: test.right, body: this.block(body, depth + 1) };
  }

  private definition(node: SyntaxNode, depth: number): Bare {
    const head = node.getChild('FunctionDeclarator');
    const name = head?.getChild('Identifier');
    const list = head?.getChild('ParameterList');
    if (!name) return { kind: 'other' };
    const parameters = (list?.getChildren('ParameterDeclaration') ?? [])
      .map((one) => one.getChild('Identifier'))
      .filter((one) => one !== null)
      .map((one) => this.source.words(one));
    const body = this.block(node.getChild('CompoundStatement'), depth + 1);
    return { kind: 'function', name: this.source.words(name), parameters, body };
  }
}

/** Reads a program in C-like syntax. */
export function readC(text: string): ForeignStep[] {
  return new CReader(new ForeignText(text)).block(parser.parse(text).topNode, 0);
}

/** The expression that a pattern in C-like syntax is. */
export function cExpr(text: string): SyntaxNode | null {
  const wrapped = parser.parse(`void f(){${text};}`);
  const body = wrapped.topNode.firstChild?.getChild('CompoundStatement');
  const [, statement, end] = body ? childrenOf(body) : [];
  if (statement?.name !== 'ExpressionStatement' || end?.name !== '}' || broken(statement)) return null;
  return statement.firstChild;
}
