import type { SyntaxNode } from '@lezer/common';
import type { CompareOp, Expr, StateQuestion } from './ast.ts';
import type { Place } from './findings.ts';
import { colourWords, kindOf } from './kinds.ts';
import type { ExprReader } from './exprReader.ts';
import { truthOfWord } from './names.ts';
import { surfaceInstead } from './slips.ts';

const signs: Record<string, CompareOp> = { '≤': '<=', '≥': '>=', '!=': '<>', '≠': '<>', '==': '=' };
const spoken: readonly (readonly [RegExp, CompareOp])[] = [
  [/\b(more|greater|larger|bigger|higher)\b.*\bequal\b/, '>='],
  [/\b(less|smaller|fewer|lower)\b.*\bequal\b/, '<='],
  [/\bleast\b/, '>='],
  [/\bmost\b/, '<='],
  [/\bequal\b/, '='],
  [/\b(less|smaller|fewer|lower|below|under)\b/, '<'],
  [/./, '>'],
];
const turned: Record<CompareOp, CompareOp> = {
  '<': '>=',
  '<=': '>',
  '>': '<=',
  '>=': '<',
  '=': '<>',
  '<>': '=',
};

/** The sign of a comparison, however it is said: “<”, “≤”, “is less than”, “is not above”. */
export function signOf(words: string): CompareOp {
  const said = words
    .toLowerCase()
    .replace(/^is\s+/, '')
    .trim();
  if (/^\W+$/.test(said)) return signs[said] ?? (said as CompareOp);
  const op = spoken.find(([pattern]) => pattern.test(said))![1];
  return /^not\b/.test(said) ? turned[op] : op;
}

/** The part of a comparison that stands between its sides. */
const signNode = (node: SyntaxNode): SyntaxNode =>
  node.getChild('Compare') ?? node.getChild('Equals') ?? node.getChild('Than')!;

const isNegated = (node: SyntaxNode, reader: ExprReader) =>
  node.getChildren('Keyword').some((one) => reader.words(one).toLowerCase() === 'not');

/** The state words that may stand for a whole question: “seen = green”, “is red or green”. */
const stateWords = new Set(['pressed', 'released', 'bumped', 'nothing', 'yes', 'no', ...colourWords]);

/** A name that is no name here but what a sensor may be. */
const isState = (node: SyntaxNode, reader: ExprReader): boolean =>
  node.name === 'NameRef' &&
  stateWords.has(reader.words(node).toLowerCase()) &&
  !reader.isKnown(reader.name(node));

/** Reads `a < b`, and `seen = green`. */
export function readComparison(reader: ExprReader, node: SyntaxNode, at: Place): Expr {
  const [left, right] = reader.inner(node);
  return between(reader, left!, signNode(node), right!, node, at);
}

function between(
  reader: ExprReader,
  left: SyntaxNode,
  sign: SyntaxNode,
  right: SyntaxNode,
  node: SyntaxNode,
  at: Place,
): Expr {
  const op = signOf(reader.words(sign));
  const asksState =
    left.name === 'NameRef' && reader.sensorIndex(reader.name(left)) >= 0 && isState(right, reader);
  if (asksState && (op === '=' || op === '<>')) return asked(reader, left, right, op === '<>', at);
  const [a, b] = reader.matched(reader.expr(left), reader.expr(right));
  return reader.compared({ kind: 'compare', op, left: a, right: b, at }, node);
}

/** Reads `nose is pressed`, `seen is not green`, `front is nothing`, `found is yes`. */
export function readIs(reader: ExprReader, node: SyntaxNode, at: Place): Expr {
  const [subject] = reader.inner(node);
  return asked(reader, subject!, node.getChild('StateWord')!, isNegated(node, reader), at);
}

function asked(
  reader: ExprReader,
  subject: SyntaxNode,
  state: SyntaxNode,
  negated: boolean,
  at: Place,
): Expr {
  const question = ask(reader, subject, state, at);
  return negated ? { kind: 'not', operand: question, at } : question;
}

function ask(reader: ExprReader, subject: SyntaxNode, state: SyntaxNode, at: Place): Expr {
  if (subject.name !== 'NameRef') {
    return reader.fail(subject, 'sensor wanted', '“is” asks a sensor.', 'Compare numbers with <, > or =.');
  }
  const name = reader.name(subject);
  const word = reader.words(state).toLowerCase();
  const value = reader.sensorIndex(name) < 0 ? reader.valueIndex(name) : -1;
  if (value >= 0) return askValue(reader, subject, state, word);
  const index = reader.sensor(subject);
  return { kind: 'is', sensor: index, asks: stateOf(reader, index, state), at };
}

/** A value that holds yes or no is asked like a sensor; one that holds a number is compared. */
function askValue(reader: ExprReader, subject: SyntaxNode, state: SyntaxNode, word: string): Expr {
  const held = reader.expr(subject);
  const truth = truthOfWord(word);
  if (kindOf(held) === 'truth' && truth !== null)
    return truth ? held : { kind: 'not', operand: held, at: held.at };
  if (kindOf(held) === 'truth') {
    return reader.fail(
      state,
      'state',
      `“${reader.name(subject)}” is yes or no, never “${reader.words(state)}”.`,
      `Ask: if ${reader.name(subject)}, or: if not ${reader.name(subject)}.`,
    );
  }
  return reader.fail(
    subject,
    'sensor wanted',
    `“${reader.name(subject)}” is not a sensor.`,
    'Compare it with <, > or =.',
  );
}

function stateOf(reader: ExprReader, index: number, node: SyntaxNode): StateQuestion {
  const { kind, name } = reader.scope.sensors[index]!;
  const word = reader.words(node).toLowerCase();
  if (kind === 'touch') {
    if (word === 'pressed' || word === 'released' || word === 'bumped') return { of: 'touch', what: word };
    return reader.fail(
      node,
      'state',
      `A touch sensor is never “${reader.words(node)}”.`,
      'It is pressed, released or bumped.',
    );
  }
  if (word === 'nothing') return { of: 'nothing' };
  if (kind === 'colour') return { of: 'colour', what: reader.colour(node) };
  return reader.fail(
    node,
    'state',
    `“${name}” gives numbers and cannot be “${reader.words(node)}”.`,
    surfaceInstead(word, name) ?? `Compare it with a number, or ask: ${name} is nothing.`,
  );
}

/** What the last question in a test was about; null where that cannot be told. */
function subjectOf(node: SyntaxNode, reader: ExprReader): { node: SyntaxNode; negated: boolean } | null {
  const [first, second] = reader.inner(node);
  switch (node.name) {
    case 'And':
    case 'Or':
      return subjectOf(second!.name === 'Further' || isState(second!, reader) ? first! : second!, reader);
    case 'Paren':
    case 'Not':
      return subjectOf(first!, reader);
    case 'Is':
      return { node: first!, negated: isNegated(node, reader) };
    case 'Comparison':
    case 'Change':
      return { node: first!, negated: false };
    default:
      return null;
  }
}

/** Reads `a and b`, `a or b`, where the second may leave out what it is about: “front > 5 and < 20”, “seen is red or green”. */
export function readLogic(reader: ExprReader, node: SyntaxNode, at: Place): Expr {
  const [leftNode, rightNode] = reader.inner(node);
  const op = node.name === 'And' ? 'and' : 'or';
  const left = reader.truth(leftNode!);
  const further = rightNode!.name === 'Further';
  if (!further && !isState(rightNode!, reader))
    return { kind: 'logic', op, left, right: reader.truth(rightNode!), at };
  const about = subjectOf(leftNode!, reader);
  if (!about) {
    return reader.fail(
      rightNode!,
      'test wanted',
      `It is not said what “${reader.words(rightNode!)}” is about.`,
      'Write the name again, for example: front > 5 cm and front < 20 cm.',
    );
  }
  const place = reader.place(rightNode!);
  if (!further) {
    // “is not red or green” means neither of the two.
    const right = asked(reader, about.node, rightNode!, about.negated, place);
    return { kind: 'logic', op: about.negated ? 'and' : op, left, right, at };
  }
  const state = rightNode!.getChild('StateWord');
  const right = state
    ? asked(reader, about.node, state, isNegated(rightNode!, reader), place)
    : between(reader, about.node, signNode(rightNode!), reader.inner(rightNode!)[0]!, rightNode!, place);
  return { kind: 'logic', op, left, right, at };
}
