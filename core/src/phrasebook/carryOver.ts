import { formatScript, SCRIPT_LIMIT } from '../script/index.ts';
import { readC } from './cLike.ts';
import type { ForeignExpr, ForeignStep } from './foreign.ts';
import type { Phrasebook } from './phrases.ts';
import { readPython } from './python.ts';
import { declaredName, givenBack, Sayings, taskName, Unknown } from './sayings.ts';

/** A line of a foreign program that was not carried over, as it was typed. */
export interface NotCarried {
  line: number;
  words: string;
  why: string;
}

/** A foreign program as a step script, as far as the phrasebook reaches. */
export interface CarriedOver {
  text: string;
  /** Every statement left behind; each also stands as a fault at its place in the script, so that nothing runs without it. */
  left: NotCarried[];
  /** Statements carried over, and all there were. */
  carried: number;
  total: number;
}

/** What a line of the script begins with that was not understood; the parser knows it and says so. */
const UNKNOWN = '???';

class Carrier {
  readonly left: NotCarried[] = [];
  carried = 0;
  total = 0;
  readonly say: Sayings;
  private readonly book: Phrasebook;
  private inTask = false;
  private constants: ReadonlySet<string> = new Set();

  constructor(book: Phrasebook, constantUnits: ReadonlyMap<string, string>) {
    this.book = book;
    this.say = new Sayings(book, constantUnits);
  }

  program(steps: ForeignStep[]): string {
    const { say } = this;
    const main = steps.filter((step) => step.kind !== 'function');
    const own = steps.filter((step) => step.kind === 'function');
    for (const { name, parameters, body } of own)
      say.tasks.set(name, {
        name: taskName(name),
        parameters,
        gives: givenBack(body, (expr) => say.isTruth(expr)),
      });
    this.constants = constantsOf(steps);
    // What is set at the start is known to every function, wherever it stands.
    const entry = this.book.syntax === 'c' ? own.find(({ name }) => name === 'main') : undefined;
    const lines = this.block([...main, ...(entry?.body ?? [])]);
    for (const task of own) {
      if (task === entry) continue;
      this.total++;
      this.carried++;
      say.parameters = task.parameters.map(({ name }) => name);
      this.inTask = true;
      // The way back at the very end goes without saying.
      const last = task.body.at(-1);
      const body = last?.kind === 'return' && !last.value ? task.body.slice(0, -1) : task.body;
      const given = task.parameters.map(({ name }) => say.own(name)).join(', ');
      lines.push('', `task ${taskName(task.name)}${given && ` by ${given}`}`, ...this.block(body), 'end');
      say.parameters = [];
      this.inTask = false;
    }
    const used = lines.join('\n');
    const declared = this.book.declares.filter((line) => {
      const name = declaredName(line);
      return name === ''
        ? used.includes('turret')
        : new RegExp(`\\b${name.replace(/[^\p{L}\p{N}_ ]/gu, '')}\\b`, 'iu').test(used);
    });
    const lists = [...say.lists].map((name) => `list ${name}`);
    const lets = [...say.values].map(([name, value]) => `let ${name} = ${value}`);
    return [...declared, ...lists, ...lets, ...lines].join('\n');
  }

  /** What is not known stands at its place, every line of it, and keeps the script from running. */
  private leave({ line, words, ...step }: ForeignStep, why: string): string[] {
    this.left.push({ line, words, why });
    const text = 'text' in step && step.kind === 'other' ? step.text : words;
    return text
      .split('\n')
      .map((one) => one.trim())
      .filter((one) => one !== '')
      .map((one) => `${UNKNOWN} ${one}`);
  }

  private block(steps: readonly ForeignStep[]): string[] {
    return steps.flatMap((step) => {
      const counts = step.kind !== 'remark' && step.kind !== 'nothing';
      if (counts) this.total++;
      const outer = this.say.before;
      this.say.before = [];
      try {
        const lines = this.step(step);
        if (counts && step.kind !== 'other') this.carried++;
        return [...this.say.before, ...lines];
      } catch (caught) {
        if (!(caught instanceof Unknown)) throw caught;
        return this.leave(step, caught.message);
      } finally {
        this.say.before = outer;
      }
    });
  }

  private step(step: ForeignStep): string[] {
    const { say } = this;
    switch (step.kind) {
      case 'remark':
        return step.text.split('\n').map((line) => `# ${line}`);
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
        return this.goBack(step.value);
      case 'if':
        return this.decision(step);
      case 'while':
        return this.loop(step);
      case 'doWhile': {
        const body = this.block(step.body);
        say.before = [];
        const test = this.head(opposite(step.test), 'if', step.line, step.words);
        return ['repeat', ...body, ...say.before.splice(0), test, 'leave', 'end', 'end'];
      }
      case 'count':
        return this.count(step);
      case 'function':
        throw new Unknown('A function inside another block cannot be carried over.');
    }
  }

  private goBack(value: ForeignExpr | null): string[] {
    if (this.inTask && value?.kind === 'choice') return this.choose(value, (said) => `give back ${said}`);
    if (this.inTask) return [value ? `give back ${this.say.expr(value)}` : 'give back'];
    if (value && !(value.kind === 'number' && Number(value.value) === 0))
      throw new Unknown('The main program gives nothing back.');
    return ['finish'];
  }

  private decision({ arms }: Extract<ForeignStep, { kind: 'if' }>): string[] {
    const lines = arms.flatMap((arm, i) => {
      const head = i === 0 ? 'if' : 'else if';
      const { before } = this.say;
      // A step before a later question would be done although an earlier one held.
      if (i > 0) this.say.before = null;
      const test = arm.test && this.head(arm.test, head, arm.line, arm.words);
      this.say.before = before;
      return [test ?? 'else', ...this.block(arm.body)];
    });
    return [...lines, 'end'];
  }

  /** A question that cannot be carried over stays as it was typed, so that the review points at it and nothing runs. */
  private head(test: ForeignExpr, head: string, line: number, words: string): string {
    try {
      return `${head} ${this.say.truth(test)}`;
    } catch (caught) {
      if (!(caught instanceof Unknown)) throw caught;
      this.left.push({ line, words, why: caught.message });
      this.carried--;
      return `${head} ${UNKNOWN} # not carried over: ${words.split('\n')[0]}`;
    }
  }

  private loop({ test, line, words, body }: Extract<ForeignStep, { kind: 'while' }>): string[] {
    if ((test.kind === 'truth' && test.value) || (test.kind === 'number' && Number(test.value) !== 0))
      return ['repeat', ...this.block(body), 'end'];
    const typed = words.replace(/\{[^]*$/, '').trim();
    const turned = test.kind === 'unary' && test.op === 'not';
    const { say } = this;
    say.before = [];
    const head = this.head(
      turned ? test.operand : test,
      turned ? 'repeat until' : 'repeat while',
      line,
      typed,
    );
    const first = say.before.splice(0);
    if (first.length === 0) return [head, ...this.block(body), 'end'];
    // What has to be done before the question is asked is done in every round.
    const leaves = this.head(opposite(test), 'if', line, typed);
    say.before = [];
    return ['repeat', ...first, leaves, 'leave', 'end', ...this.block(body), 'end'];
  }

  private count(step: Extract<ForeignStep, { kind: 'count' }>): string[] {
    const { say } = this;
    const counter = say.own(step.counter);
    const inside = JSON.stringify(step.body).includes(`"name":"${step.counter}"`);
    const from = say.expr(step.from);
    const to = say.within(step.to, 6);
    const changed = JSON.stringify(step.body).includes(`"kind":"assign","name":"${step.counter}"`);
    const ones = step.by === 1 && step.from.kind === 'number' && !changed;
    const first = ones && step.from.kind === 'number' ? Number(step.from.value) : NaN;
    const less = first - (step.reaches ? 1 : 0);
    const times =
      step.to.kind === 'number'
        ? String(Math.max(0, Number(step.to.value) - less))
        : less === 0
          ? say.expr(step.to)
          : `${to} ${less > 0 ? '-' : '+'} ${Math.abs(less)}`;
    if (ones && !inside) return [`repeat ${times} times`, ...this.block(step.body), 'end'];
    if (ones && first === 1) {
      say.values.delete(counter);
      const outer = say.parameters;
      say.parameters = [...outer, step.counter];
      const body = this.block(step.body);
      say.parameters = outer;
      return [`repeat ${times} times as ${counter}`, ...body, 'end'];
    }
    if (!say.values.has(counter)) say.values.set(counter, '0');
    const body = this.block(step.body);
    const on = `set ${counter} to ${counter} ${step.by < 0 ? '-' : '+'} ${Math.abs(step.by)}`;
    if (ones) return [`set ${counter} to ${from}`, `repeat ${times} times`, ...body, on, 'end'];
    const sign = `${step.by < 0 ? '>' : '<'}${step.reaches ? '=' : ''}`;
    return [`set ${counter} to ${from}`, `repeat while ${counter} ${sign} ${to}`, ...body, on, 'end'];
  }

  private assign({ name, op, value }: Extract<ForeignStep, { kind: 'assign' }>): string[] {
    const { say } = this;
    const own = say.own(name);
    if (value.kind === 'emptyList' && op === '') {
      say.lists.add(own);
      return [`clear ${own}`];
    }
    if (value.kind === 'choice' && op === '') {
      if (!say.values.has(own) && !say.parameters.includes(name)) say.values.set(own, '0');
      return this.choose(value, (said) => `set ${own} to ${said}`);
    }
    if (value.kind === 'call' && op === '' && say.tasks.has(value.name) && say.phrase(value) === null) {
      const { gives } = say.tasks.get(value.name)!;
      if (gives === null) throw new Unknown(`“${value.name}” gives nothing back.`);
      const done = say.done(value);
      if (!say.parameters.includes(name)) say.holds(own, gives);
      return [`set ${own} to ${done}`];
    }
    const truth = op === '' && say.isTruth(value);
    const now = truth ? say.truth(value) : say.expr(value);
    const level = { '+': 6, '-': 6, '*': 7, '/': 7 }[op || '+'];
    const next = op === '' ? now : `${own} ${op} ${say.within(value, level)}`;
    if (!say.values.has(own) && !say.parameters.includes(name)) {
      // The kind of quantity is that of its first value; what needs other values to be worked out starts as 0.
      const plain = op === '' && !this.asksOthers(value);
      say.values.set(own, say.initial(name, plain ? now : truth ? 'no' : '0'));
      if (truth) say.truths.add(own);
      // A constant says all that it is where it is declared.
      if (plain && this.constants.has(name) && !this.inTask) return [];
    }
    return [`set ${own} to ${next}`];
  }

  /** One of two values, as a decision. */
  private choose(
    { test, yes, no }: Extract<ForeignExpr, { kind: 'choice' }>,
    write: (said: string) => string,
  ): string[] {
    const { say } = this;
    return [`if ${say.truth(test)}`, write(say.expr(yes)), 'else', write(say.expr(no)), 'end'];
  }

  private asksOthers(expr: ForeignExpr): boolean {
    const text = JSON.stringify(expr);
    return [...this.say.values.keys(), ...this.say.parameters].some((name) =>
      text.includes(`"name":"${name.replaceAll(' ', '_')}"`),
    );
  }

  private call(call: Extract<ForeignExpr, { kind: 'call' }>): string[] {
    const { say } = this;
    const said = say.phrase(call);
    if (said !== null) return said.split('\n');
    if (say.tasks.has(call.name)) return [say.done(call)];
    const [, list] = /^(\w+)\.append$/.exec(call.name) ?? [];
    if (list && say.lists.has(say.own(list)) && call.args.length === 1)
      return [`add ${say.expr(call.args[0]!)} to ${say.own(list)}`];
    if (call.name === 'print' && call.args.length > 0)
      return [`show ${call.args.map((arg) => say.expr(arg)).join(' and " " and ')}`];
    throw new Unknown(`The phrasebook does not know “${call.name}”.`);
  }
}

/** The opposite of a test. */
const opposite = (test: ForeignExpr): ForeignExpr =>
  test.kind === 'unary' && test.op === 'not' ? test.operand : { kind: 'unary', op: 'not', operand: test };

/** Names that are set once, to a plain number, outside every block: they only name it. */
function constantsOf(steps: readonly ForeignStep[]): ReadonlySet<string> {
  const times = new Map<string, number>();
  const count = (list: readonly ForeignStep[]): void =>
    list.forEach((step) => {
      if (step.kind === 'assign') times.set(step.name, (times.get(step.name) ?? 0) + 1);
      if (step.kind === 'count') times.set(step.counter, 2);
      if (step.kind === 'if') step.arms.forEach(({ body }) => count(body));
      else if ('body' in step) count(step.body);
    });
  count(steps);
  return new Set(
    steps.flatMap((step) =>
      step.kind === 'assign' && step.op === '' && times.get(step.name) === 1 && isNumber(step.value)
        ? [step.name]
        : [],
    ),
  );
}

const isNumber = (expr: ForeignExpr): boolean =>
  expr.kind === 'number' || (expr.kind === 'unary' && expr.op === '-' && expr.operand.kind === 'number');

/**
 * Carries a program in Python-like or C-like syntax over into the step script, as far as a phrasebook reaches. It is
 * read by a grammar and never run. Every line of it is carried over or stands as a fault at its place and in `left`, so
 * that nothing runs that was not understood. A constant takes its unit from its uses, where these agree.
 */
export function carryOver(text: string, book: Phrasebook): CarriedOver {
  if (text.length > SCRIPT_LIMIT.characters) {
    const why = `The program is longer than ${SCRIPT_LIMIT.characters.toLocaleString('en')} characters.`;
    return { text: '', left: [{ line: 1, words: '', why }], carried: 0, total: 0 };
  }
  const plain = text.replace(/\r\n?/g, '\n');
  const steps = book.syntax === 'c' ? readC(plain) : readPython(plain);
  const first = new Carrier(book, new Map());
  first.program(steps);
  const constants = constantsOf(steps);
  const agreed = [...first.say.unitUses].flatMap(([name, used]) =>
    constants.has(name) && used.size === 1 ? [[name, [...used][0]!] as const] : [],
  );
  const carrier = new Carrier(book, new Map(agreed));
  const carried = formatScript(carrier.program(steps));
  const left = carrier.left.sort((a, b) => a.line - b.line);
  return { text: carried, left, carried: carrier.carried, total: carrier.total };
}
