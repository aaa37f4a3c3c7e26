import type { SyntaxNode } from '@lezer/common';
import type { Arm, Expr, Program, Step } from './ast.ts';
import { counterOf, declare, heldWord, into } from './declare.ts';
import { fault, type Place } from './findings.ts';
import { isBare, kindOf } from './kinds.ts';
import { lineOf, notUnderstood, partBlocks, type Line, type BlockLines } from './lines.ts';
import { LineReader } from './lower.ts';
import { LineFault, type Scope } from './names.ts';
import { Calls, giveBack, readTaskHead, refuseCircles } from './ownSteps.ts';
import { isPlainStep, readPlainStep, readRepeat } from './readStep.ts';
import { Settled } from './settled.ts';
import { expressionsOf, walkProgram } from './walk.ts';

/** A script may not be longer than this, in characters and in lines, nor its blocks lie deeper. */
export const SCRIPT_LIMIT = { characters: 200_000, lines: 2_000, depth: 30 };
/** Most columns of a log. */
const LOG_COLUMNS = 40;
/** A script is read again with the kinds that its names have taken, so often at most. */
const READINGS = 6;

interface OpenBlock {
  step: Extract<Step, { kind: 'repeat' | 'if' }>;
  into: Step[];
  at: Place;
}

/** Which part of the script is being read. */
type Part = 'main' | 'watcher' | 'task';

const emptyProgram = (): Program => ({
  sensors: [],
  motors: [],
  values: [],
  lists: [],
  tasks: [],
  watchers: [],
  steps: [],
  stepCount: 0,
  lastLine: 0,
  findings: [],
  source: [],
});

/** Reads scripts line by line, so that all faults are listed and the good part is still there. */
class ScriptReader {
  readonly program = emptyProgram();
  private open: OpenBlock[] = [];
  private into: Step[] = this.program.steps;
  private scope: Scope;
  private part: Part = 'main';
  private taskLines: BlockLines[] = [];
  private readonly calls = new Calls(this.program);

  constructor(settled: Settled) {
    this.scope = { ...this.program, task: null, settled, bending: new Set() };
  }

  read(lines: readonly string[]): Program {
    const { findings } = this.program;
    this.program.source = lines;
    const { main, tasks, watchers } = partBlocks(lines.map((line, i) => lineOf(line, i + 1)));
    this.taskLines = tasks;
    // A head that goes astray still has a body whose faults are worth telling.
    this.program.tasks.push(
      ...tasks.map(({ head }) => ({
        name: '',
        parameters: [],
        gives: null,
        body: [],
        at: this.reader(head).place({ from: 0, to: head.text.length }),
        endLine: 0,
      })),
    );
    tasks.forEach(({ head }, index) =>
      this.attempt(head, () => readTaskHead(this.program, head.node!, index, this.reader(head))),
    );
    main.forEach((line) => this.attempt(line, () => this.understand(line)));
    this.closeBlocks();
    watchers.forEach((one) => this.readWatcher(one));
    this.readTasks();
    refuseCircles(this.program);
    this.boundLog();
    findings.sort((a, b) => a.line - b.line || a.column - b.column);
    return this.program;
  }

  /** A log with very many columns would be no table to look at, and would take the memory of many runs. */
  private boundLog(): void {
    const columns = new Set<string>();
    walkProgram(this.program, (step) => {
      if (step.kind !== 'log' || columns.size > LOG_COLUMNS) return;
      const { source } = this.program;
      for (const { at } of step.items)
        columns.add((source[at.line - 1] ?? '').slice(at.column - 1, at.column - 1 + at.length));
      if (columns.size <= LOG_COLUMNS) return;
      const says = `A log has at most ${LOG_COLUMNS} columns.`;
      this.program.findings.push(fault(step.at, 'size', says, 'Log fewer different things.'));
    });
  }

  private reader(line: Line): LineReader {
    return new LineReader(line.text, line.number, this.scope);
  }

  /** Does something for a line and keeps the fault it may meet. */
  private attempt(line: Line, work: () => void): void {
    try {
      if (line.error) {
        this.keepBlocks(line);
        throw new LineFault(notUnderstood(this.reader(line), line.error));
      }
      work();
    } catch (caught) {
      if (!(caught instanceof LineFault)) throw caught;
      this.program.findings.push(caught.finding);
    }
  }

  private understand(line: Line): void {
    if (line.node) this.step(line.node, this.reader(line), line);
  }

  /** What names stand for now, as a text: a line that meant something with the same names means the same. */
  private names = '';
  private namesOf(): string {
    if (this.names !== '') return this.names;
    const { sensors, values, lists, task, bending } = this.scope;
    this.names = [
      String(task),
      ...sensors.map(({ name, kind, unit }) => `s ${name} ${kind} ${unit}`),
      ...values.map(({ name, of, task }, i) => `v ${name} ${of} ${task} ${bending.has(i)}`),
      ...lists.map(({ name, of }) => `l ${name} ${of}`),
    ].join('|');
    return this.names;
  }

  /** Works out what a line means, or takes what it meant last time: nothing else than the names may have changed that. */
  private meaning<T>(line: Line, work: () => T): T {
    const names = this.namesOf();
    const { understood } = line.kept;
    if (understood?.names === names && understood.number === line.number) return understood.meaning as T;
    const { settled } = this.scope;
    const before = settled.news;
    settled.news = false;
    try {
      const meaning = work();
      // What gave a name its kind must give it again in the next script.
      if (!settled.news) line.kept.understood = { names, number: line.number, meaning };
      return meaning;
    } finally {
      settled.news ||= before;
    }
  }

  private closeBlocks(): void {
    for (const block of this.open) {
      this.program.findings.push(
        fault(
          block.at,
          'missing end',
          `This “${block.step.kind}” has no “end”.`,
          'Add a line “end” where it should close.',
        ),
      );
    }
    this.open = [];
  }

  /** A block opener that went astray still opens its block, so that its `end` is not reported too. */
  private keepBlocks(line: Line): void {
    const at = this.reader(line).place({ from: 0, to: line.text.length });
    if (line.opens === 'repeat') this.openBlock(endless(at));
    if (line.opens === 'if')
      this.openBlock({ kind: 'if', arms: [{ line: at.line, test: null, body: [] }], endLine: 0, at });
  }

  private openBlock(step: OpenBlock['step']): void {
    this.push(step);
    this.open.push({ step, into: this.into, at: step.at });
    if (this.open.length > SCRIPT_LIMIT.depth) {
      throw new LineFault(
        fault(step.at, 'depth', `Blocks lie more than ${SCRIPT_LIMIT.depth} deep.`, 'Make it flatter.'),
      );
    }
    this.into = step.kind === 'repeat' ? step.body : step.arms[0]!.body;
  }

  private push(step: Step): void {
    this.into.push(step);
    this.program.stepCount++;
    this.reached(step.at.line);
  }

  private reached(line: number): void {
    if (this.part === 'main') this.program.lastLine = line;
  }

  private step(node: SyntaxNode, reader: LineReader, line: Line): void {
    if (isPlainStep(node)) return this.push(this.meaning(line, () => plainStep(node, reader)));
    const at = reader.place(node);
    switch (node.name) {
      case 'SensorStep':
      case 'MotorStep':
      case 'ListStep':
      case 'LetStep':
        return this.declare(node, reader);
      case 'SetStep':
        return this.set(node, reader, line);
      case 'RepeatStep': {
        // A block is opened even when its head is wrong, so that its `end` still belongs to it.
        const block = endless(at);
        this.openBlock(block);
        const { counter, ...head } = this.meaning(line, () => {
          const read = readRepeat(node, reader);
          if (read.amount) reader.settled(read.amount);
          return read;
        });
        Object.assign(block, head);
        if (counter) {
          this.names = '';
          block.counter = counterOf(this.program, counter, reader);
        }
        return;
      }
      case 'LeaveStep':
        return this.leave(node, reader);
      case 'GiveStep':
        return this.give(node, reader);
      case 'IfStep': {
        const arm: Arm = { line: at.line, test: null, body: [] };
        this.openBlock({ kind: 'if', arms: [arm], endLine: 0, at });
        arm.test = this.meaning(line, () => reader.settled(reader.look(reader.inner(node)[0]!)));
        return;
      }
      case 'ElseIfStep':
      case 'ElseStep':
        return this.otherArm(node, reader, line);
      case 'EndStep':
        return this.end(node, reader);
      case 'TaskStep':
      case 'WheneverStep':
        return reader.fail(
          node,
          'task',
          `${node.name === 'TaskStep' ? 'An own step' : 'A “whenever”'} cannot stand inside another block.`,
          'Move it to the end of the script, or close the block above with “end”.',
        );
      case 'DoStep':
        return this.push(this.called(node, reader, null));
    }
  }

  private leave(node: SyntaxNode, reader: LineReader): void {
    if (!this.open.some((block) => block.step.kind === 'repeat')) {
      reader.fail(
        node,
        'leave',
        '“leave” stands outside any repeat.',
        this.part === 'task'
          ? 'Put it inside a repeat, or write “give back” to go out of the own step.'
          : 'Put it inside a repeat, or write “finish” to end the program.',
      );
    }
    this.push({ kind: 'leave', at: reader.place(node) });
  }

  private give(node: SyntaxNode, reader: LineReader): void {
    if (this.part !== 'task') {
      reader.fail(
        node,
        'give back',
        'Only an own step can give something back.',
        'Write “finish” to end the program, or put it inside a task.',
      );
    }
    const [valueNode] = reader.inner(node);
    const value = valueNode ? reader.settled(reader.now(this.given(valueNode, reader))) : null;
    const step = { kind: 'give' as const, value, at: reader.place(node) };
    giveBack(this.program, step, valueNode ?? node, reader);
    this.push(step);
  }

  /** What is given back; a bare number is of the kind that the own step gives elsewhere. */
  private given(node: SyntaxNode, reader: LineReader): Expr {
    const expr = reader.expr(node);
    const of = this.scope.settled.gives(this.program.tasks[this.scope.task!]!.name);
    if (!of || of === 'truth' || of === 'number' || kindOf(expr) !== 'number' || !isBare(expr)) return expr;
    return reader.adopted(expr, of, reader.bareUnit(of, expr));
  }

  private set(node: SyntaxNode, reader: LineReader, line: Line): void {
    const name = node.getChild('Name')!;
    const index = reader.valueIndex(reader.name(name));
    if (index < 0) reader.unknown(name);
    const given = node.getChild('Given');
    if (!given) {
      const value = this.meaning(line, () =>
        reader.settled(reader.now(into(index, reader.inner(node)[1]!, reader))),
      );
      return this.push({ kind: 'set', index, value, at: reader.place(node) });
    }
    const call = this.called(given, reader, index);
    this.takeGiven(index, call.task, given, reader);
    this.push({ ...call, at: reader.place(node) });
  }

  /** A call; the first one of an own step says what kinds its parameters have. */
  private called(node: SyntaxNode, reader: LineReader, into: number | null): Extract<Step, { kind: 'do' }> {
    const before = this.calls.called.length;
    const call = this.calls.read(node, reader, into);
    if (this.calls.called.length !== before) this.names = '';
    return call;
  }

  /** A value takes what an own step gives back: the two are of one kind. */
  private takeGiven(index: number, taskIndex: number, node: SyntaxNode, reader: LineReader): void {
    const task = this.program.tasks[taskIndex]!;
    const { settled, bending } = this.scope;
    const declared = this.program.values[index]!;
    const gives = settled.gives(task.name) ?? null;
    // Own steps are read after the main program: only the next reading knows what they give.
    if (gives === null) {
      this.unknownGives.push({ task: taskIndex, at: reader.place(node) });
      return;
    }
    if (gives === declared.of) return;
    if (bending.has(index) && gives !== 'truth')
      return reader.bend(index, gives, gives === 'length' ? 10 : 1, reader.line);
    reader.fail(
      node,
      'kind',
      `“${task.name}” gives back ${heldWord(gives)}, but “${declared.name}” is ${heldWord(declared.of)}.`,
      gives === 'truth' ? `Begin it with: let ${declared.name} = no.` : 'Use another value for it.',
    );
  }
  private readonly unknownGives: { task: number; at: Place }[] = [];

  private otherArm(node: SyntaxNode, reader: LineReader, line: Line): void {
    const block = this.open.at(-1);
    if (block?.step.kind !== 'if') {
      reader.fail(node, 'else', 'This “else” has no “if” above it.', 'Add the “if”, or remove this line.');
    }
    const { arms } = block.step;
    if (arms.at(-1)!.test === null && arms.length > 1) {
      reader.fail(
        node,
        'else',
        'This comes after an “else” that takes all the rest.',
        'Put it above the “else”.',
      );
    }
    const arm: Arm = { line: reader.line, test: null, body: [] };
    arms.push(arm);
    this.into = arm.body;
    this.reached(reader.line);
    if (node.name === 'ElseIfStep')
      arm.test = this.meaning(line, () => reader.settled(reader.look(reader.inner(node)[0]!)));
  }

  private end(node: SyntaxNode, reader: LineReader): void {
    const block = this.open.pop();
    if (!block) {
      reader.fail(node, 'end', 'This “end” closes nothing.', 'Remove it, or add the “repeat” or “if” above.');
    }
    block.step.endLine = reader.line;
    this.into = block.into;
    this.reached(reader.line);
  }

  private declare(node: SyntaxNode, reader: LineReader): void {
    const own = this.part === 'task' && node.name === 'LetStep';
    if (this.open.length > 0 || (this.part !== 'main' && !own)) {
      const word = /\w+/.exec(reader.text)![0].toLowerCase();
      reader.fail(
        node,
        'declaration',
        `A “${word}” stands at the start, outside every block.`,
        word === 'let' ? 'Move it up; inside a block write “set … to …”.' : 'Move it to the top.',
      );
    }
    this.names = '';
    const sets = declare(this.program, node, reader);
    if (sets) this.push(sets);
  }

  /** Reads what is done beside the main program. */
  private readWatcher({ head, body, end }: BlockLines): void {
    const watcher: Program['watchers'][number] = {
      test: null,
      body: [],
      at: this.reader(head).place({ from: 0, to: head.text.length }),
      endLine: 0,
    };
    this.program.watchers.push(watcher);
    this.part = 'watcher';
    this.attempt(head, () => {
      const reader = this.reader(head);
      watcher.at = reader.place(head.node!);
      watcher.test = reader.settled(reader.truth(reader.inner(head.node!)[0]!));
    });
    this.into = watcher.body;
    this.readBody(body);
    if (end) watcher.endLine = end.number;
    else this.noEnd(watcher.at, 'whenever');
    this.part = 'main';
  }

  private readBody(body: readonly Line[]): void {
    body.forEach((line) => this.attempt(line, () => this.understand(line)));
    this.closeBlocks();
  }

  private noEnd(at: Place, word: string): void {
    this.program.findings.push(
      fault(at, 'missing end', `This “${word}” has no “end”.`, 'Add a line “end” where it should close.'),
    );
  }

  /** Reads the bodies of own steps: those called first, so that their parameters have kinds, then the rest. */
  private readTasks(): void {
    const { findings, tasks } = this.program;
    const { called } = this.calls;
    const done = new Set<number>();
    for (let next = 0; done.size < this.taskLines.length;) {
      const uncalled = next >= called.length;
      const index = uncalled ? this.taskLines.findIndex((_, i) => !done.has(i)) : called[next++]!;
      if (done.has(index)) continue;
      done.add(index);
      const before = findings.length;
      this.readTask(index);
      // Nobody says what kind of number an uncalled own step is given, so nothing can be held against it.
      if (uncalled && (tasks[index]?.parameters.length ?? 0) > 0) {
        for (let i = findings.length - 1; i >= before; i--) {
          if (findings[i]!.rule === 'kind') findings.splice(i, 1);
        }
      }
    }
    for (const { task, at } of this.unknownGives) {
      const { name, gives } = tasks[task]!;
      if (gives !== null) continue;
      const says = `“${name}” gives nothing back.`;
      findings.push(fault(at, 'give back', says, 'Write in it, for example: give back average of readings.'));
    }
  }

  private readTask(index: number): void {
    const { body, end } = this.taskLines[index]!;
    const task = this.program.tasks[index]!;
    this.scope = { ...this.scope, task: index };
    this.names = '';
    this.part = 'task';
    this.into = task.body;
    this.readBody(body);
    if (end) task.endLine = end.number;
    else this.noEnd(task.at, 'task');
    this.scope = { ...this.scope, task: null };
    this.names = '';
    this.part = 'main';
  }
}

/** A step that holds no other steps, with every `threshold` in it some sensor's. */
function plainStep(node: SyntaxNode, reader: LineReader): Step {
  const step = readPlainStep(node, reader)!;
  expressionsOf(step).forEach((expr) => reader.settled(expr));
  return step;
}

const endless = (at: Place): Extract<Step, { kind: 'repeat' }> => ({
  kind: 'repeat',
  how: 'forever',
  amount: null,
  counter: null,
  body: [],
  endLine: 0,
  at,
});

function tooLong(says: string, line: number): Program {
  const program = emptyProgram();
  program.findings.push(fault({ line, column: 1, length: 1 }, 'size', says, 'Shorten it.'));
  return program;
}

/**
 * Reads a script. Never throws for anything a person can write; faults stand in `findings` with line,
 * column and one sentence each, all of them at once.
 */
export function parseScript(text: string): Program {
  const given = text.replace(/\r\n?/g, '\n');
  if (given.length > SCRIPT_LIMIT.characters)
    return tooLong(
      `The script is longer than ${SCRIPT_LIMIT.characters.toLocaleString('en')} characters.`,
      1,
    );
  const all = given.split('\n');
  const lines = all.slice(0, SCRIPT_LIMIT.lines);
  const settled = new Settled();
  let program: Program;
  for (let reading = 0; ; reading++) {
    settled.news = false;
    program = new ScriptReader(settled).read(lines);
    if (!settled.news || reading >= READINGS) break;
  }
  if (all.length > SCRIPT_LIMIT.lines) {
    const says = `The script has more than ${SCRIPT_LIMIT.lines} lines.`;
    const at = { line: SCRIPT_LIMIT.lines, column: 1, length: 1 };
    program.findings.unshift(fault(at, 'size', says, 'Shorten it.'));
  }
  return program;
}

/** Whether a program may run: it has no fault, and steps of the main program or beside it. */
export function canRun(program: Program): boolean {
  const steps = program.steps.length > 0 || program.watchers.some(({ body }) => body.length > 0);
  return steps && !program.findings.some((finding) => finding.grade === 'fault');
}
