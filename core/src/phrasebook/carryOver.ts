import { formatScript, keywords, SCRIPT_LIMIT } from '../script/index.ts';
import { readC } from './cLike.ts';
import type { ForeignExpr, ForeignStep } from './foreign.ts';
import { matchPhrase, readPhrase, type Phrasebook, type ReadPhrase } from './phrases.ts';
import { readPython } from './python.ts';

/** A line of a foreign program that was not carried over, as it was typed. */
export interface NotCarried {
  line: number;
  words: string;
  why: string;
}

/** A foreign program as a step script, as far as the phrasebook reaches. */
export interface CarriedOver {
  text: string;
  /** Every line left behind; each also stands as a remark at its place in the script. */
  left: NotCarried[];
  /** Statements carried over, and all there were. */
  carried: number;
  total: number;
}

/** Thrown inside the carrier for what it does not know; caught at the statement. */
class Unknown extends Error {}

const safeName = (name: string) => {
  const plain = name.replaceAll('.', ' ').replace(/_+/g, ' ').trim();
  const words = plain
    .split(' ')
    .map((word) =>
      keywords.includes(word.toLowerCase()) && !/^(left|right)$/i.test(word) ? `${word}1` : word,
    );
  return words.join(' ') || 'value';
};
/** An own step may be called by any words but “by”. */
const taskName = (name: string) =>
  name
    .replaceAll('.', ' ')
    .split(/[_ ]+/)
    .filter(Boolean)
    .map((word) => (word.toLowerCase() === 'by' ? 'by1' : word))
    .join(' ') || 'step';

/** How tightly each operator binds in the script: what binds looser needs brackets inside what binds tighter. */
const binding: Record<string, number> = { or: 1, and: 2, not: 3, '+': 5, '-': 5, '*': 6, '/': 6 };
const bindingOf = (op: string) => binding[op] ?? 4;

const functions = new Set(['abs', 'min', 'max', 'round']);

class Carrier {
  readonly left: NotCarried[] = [];
  carried = 0;
  total = 0;
  private readonly book: Phrasebook;
  private readonly phrases: ReadPhrase[];
  private readonly tasks = new Map<string, { name: string; parameters: string[] }>();
  /** Names of the program's values, as the script writes them, with what each is set to at the start. */
  readonly values = new Map<string, string>();
  private parameters: string[] = [];
  private inTask = false;

  constructor(book: Phrasebook) {
    this.book = book;
    this.phrases = book.phrases
      .map((phrase) => readPhrase(phrase, book.syntax))
      .filter((read) => typeof read !== 'string');
  }

  program(steps: ForeignStep[]): string {
    for (const step of steps) {
      if (step.kind === 'function')
        this.tasks.set(step.name, { name: taskName(step.name), parameters: step.parameters });
    }
    const main = steps.filter((step) => step.kind !== 'function');
    const own = steps.filter((step) => step.kind === 'function');
    const entry = this.book.syntax === 'c' ? own.find(({ name }) => name === 'main') : undefined;
    const lines = this.block([...main, ...(entry?.body ?? [])]);
    for (const task of own) {
      if (task === entry) continue;
      this.total++;
      this.carried++;
      this.parameters = task.parameters;
      this.inTask = true;
      // The way back at the very end goes without saying.
      const last = task.body.at(-1);
      const body = last?.kind === 'return' ? task.body.slice(0, -1) : task.body;
      const given = task.parameters.map(safeName).join(', ');
      lines.push('', `task ${taskName(task.name)}${given && ` by ${given}`}`, ...this.block(body), 'end');
      this.parameters = [];
      this.inTask = false;
    }
    const used = lines.join('\n');
    const names = (declaration: string) =>
      /^\s*(?:sensor|motor)\s+(.*?)\s+is\b/i.exec(declaration)?.[1] ?? '';
    const declared = this.book.declares.filter((line) => {
      const name = names(line);
      return name === ''
        ? used.includes('turret')
        : new RegExp(`\\b${name.replace(/[^\p{L}\p{N}_ ]/gu, '')}\\b`, 'iu').test(used);
    });
    const lets = [...this.values].map(([name, value]) => `let ${name} = ${value}`);
    return [...declared, ...lets, ...lines].join('\n');
  }

  private leave({ line, words }: ForeignStep, why: string): string[] {
    this.left.push({ line, words, why });
    return [`# not carried over: ${words}`];
  }

  private block(steps: ForeignStep[]): string[] {
    return steps.flatMap((step) => {
      if (step.kind !== 'remark' && step.kind !== 'nothing') this.total++;
      try {
        const lines = this.step(step);
        if (step.kind !== 'remark' && step.kind !== 'nothing' && step.kind !== 'other') this.carried++;
        return lines;
      } catch (caught) {
        if (!(caught instanceof Unknown)) throw caught;
        return this.leave(step, caught.message);
      }
    });
  }

  private step(step: ForeignStep): string[] {
    switch (step.kind) {
      case 'remark':
        return [`# ${step.text}`];
      case 'nothing':
        return [];
      case 'other':
        return this.leave(step, 'It is no step that can be carried over.');
      case 'call':
        return this.call(step.call);
      case 'assign':
        return this.assign(step);
      case 'break':
        return ['leave'];
      case 'return':
        // In a function it goes back to the caller, and an own step has no word for that.
        if (this.inTask) throw new Unknown('An own step cannot be left half way.');
        return ['finish'];
      case 'if':
        return [
          ...step.arms.flatMap((arm, i) => {
            const head = i === 0 ? 'if' : 'else if';
            const test = arm.test && this.head(arm.test, head, arm.line, arm.words);
            return [test ?? 'else', ...this.block(arm.body)];
          }),
          'end',
        ];
      case 'while':
        return [this.whileHead(step), ...this.block(step.body), 'end'];
      case 'count': {
        const counter = safeName(step.counter);
        const inside = JSON.stringify(step.body).includes(`"name":"${step.counter}"`);
        const times = this.expr(step.times);
        if (!inside) return [`repeat ${times} times`, ...this.block(step.body), 'end'];
        this.values.set(counter, '0');
        const body = this.block(step.body);
        return [
          `set ${counter} to 0`,
          `repeat ${times} times`,
          ...body,
          `set ${counter} to ${counter} + 1`,
          'end',
        ];
      }
      case 'function':
        throw new Unknown('A function inside another block cannot be carried over.');
    }
  }

  /** A question that cannot be carried over stays as it was typed, so that the review points at it and nothing runs. */
  private head(test: ForeignExpr, head: string, line: number, words: string): string {
    try {
      return `${head} ${this.truth(test)}`;
    } catch (caught) {
      if (!(caught instanceof Unknown)) throw caught;
      this.left.push({ line, words, why: caught.message });
      this.carried--;
      return `${head} ??? # not carried over: ${words}`;
    }
  }

  private whileHead({ test, line, words }: Extract<ForeignStep, { kind: 'while' }>): string {
    if ((test.kind === 'truth' && test.value) || (test.kind === 'number' && Number(test.value) !== 0))
      return 'repeat';
    if (test.kind === 'unary' && test.op === 'not')
      return this.head(test.operand, 'repeat until', line, words);
    return this.head(test, 'repeat while', line, words);
  }

  private assign({ name, op, value }: Extract<ForeignStep, { kind: 'assign' }>): string[] {
    const own = safeName(name);
    const now = this.expr(value);
    const next = op === '' ? now : `${own} ${op} ${this.within(value, bindingOf(op) + 1)}`;
    if (!this.values.has(own) && !this.parameters.includes(name)) {
      // The kind of quantity is that of its first value; what needs other values to be worked out starts as 0.
      const plain = op === '' && !this.asksOthers(value);
      this.values.set(own, plain ? now : '0');
    }
    return [`set ${own} to ${next}`];
  }

  private asksOthers(expr: ForeignExpr): boolean {
    const text = JSON.stringify(expr);
    return [...this.values.keys(), ...this.parameters].some((name) =>
      text.includes(`"name":"${name.replaceAll(' ', '_')}"`),
    );
  }

  private call(call: Extract<ForeignExpr, { kind: 'call' }>): string[] {
    const said = this.phrase(call);
    if (said !== null) return said.split('\n');
    const task = this.tasks.get(call.name);
    if (!task) throw new Unknown(`The phrasebook does not know “${call.name}”.`);
    if (task.parameters.length !== call.args.length) {
      throw new Unknown(`“${call.name}” takes ${task.parameters.length}, but ${call.args.length} are given.`);
    }
    const given = call.args.map((arg) => this.expr(arg)).join(', ');
    return [`do ${task.name}${given && ` by ${given}`}`];
  }

  /** What the phrasebook says for a call or a name; null when it has no such phrase. */
  private phrase(expr: ForeignExpr): string | null {
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
            const said = this.expr(value);
            const units = /^(%|mm|cm|in|deg|turns?|s|ms|Hz)$/.test(unit);
            if (!units || /^-?[\d.]+$/.test(said)) return `${said}${gap}${unit}`;
            // A unit belongs to a number: what is worked out is taken so many times one of it.
            return `(${said}) * 1 ${unit}`;
          },
        );
    }
    return null;
  }

  /** What an operand says, in brackets where it binds looser than what it stands in. */
  private within(expr: ForeignExpr, level: number): string {
    const said = this.expr(expr);
    const own =
      expr.kind === 'binary' ? bindingOf(expr.op) : expr.kind === 'unary' && expr.op === 'not' ? 3 : 9;
    return own < level ? `(${said})` : said;
  }

  private truth(expr: ForeignExpr): string {
    if (expr.kind === 'truth') return expr.value ? '1 = 1' : '1 = 0';
    return this.expr(expr);
  }

  private expr(expr: ForeignExpr): string {
    const said = expr.kind === 'call' || expr.kind === 'name' ? this.phrase(expr) : null;
    if (said !== null) return said;
    switch (expr.kind) {
      case 'number':
        return expr.value;
      case 'text':
        return `"${expr.value}"`;
      case 'truth':
        return expr.value ? '1' : '0';
      case 'name': {
        const own = safeName(expr.name);
        if (this.values.has(own) || this.parameters.includes(expr.name)) return own;
        throw new Unknown(`The phrasebook does not know “${expr.name}”.`);
      }
      case 'call':
        if (functions.has(expr.name))
          return `${expr.name}(${expr.args.map((arg) => this.expr(arg)).join(', ')})`;
        throw new Unknown(`The phrasebook does not know “${expr.name}”.`);
      case 'unary': {
        return expr.op === '-' ? `-${this.within(expr.operand, 9)}` : `not ${this.within(expr.operand, 3)}`;
      }
      case 'binary': {
        const level = bindingOf(expr.op);
        // Two comparisons, or a difference on the right, stand by themselves.
        const right = this.within(expr.right, level <= 2 ? level : level + 1);
        return `${this.within(expr.left, level === 4 ? 5 : level)} ${expr.op} ${right}`;
      }
      case 'other':
        throw new Unknown(`“${expr.text}” is no step that can be carried over.`);
    }
  }
}

/**
 * Carries a program in Python-like or C-like syntax over into the step script, as far as a phrasebook reaches. It is
 * read by a grammar and never run. What is not known stands as a remark at its place and in `left`; a question that is
 * not known stays a fault in the script, so that nothing runs that was not understood.
 */
export function carryOver(text: string, book: Phrasebook): CarriedOver {
  if (text.length > SCRIPT_LIMIT.characters) {
    const why = `The program is longer than ${SCRIPT_LIMIT.characters.toLocaleString('en')} characters.`;
    return { text: '', left: [{ line: 1, words: '', why }], carried: 0, total: 0 };
  }
  const plain = text.replace(/\r\n?/g, '\n');
  const steps = book.syntax === 'c' ? readC(plain) : readPython(plain);
  const carrier = new Carrier(book);
  const carried = formatScript(carrier.program(steps));
  const left = carrier.left.sort((a, b) => a.line - b.line);
  return { text: carried, left, carried: carrier.carried, total: carrier.total };
}
