import type { SyntaxNode } from '@lezer/common';
import type { Arm, Program, Step } from './ast.ts';
import { Blocks, DEEPEST_BLOCK, endless, noEnd } from './blocks.ts';
import { counterOf, declare, into } from './declare.ts';
import { fault } from './findings.ts';
import { giveBack, readGiven, Takers } from './givenBack.ts';
import { lineOf, notUnderstood, partBlocks, type Line, type BlockLines } from './lines.ts';
import { LineReader } from './lower.ts';
import { LineFault, type Scope } from './names.ts';
import { refuseWideLogs } from './logColumns.ts';
import { Calls, readTaskHead, refuseCircles } from './ownSteps.ts';
import { isPlainStep, readPlainStep, readRepeat } from './readStep.ts';
import { Remembered } from './remembered.ts';
import { Settled } from './settled.ts';
import { expressionsOf } from './walk.ts';

/** A script may not be longer than this, in characters and in lines, nor its blocks lie deeper. */
export const SCRIPT_LIMIT = { characters: 200_000, lines: 2_000, depth: DEEPEST_BLOCK };
/** A script is read again with the kinds that its names have taken, so often at most. */
const READINGS = 6;

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
  private readonly blocks = new Blocks(this.program, (line) => {
    if (this.part === 'main') this.program.lastLine = line;
  });
  private readonly remembered = new Remembered();
  private readonly takers = new Takers(this.program);
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
    this.blocks.close();
    watchers.forEach((one) => this.readWatcher(one));
    this.readTasks();
    refuseCircles(this.program);
    refuseWideLogs(this.program);
    findings.sort((a, b) => a.line - b.line || a.column - b.column);
    return this.program;
  }

  private meaning<T>(line: Line, work: () => T): T {
    return this.remembered.meaning(line, this.scope, work);
  }

  private reader(line: Line): LineReader {
    return new LineReader(line.text, line.number, this.scope);
  }

  /** Does something for a line and keeps the fault it may meet. */
  private attempt(line: Line, work: () => void): void {
    try {
      if (line.error) {
        const reader = this.reader(line);
        this.blocks.keep(line, reader.place({ from: 0, to: line.text.length }));
        throw new LineFault(notUnderstood(reader, line.error));
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

  private step(node: SyntaxNode, reader: LineReader, line: Line): void {
    if (isPlainStep(node)) return this.blocks.push(this.meaning(line, () => plainStep(node, reader)));
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
        this.blocks.enter(block);
        const { counter, ...head } = this.meaning(line, () => {
          const read = readRepeat(node, reader);
          if (read.amount) reader.settled(read.amount);
          return read;
        });
        Object.assign(block, head);
        if (counter) {
          this.remembered.forget();
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
        this.blocks.enter({ kind: 'if', arms: [arm], endLine: 0, at });
        arm.test = this.meaning(line, () => reader.settled(reader.look(reader.inner(node)[0]!)));
        return;
      }
      case 'ElseIfStep':
      case 'ElseStep': {
        const arm = this.blocks.otherArm(node, reader);
        if (node.name === 'ElseIfStep')
          arm.test = this.meaning(line, () => reader.settled(reader.look(reader.inner(node)[0]!)));
        return;
      }
      case 'EndStep':
        return this.blocks.leave(node, reader);
      case 'TaskStep':
      case 'WheneverStep':
        return reader.fail(
          node,
          'task',
          `${node.name === 'TaskStep' ? 'An own step' : 'A “whenever”'} cannot stand inside another block.`,
          'Move it to the end of the script, or close the block above with “end”.',
        );
      case 'DoStep':
        return this.blocks.push(this.called(node, reader, null));
    }
  }

  private leave(node: SyntaxNode, reader: LineReader): void {
    if (!this.blocks.repeats) {
      reader.fail(
        node,
        'leave',
        '“leave” stands outside any repeat.',
        this.part === 'task'
          ? 'Put it inside a repeat, or write “give back” to go out of the own step.'
          : 'Put it inside a repeat, or write “finish” to end the program.',
      );
    }
    this.blocks.push({ kind: 'leave', at: reader.place(node) });
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
    const value = valueNode ? reader.settled(reader.now(readGiven(this.program, valueNode, reader))) : null;
    const step = { kind: 'give' as const, value, at: reader.place(node) };
    giveBack(this.program, step, valueNode ?? node, reader);
    this.blocks.push(step);
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
      return this.blocks.push({ kind: 'set', index, value, at: reader.place(node) });
    }
    const call = this.called(given, reader, index);
    this.takers.take(index, call.task, given, reader);
    this.blocks.push({ ...call, at: reader.place(node) });
  }

  /** A call; the first one of an own step says what kinds its parameters have. */
  private called(node: SyntaxNode, reader: LineReader, into: number | null): Extract<Step, { kind: 'do' }> {
    const before = this.calls.called.length;
    const call = this.calls.read(node, reader, into);
    if (this.calls.called.length !== before) this.remembered.forget();
    return call;
  }

  private declare(node: SyntaxNode, reader: LineReader): void {
    const own = this.part === 'task' && node.name === 'LetStep';
    if (this.blocks.some || (this.part !== 'main' && !own)) {
      const word = /\w+/.exec(reader.text)![0].toLowerCase();
      reader.fail(
        node,
        'declaration',
        `A “${word}” stands at the start, outside every block.`,
        word === 'let' ? 'Move it up; inside a block write “set … to …”.' : 'Move it to the top.',
      );
    }
    this.remembered.forget();
    const sets = declare(this.program, node, reader);
    if (sets) this.blocks.push(sets);
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
    this.blocks.begin(watcher.body);
    this.readBody(body);
    if (end) watcher.endLine = end.number;
    else this.program.findings.push(noEnd(watcher.at, 'whenever'));
    this.part = 'main';
  }

  private readBody(body: readonly Line[]): void {
    body.forEach((line) => this.attempt(line, () => this.understand(line)));
    this.blocks.close();
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
    this.takers.refuseNothing();
  }

  private readTask(index: number): void {
    const { body, end } = this.taskLines[index]!;
    const task = this.program.tasks[index]!;
    this.scope = { ...this.scope, task: index };
    this.remembered.forget();
    this.part = 'task';
    this.blocks.begin(task.body);
    this.readBody(body);
    if (end) task.endLine = end.number;
    else this.program.findings.push(noEnd(task.at, 'task'));
    this.scope = { ...this.scope, task: null };
    this.remembered.forget();
    this.part = 'main';
  }
}

/** A step that holds no other steps, with every `threshold` in it some sensor's. */
function plainStep(node: SyntaxNode, reader: LineReader): Step {
  const step = readPlainStep(node, reader)!;
  expressionsOf(step).forEach((expr) => reader.settled(expr));
  return step;
}

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
