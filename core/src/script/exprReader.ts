import type { SyntaxNode } from '@lezer/common';
import type { Expr } from './ast.ts';
import { Matching } from './matching.ts';
import type { Span } from './names.ts';

/** What reads the expressions of a line: each kind of expression may hold any other. */
export abstract class ExprReader extends Matching {
  /** Reads an expression. */
  abstract expr(node: SyntaxNode): Expr;
  /** An expression that is true or false. */
  abstract truth(node: SyntaxNode): Expr;
  /** The parts of a node that mean something. */
  abstract inner(node: SyntaxNode): SyntaxNode[];
  /** A comparison whose sides go together. */
  abstract compared(expr: Extract<Expr, { kind: 'compare' }>, node: Span): Expr;
  /** The name of a colour. */
  abstract colour(node: SyntaxNode): string;
}
