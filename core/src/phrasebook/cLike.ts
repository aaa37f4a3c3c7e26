import type { SyntaxNode } from '@lezer/common';
import { parser } from '@lezer/cpp';
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
      'DoStatement',
      'TryStatement',
    ];
    const lost = depth > DEEPEST || (!holds.includes(node.name) && broken(node));
    if (node.name === 'TryStatement') return this.tried(node, depth);
    const text = this.source.words(node);
    const found: Bare[] = lost ? [{ kind: 'other', text }] : this.bare(node, depth);
    // A block whose head is not known is read all the same.
    if (
      found[0]?.kind === 'other' &&
      found.length === 1 &&
      ['ForStatement', 'WhileStatement'].includes(node.name) &&
      !lost
    )
      return this.headed(node, depth);
    return found.map((one) => ({ ...at, ...one }));
  }

  private bare(node: SyntaxNode, depth: number): Bare[] {
    const parts = childrenOf(node);
    const other: Bare = { kind: 'other', text: this.source.words(node) };
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
      case 'DoStatement': {
        const asked = node.getChild('ParenthesizedExpression');
        const body = this.block(node.getChild('CompoundStatement'), depth + 1);
        return [{ kind: 'doWhile', test: this.source.expr(asked), body }];
      }
      case 'PreprocDirective':
        return this.directive(node);
      case 'BreakStatement':
        return [{ kind: 'break' }];
      case 'ReturnStatement': {
        const value = parts.find(isExpr);
        return [{ kind: 'return', value: value ? this.source.expr(value) : null }];
      }
      case 'FunctionDefinition':
        return [this.definition(node, depth)];
      default:
        return [other];
    }
  }

  private declaration(node: SyntaxNode): Bare[] {
    const inits = node.getChildren('InitDeclarator');
    const other: Bare = { kind: 'other', text: this.source.words(node) };
    if (inits.length === 0) return [node.getChild('Identifier') ? { kind: 'nothing' } : other];
    return inits.map((init): Bare => {
      const [name, value] = [init.getChild('Identifier'), childrenOf(init).filter(isExpr).at(-1)];
      if (!name || !value || value.from === name.from) return other;
      return { kind: 'assign', name: this.source.words(name), op: '', value: this.source.expr(value) };
    });
  }

  private expression(node: SyntaxNode): Bare[] {
    const inner = node.firstChild;
    if (!inner || this.source.words(node).trim() === ';') return [{ kind: 'nothing' }];
    const parts = childrenOf(inner);
    const other: Bare = { kind: 'other', text: this.source.words(node) };
    const chosen = inner.name === 'ConditionalExpression' ? this.chosen(node) : null;
    if (chosen) return [chosen];
    if (inner.name === 'AssignmentExpression') {
      const [name, sign, value] = parts.length === 3 ? parts : [parts[0], null, parts[1]];
      const op = sign ? (/^([-+*/])=$/.exec(this.source.words(sign))?.[1] ?? '?') : '';
      if (name?.name !== 'Identifier' || !value || op === '?') return [other];
      return [
        { kind: 'assign', name: this.source.words(name), op: op as '', value: this.source.expr(value) },
      ];
    }
    if (inner.name === 'UpdateExpression') {
      const name = inner.getChild('Identifier');
      const sign = inner.getChild('UpdateOp');
      if (!name || !sign) return [other];
      const op = this.source.words(sign) === '++' ? '+' : '-';
      return [{ kind: 'assign', name: this.source.words(name), op, value: { kind: 'number', value: '1' } }];
    }
    const call = this.source.expr(inner);
    return [call.kind === 'call' ? { kind: 'call', call } : other];
  }

  /** `x = a > 2 ? 3 : 4`: the grammar takes the assignment for a part of the test, so that its right side is read by itself. */
  private chosen(node: SyntaxNode): Bare | null {
    const [, name, right] = /^\s*([A-Za-z_]\w*)\s*=(?!=)([^]*?);?\s*$/.exec(this.source.words(node)) ?? [];
    if (!name || !right) return null;
    const text = `void f(){(${right});}`;
    const statement = cExpr(`(${right})`);
    return statement ? { kind: 'assign', name, op: '', value: new ForeignText(text).expr(statement) } : null;
  }

  /** `#define` names a number; what else is told to the compiler does nothing itself. */
  private directive(node: SyntaxNode): Bare[] {
    const text = this.source.words(node).trim();
    const [, name, value] =
      /^#\s*define\s+([A-Za-z_]\w*)\s+(-?[\d.]+)[fFlLuU]*\s*(?:\/\/.*)?$/.exec(text) ?? [];
    if (name && value) {
      const negative = value.startsWith('-');
      const number: ForeignExpr = { kind: 'number', value: value.replace('-', '') };
      return [
        {
          kind: 'assign',
          name,
          op: '',
          value: negative ? { kind: 'unary', op: '-', operand: number } : number,
        },
      ];
    }
    return /^#\s*(include|pragma|ifndef|ifdef|endif)\b/.test(text)
      ? [{ kind: 'remark', text }]
      : [{ kind: 'other', text }];
  }

  /** A block whose head is not known: it stands as it was typed, and what it holds is read all the same. */
  private headed(node: SyntaxNode, depth: number): ForeignStep[] {
    const body = childrenOf(node).at(-1)!;
    const words = this.source.words({ from: node.from, to: body.from }).trim();
    const line = this.source.line(node.from);
    return [{ line, words, kind: 'other', text: `${words} {` }, ...this.block(body, depth + 1)];
  }

  private tried(node: SyntaxNode, depth: number): ForeignStep[] {
    const found: ForeignStep[] = [];
    const head = (words: string, at: number) =>
      found.push({ line: this.source.line(at), words, kind: 'other', text: words });
    head('try {', node.from);
    found.push(...this.block(node.getChild('CompoundStatement'), depth + 1));
    for (const clause of node.getChildren('CatchClause')) {
      const body = clause.getChild('CompoundStatement');
      head(this.source.words({ from: clause.from, to: body?.from ?? clause.to }).trim(), clause.from);
      found.push(...this.block(body, depth + 1));
    }
    return found;
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

  /** `for (int i = 1; i <= n; i += 2)` counts, `for (;;)` goes on; any other is not carried over. */
  private counting(node: SyntaxNode, depth: number): Bare {
    const parts = childrenOf(node);
    const body = parts.at(-1)!;
    const declared = node.getChild('Declaration');
    const assigned = node.getChildren('AssignmentExpression');
    const [start] = declared ? this.declaration(declared) : [];
    const begins =
      start?.kind === 'assign' ? start : !declared && assigned[0] ? this.setting(assigned[0]) : null;
    const test = this.source.expr(node.getChild('BinaryExpression'));
    const by = begins && this.stepOf(node, begins.name);
    const signs = by && by > 0 ? ['<', '<='] : ['>', '>='];
    const counts =
      begins &&
      by &&
      test.kind === 'binary' &&
      signs.includes(test.op) &&
      test.left.kind === 'name' &&
      test.left.name === begins.name;
    if (counts) {
      const { name: counter, value: from } = begins;
      const reaches = test.op.endsWith('=');
      return { kind: 'count', counter, from, to: test.right, reaches, by, body: this.block(body, depth + 1) };
    }
    const endless =
      !declared && test.kind === 'other' && !node.getChild('UpdateExpression') && assigned.length === 0;
    if (!endless) return { kind: 'other', text: this.source.words(node) };
    return { kind: 'while', test: { kind: 'truth', value: true }, body: this.block(body, depth + 1) };
  }

  private setting(node: SyntaxNode): { name: string; value: ForeignExpr } | null {
    const [name, value] = childrenOf(node);
    if (name?.name !== 'Identifier' || !value || value.name === 'UpdateOp') return null;
    return { name: this.source.words(name), value: this.source.expr(value) };
  }

  /** By how much a loop counts on; 0 where that is not a plain number. */
  private stepOf(node: SyntaxNode, counter: string): number {
    const last = childrenOf(node).findLast(
      ({ name }) => name === 'UpdateExpression' || name === 'AssignmentExpression',
    );
    const words = last ? this.source.words(last).replace(/\s/g, '') : '';
    if ([`${counter}++`, `++${counter}`].includes(words)) return 1;
    if ([`${counter}--`, `--${counter}`].includes(words)) return -1;
    const [, name, sign, by] = /^(\w+)([-+])=(\d+(?:\.\d+)?)$/.exec(words) ?? [];
    return name === counter ? (sign === '-' ? -1 : 1) * Number(by) : 0;
  }

  private definition(node: SyntaxNode, depth: number): Bare {
    const head = node.getChild('FunctionDeclarator');
    const name = head?.getChild('Identifier');
    const list = head?.getChild('ParameterList');
    if (!name) return { kind: 'other', text: this.source.words(node) };
    const parameters = (list ? childrenOf(list) : []).flatMap((one): ForeignParameter[] => {
      const own = /^(Optional)?ParameterDeclaration$/.test(one.name) ? one.getChild('Identifier') : null;
      if (!own) return [];
      const usual = one.name.startsWith('Optional') ? (childrenOf(one).filter(isExpr).at(-1) ?? null) : null;
      return [{ name: this.source.words(own), usual: usual && this.source.expr(usual) }];
    });
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
