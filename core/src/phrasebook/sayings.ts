import { keywords } from '../script/index.ts';
import { units, type Unit } from '../quantity/index.ts';
import type { ForeignExpr, ForeignParameter, ForeignStep } from './foreign.ts';
import { matchPhrase, readPhrase, type Phrasebook, type ReadPhrase } from './phrases.ts';

/** Thrown inside the carrier for what it does not know; caught at the statement. */
export class Unknown extends Error {}

const plainName = (name: string): string => {
  const plain = name.replaceAll('.', ' ').replace(/_+/g, ' ').trim();
  const words = plain
    .split(' ')
    .map((word) =>
      keywords.includes(word.toLowerCase()) && !/^(left|right)$/i.test(word) ? `${word}1` : word,
    );
  return words.join(' ') || 'value';
};

/** An own step may be called by any words but “by”. */
export const taskName = (name: string): string =>
  name
    .replaceAll('.', ' ')
    .split(/[_ ]+/)
    .filter(Boolean)
    .map((word) => (word.toLowerCase() === 'by' ? 'by1' : word))
    .join(' ') || 'step';

/** How tightly each operator binds in the script: what binds looser needs brackets inside what binds tighter. */
const binding: Record<string, number> = { or: 1, and: 2, not: 3, '+': 5, '-': 5, '*': 6, '/': 6 };
const bindingOf = (op: string) => binding[op] ?? 4;
const asks = new Set(['=', '<>', '<', '<=', '>', '>=', 'and', 'or']);

/** Functions that the script has under the same name, and those of lists. */
const functions = new Set(['abs', 'min', 'max', 'round']);
const ofList: Record<string, string> = { len: 'count', min: 'smallest', max: 'largest', sum: 'sum' };

/** A function of the pasted program as an own step. */
export interface OwnFunction {
  name: string;
  parameters: readonly ForeignParameter[];
  /** Whether it gives back yes or no; null where it gives nothing back. */
  gives: 'truth' | 'number' | null;
}

/** What a constant's uses have said of its unit. */
export type UnitUses = Map<string, Set<string>>;

/** Says the expressions of a pasted program in the script's words, as far as its phrasebook and its own names reach. */
export class Sayings {
  readonly tasks = new Map<string, OwnFunction>();
  /** Names of the program's values, as the script writes them, with what each is set to at the start. */
  readonly values = new Map<string, string>();
  readonly lists = new Set<string>();
  /** Values that hold yes or no. */
  readonly truths = new Set<string>();
  readonly unitUses: UnitUses = new Map();
  parameters: readonly string[] = [];
  /** Steps that must be done before the statement whose expression is being said; null where there is no place for them. */
  before: string[] | null = null;
  private readonly phrases: ReadPhrase[];
  private readonly taken: ReadonlySet<string>;
  private readonly units: ReadonlyMap<string, string>;

  constructor(book: Phrasebook, constantUnits: ReadonlyMap<string, string>) {
    this.units = constantUnits;
    this.phrases = book.phrases
      .map((phrase) => readPhrase(phrase, book.syntax))
      .filter((read) => typeof read !== 'string');
    this.taken = new Set(book.declares.map((line) => declaredName(line).toLowerCase()));
  }

  /** A name as the script may call it: not by a key word, not as a sensor is called. */
  own(name: string): string {
    const plain = plainName(name);
    return this.taken.has(plain.toLowerCase()) ? `${plain} value` : plain;
  }

  /** What a value begins with so that it keeps the kind of its uses. */
  initial(name: string, said: string): string {
    const unit = this.units.get(name);
    return unit && /^-?[\d.]+$/.test(said) ? `${said} ${unit}` : said;
  }

  /** What the phrasebook says for a call or a name; null when it has no such phrase. */
  phrase(expr: ForeignExpr): string | null {
    for (const { pattern, says } of this.phrases) {
      const holes = matchPhrase(pattern, expr);
      if (!holes) continue;
      return says
        .trim()
        .replace(
          /\$([a-z]\w*)(\s*)(%|[a-zA-Z]+\b)?/g,
          (all, hole: string, gap: string, unit: string = '') => {
            const value = holes.get(hole);
            if (!value) return all;
            const measured = /^(%|mm|cm|in|deg|turns?|s|ms|Hz)$/.test(unit);
            const plain = unit === '%' && !/[<>=]/.test(says);
            return measured ? this.measured(value, unit, gap, plain) : `${this.expr(value)}${gap}${unit}`;
          },
        );
    }
    return null;
  }

  /** A value where a phrase gives it a unit: a number takes it, a constant has it, what is worked out is taken so many times one of it. */
  private measured(value: ForeignExpr, unit: string, gap: string, plain: boolean): string {
    const said = this.expr(value);
    if (/^-?[\d.]+$/.test(said)) return `${said}${gap}${unit}`;
    if (value.kind === 'name')
      this.unitUses.set(value.name, (this.unitUses.get(value.name) ?? new Set()).add(unit));
    // A speed may be a plain number.
    const has = plain || namesIn(value).some((name) => sameKind(this.units.get(name), unit));
    return has ? (value.kind === 'name' ? said : `(${said})`) : `(${said}) * 1 ${unit}`;
  }

  /** Whether an expression is yes or no. */
  isTruth(expr: ForeignExpr): boolean {
    switch (expr.kind) {
      case 'truth':
        return true;
      case 'binary':
        return asks.has(expr.op);
      case 'unary':
        return expr.op === 'not';
      case 'name':
        return this.truths.has(this.own(expr.name)) || this.saysQuestion(expr);
      case 'call':
        return this.tasks.get(expr.name)?.gives === 'truth' || this.saysQuestion(expr);
      default:
        return false;
    }
  }

  private saysQuestion(expr: ForeignExpr): boolean {
    const { before } = this;
    try {
      return /\bis\b|[<>=]|\bheard\b/.test(this.phrase(expr) ?? '');
    } catch {
      return false;
    } finally {
      this.before = before;
    }
  }

  /** A test: a number counts as yes where it is not 0, as it does there. */
  truth(expr: ForeignExpr): string {
    switch (expr.kind) {
      case 'number':
        return Number(expr.value) === 0 ? 'no' : 'yes';
      case 'unary':
        if (expr.op === '-') return `${this.expr(expr)} <> 0`;
        if (!this.isTruth(expr.operand)) return `${this.within(expr.operand, 5)} = 0`;
        return `not ${this.bracketed(expr.operand, 3)}`;
      case 'binary':
        if (expr.op === 'and' || expr.op === 'or') {
          const level = bindingOf(expr.op);
          return `${this.bracketed(expr.left, level)} ${expr.op} ${this.bracketed(expr.right, level)}`;
        }
        return asks.has(expr.op) ? this.expr(expr) : `${this.within(expr, 5)} <> 0`;
      default:
        return this.isTruth(expr) ? this.expr(expr) : `${this.within(expr, 5)} <> 0`;
    }
  }

  /** A test inside another one. */
  private bracketed(expr: ForeignExpr, level: number): string {
    const said = this.truth(expr);
    const own = expr.kind === 'binary' && (expr.op === 'and' || expr.op === 'or') ? bindingOf(expr.op) : 9;
    return own < level ? `(${said})` : said;
  }

  /** What an operand says, in brackets where it binds looser than what it stands in. */
  within(expr: ForeignExpr, level: number): string {
    const said = this.expr(expr);
    const own =
      expr.kind === 'binary'
        ? ['%', '//'].includes(expr.op)
          ? 9
          : bindingOf(expr.op)
        : expr.kind === 'unary' && expr.op === 'not'
          ? 3
          : 9;
    return own < level ? `(${said})` : said;
  }

  expr(expr: ForeignExpr): string {
    const said = expr.kind === 'call' || expr.kind === 'name' ? this.phrase(expr) : null;
    if (said !== null) return said;
    switch (expr.kind) {
      case 'number':
        return expr.value;
      case 'text':
        return `"${expr.value}"`;
      case 'joined':
        return expr.parts.map((part) => this.shown(part)).join(' and ') || '""';
      case 'truth':
        return expr.value ? 'yes' : 'no';
      case 'name':
        return this.name(expr.name);
      case 'call':
        return this.call(expr);
      case 'index': {
        const own = this.own(expr.name);
        if (!this.lists.has(own)) throw new Unknown(`“${expr.name}[…]” is no list that was begun with [].`);
        const { at } = expr;
        return at.kind === 'number'
          ? `item ${Number(at.value) + 1} of ${own}`
          : `item (${this.within(at, 5)} + 1) of ${own}`;
      }
      case 'unary':
        return expr.op === '-' ? `-${this.within(expr.operand, 9)}` : this.truth(expr);
      case 'binary':
        return this.binary(expr);
      case 'choice':
        throw new Unknown('A choice between two stands in a line of its own: x = a if b else c.');
      case 'emptyList':
        throw new Unknown('A list is begun in a line of its own: x = [].');
      case 'other':
        throw new Unknown(`“${expr.text}” is no step that can be carried over.`);
    }
  }

  /** A part of a text that is shown. */
  private shown(part: ForeignExpr): string {
    return part.kind === 'binary' && !isText(part) ? `(${this.expr(part)})` : this.expr(part);
  }

  private name(name: string): string {
    const own = this.own(name);
    if (this.values.has(own) || this.parameters.includes(name)) return own;
    throw new Unknown(`The phrasebook does not know “${name}”.`);
  }

  private binary(expr: Extract<ForeignExpr, { kind: 'binary' }>): string {
    const { op, left, right } = expr;
    if (op === '+' && (isText(left) || isText(right))) return `${this.shown(left)} and ${this.shown(right)}`;
    if (op === '%') return `remainder(${this.expr(left)}, ${this.expr(right)})`;
    if (op === '//') return `floor(${this.within(left, 6)} / ${this.within(right, 7)})`;
    if (op === 'and' || op === 'or') return this.truth(expr);
    const level = bindingOf(op);
    // Two comparisons, or a difference on the right, stand by themselves.
    return `${this.within(left, level === 4 ? 5 : level)} ${op} ${this.within(right, level + 1)}`;
  }

  private call(expr: Extract<ForeignExpr, { kind: 'call' }>): string {
    const { name, args } = expr;
    const [first] = args;
    const list = first?.kind === 'name' && args.length === 1 ? this.own(first.name) : '';
    if (ofList[name] && this.lists.has(list)) return `${ofList[name]} of ${list}`;
    if (functions.has(name)) return `${name}(${args.map((arg) => this.expr(arg)).join(', ')})`;
    if ((name === 'str' || name === 'int' || name === 'float') && first && args.length === 1)
      return name === 'int' ? `floor(${this.expr(first)})` : this.expr(first);
    if (/^(random\.)?(randint|uniform)$/.test(name) && args.length === 2)
      return `random from ${this.within(first!, 5)} to ${this.within(args[1]!, 5)}`;
    if (this.tasks.has(name)) return this.given(expr);
    throw new Unknown(`The phrasebook does not know “${name}”.`);
  }

  /** What a function of the program gives back, asked for in a step of its own before. */
  private given(expr: Extract<ForeignExpr, { kind: 'call' }>): string {
    const { before } = this;
    const task = this.tasks.get(expr.name)!;
    if (!before || task.gives === null)
      throw new Unknown(`What “${expr.name}” gives back has no place here: put it into a value first.`);
    let held = `${task.name} gave`;
    for (let i = 2; before.some((line) => line.startsWith(`set ${held} to `)); i++)
      held = `${task.name} gave ${i}`;
    this.holds(held, task.gives);
    before.push(`set ${held} to ${this.done(expr)}`);
    return held;
  }

  /** A value that takes what an own step gives back. */
  holds(own: string, gives: 'truth' | 'number'): void {
    if (!this.values.has(own)) this.values.set(own, gives === 'truth' ? 'no' : '0');
    if (gives === 'truth') this.truths.add(own);
  }

  /** `do … by …` for a call of one of the program's own functions. */
  done({ name, args }: Extract<ForeignExpr, { kind: 'call' }>): string {
    const task = this.tasks.get(name)!;
    const wanted = task.parameters.length;
    const usual = task.parameters.slice(args.length).map((one) => one.usual);
    if (args.length > wanted || usual.some((one) => one === null))
      throw new Unknown(`“${name}” takes ${wanted}, but ${args.length} are given.`);
    const given = [...args, ...(usual as ForeignExpr[])].map((arg) => this.expr(arg)).join(', ');
    return `do ${task.name}${given && ` by ${given}`}`;
  }
}

const isText = (expr: ForeignExpr): boolean =>
  expr.kind === 'text' ||
  expr.kind === 'joined' ||
  (expr.kind === 'call' && expr.name === 'str') ||
  (expr.kind === 'binary' && expr.op === '+' && (isText(expr.left) || isText(expr.right)));

/** The names that an expression is made of. */
export function namesIn(expr: ForeignExpr): string[] {
  switch (expr.kind) {
    case 'name':
      return [expr.name];
    case 'call':
      return expr.args.flatMap(namesIn);
    case 'unary':
      return namesIn(expr.operand);
    case 'binary':
      return [...namesIn(expr.left), ...namesIn(expr.right)];
    default:
      return [];
  }
}

const sameKind = (a: string | undefined, b: string): boolean =>
  a !== undefined && kindOfUnit(a) !== null && kindOfUnit(a) === kindOfUnit(b);
const kindOfUnit = (unit: string) => units[(unit === 'turn' ? 'turns' : unit) as Unit]?.kind ?? null;

/** The name that a declaration declares; '' where it declares a turret. */
export const declaredName = (declaration: string): string =>
  /^\s*(?:sensor|motor)\s+(.*?)\s+is\b/i.exec(declaration)?.[1] ?? '';

/** What the returns of a function give back. */
export function givenBack(
  steps: readonly ForeignStep[],
  isTruth: (expr: ForeignExpr) => boolean,
): OwnFunction['gives'] {
  const found = steps.flatMap((step): ForeignExpr[] => {
    if (step.kind === 'return') return step.value ? [step.value] : [];
    const inner =
      step.kind === 'if'
        ? step.arms.flatMap(({ body }) => body)
        : step.kind === 'while' || step.kind === 'doWhile' || step.kind === 'count'
          ? step.body
          : [];
    const own = givenBack(inner, isTruth);
    return own === null
      ? []
      : [{ kind: own === 'truth' ? 'truth' : 'number', value: own === 'truth' ? true : '0' } as ForeignExpr];
  });
  if (found.length === 0) return null;
  return found.every(isTruth) ? 'truth' : 'number';
}
