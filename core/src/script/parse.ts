import type { SyntaxNode } from '@lezer/common';
import type { Arm, Program, Step } from './ast.ts';
import { fault, type Place } from './findings.ts';
import { kindOf } from './kinds.ts';
import { lineOf, notUnderstood, partTasks, type Line, type TaskLines } from './lines.ts';
import { LineReader } from './lower.ts';
import { LineFault, same as sameName, type Scope } from './names.ts';
import { readPlainStep, readRepeat, readSensor } from './readStep.ts';
import { nearest, shapeOf } from './shapes.ts';
import { expressionsOf, parts } from './walk.ts';

/** A script may not be longer than this, in characters and in lines, nor its blocks lie deeper. */
export const SCRIPT_LIMIT = { characters: 200_000, lines: 2_000, depth: 30 };

interface OpenBlock {
  step: Extract<Step, { kind: 'repeat' | 'if' }>;
  into: Step[];
  at: Place;
}

/** Reads scripts line by line, so that all faults are listed and the good part is still there. */
class ScriptReader {
  readonly program: Program = {
    sensors: [],
    motors: [],
    values: [],
    tasks: [],
    steps: [],
    stepCount: 0,
    lastLine: 0,
    findings: [],
    source: [],
  };
  private open: OpenBlock[] = [];
  private into: Step[] = this.program.steps;
  private scope: Scope = { ...this.program, task: null };
  private taskLines: TaskLines[] = [];
  /** Own steps in the order of their first call; a parameter takes its kind from that call. */
  private readonly called: number[] = [];

  read(text: string): Program {
    const { findings } = this.program;
    if (text.length > SCRIPT_LIMIT.characters) {
      const says = `The script is longer than ${SCRIPT_LIMIT.characters.toLocaleString('en')} characters.`;
      findings.push(fault({ line: 1, column: 1, length: 1 }, 'size', says, 'Shorten it.'));
      return this.program;
    }
    const lines = text.split('\n');
    if (lines.length > SCRIPT_LIMIT.lines) {
      const says = `The script has more than ${SCRIPT_LIMIT.lines} lines.`;
      findings.push(fault({ line: SCRIPT_LIMIT.lines, column: 1, length: 1 }, 'size', says, 'Shorten it.'));
      lines.length = SCRIPT_LIMIT.lines;
    }
    this.program.source = lines;
    const { main, tasks } = partTasks(lines.map((line, i) => lineOf(line, i + 1)));
    this.taskLines = tasks;
    // A head that goes astray still has a body whose faults are worth telling.
    this.program.tasks.push(
      ...tasks.map(({ head }) => ({
        name: '',
        parameters: [],
        body: [],
        at: this.reader(head).place({ from: 0, to: head.text.length }),
        endLine: 0,
      })),
    );
    tasks.forEach(({ head }, index) => this.attempt(head, () => this.taskHead(head, index)));
    main.forEach((line) => this.attempt(line, () => this.understand(line)));
    this.closeBlocks();
    this.readTasks();
    this.refuseCircles();
    findings.sort((a, b) => a.line - b.line || a.column - b.column);
    return this.program;
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
    if (line.node) this.step(line.node, this.reader(line));
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
    if (line.opens === 'repeat')
      this.openBlock({ kind: 'repeat', how: 'forever', amount: null, body: [], endLine: 0, at });
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
    if (this.scope.task === null) this.program.lastLine = line;
  }

  private step(node: SyntaxNode, reader: LineReader): void {
    const plain = readPlainStep(node, reader);
    if (plain) {
      expressionsOf(plain).forEach((expr) => reader.settled(expr));
      return this.push(plain);
    }
    const at = reader.place(node);
    switch (node.name) {
      case 'SensorStep':
      case 'MotorStep':
      case 'LetStep':
        return this.declare(node, reader);
      case 'RepeatStep': {
        // A block is opened even when its head is wrong, so that its `end` still belongs to it.
        const block = {
          kind: 'repeat' as const,
          how: 'forever' as const,
          amount: null,
          body: [],
          endLine: 0,
          at,
        };
        this.openBlock(block);
        Object.assign(block, readRepeat(node, reader));
        if (block.amount) reader.settled(block.amount);
        return;
      }
      case 'LeaveStep':
        if (!this.open.some((block) => block.step.kind === 'repeat')) {
          reader.fail(
            node,
            'leave',
            '“leave” stands outside any repeat.',
            'Put it inside a repeat, or write “finish” to end the program.',
          );
        }
        return this.push({ kind: 'leave', at });
      case 'IfStep': {
        const arm: Arm = { line: at.line, test: null, body: [] };
        this.openBlock({ kind: 'if', arms: [arm], endLine: 0, at });
        arm.test = reader.look(reader.inner(node)[0]!);
        return;
      }
      case 'ElseIfStep':
      case 'ElseStep':
        return this.otherArm(node, reader);
      case 'EndStep':
        return this.end(node, reader);
      case 'TaskStep':
        return reader.fail(
          node,
          'task',
          'An own step cannot stand inside another block.',
          'Move it to the end of the script, or close the block above with “end”.',
        );
      case 'DoStep':
        return this.call(node, reader);
    }
  }

  private otherArm(node: SyntaxNode, reader: LineReader): void {
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
    if (node.name === 'ElseIfStep') arm.test = reader.look(reader.inner(node)[0]!);
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
    if (this.open.length > 0 || this.scope.task !== null) {
      const word = /\w+/.exec(reader.text)![0].toLowerCase();
      reader.fail(
        node,
        'declaration',
        `A “${word}” stands at the start, outside every block.`,
        word === 'let' ? 'Move it up; inside a block write “set … to …”.' : 'Move it to the top.',
      );
    }
    const nameNode = node.getChild('Name')!;
    this.claim(nameNode, reader);
    if (node.name === 'SensorStep') this.program.sensors.push(readSensor(node, reader));
    else if (node.name === 'MotorStep') this.motor(node, reader);
    else this.value(node, reader);
  }

  private motor(node: SyntaxNode, reader: LineReader): void {
    const kind = node.getChild('Kind')!;
    if (!sameName(reader.words(kind), 'turret')) {
      reader.fail(
        kind,
        'motor kind',
        `“${reader.words(kind)}” is not a kind of motor.`,
        'A motor beside the wheels is a turret; the wheels need no declaration.',
      );
    }
    this.program.motors.push({
      name: reader.name(node.getChild('Name')!),
      socket: reader.words(node.getChild('Socket')!),
      at: reader.place(node),
    });
  }

  private value(node: SyntaxNode, reader: LineReader): void {
    const valueNode = reader.inner(node).at(-1)!;
    const initial = reader.expr(valueNode);
    const of = kindOf(initial);
    if (of === 'text' || of === 'truth') {
      return reader.fail(
        valueNode,
        'kind',
        'A value holds a number or a quantity.',
        `It reads like: ${shapeOf('let')}.`,
      );
    }
    if (parts(initial).some((part) => part.kind === 'threshold' && part.sensor < 0)) {
      return reader.fail(
        valueNode,
        'threshold',
        'Say whose threshold.',
        'Write, for example: let tide = threshold of floor.',
      );
    }
    const name = reader.name(node.getChild('Name')!);
    this.program.values.push({ name, of, initial, task: null, at: reader.place(node) });
  }

  private claim(node: SyntaxNode, reader: LineReader): void {
    const name = reader.name(node);
    const { sensors, motors, values } = this.program;
    const global = values.filter((value) => value.task === null);
    const before = [...sensors, ...motors, ...global].find((known) => sameName(known.name, name));
    if (before) {
      reader.fail(
        node,
        'name taken',
        `“${name}” is declared on line ${before.at.line} already.`,
        'Choose another name.',
      );
    }
  }

  private taskHead(line: Line, index: number): void {
    const reader = this.reader(line);
    const node = line.node!;
    const nameNode = node.getChild('TaskName')!;
    const name = reader.name(nameNode);
    const task = this.program.tasks[index]!;
    const before = this.program.tasks.find((known) => sameName(known.name, name));
    Object.assign(task, { name, at: reader.place(node) });
    for (const parameter of node.getChildren('Name')) {
      const own = { name: reader.name(parameter), at: reader.place(parameter) };
      const twice = task.parameters.some((p) => sameName(this.program.values[p]!.name, own.name));
      if (twice)
        reader.fail(parameter, 'name taken', `“${own.name}” stands there twice.`, 'Choose another name.');
      task.parameters.push(this.program.values.length);
      this.program.values.push({ ...own, of: 'number', initial: null, task: index });
    }
    if (before) {
      reader.fail(
        nameNode,
        'name taken',
        `“${name}” is an own step on line ${before.at.line} already.`,
        'Choose another name.',
      );
    }
  }

  private call(node: SyntaxNode, reader: LineReader): void {
    const nameNode = node.getChild('TaskName')!;
    const name = reader.name(nameNode);
    const { tasks } = this.program;
    const index = tasks.findIndex((task) => sameName(task.name, name));
    if (index < 0) {
      const near = nearest(
        name,
        tasks.map((task) => task.name),
      );
      return reader.fail(
        nameNode,
        'unknown task',
        `There is no own step “${name}”.`,
        near ? `Did you mean “${near}”?` : `Write it at the end: task ${name}, its steps, end.`,
      );
    }
    const { parameters } = tasks[index]!;
    const given = reader.inner(node).filter((child) => child.name !== 'TaskName');
    if (given.length !== parameters.length) {
      const wanted = parameters.map((p) => this.program.values[p]!.name).join(', ');
      return reader.fail(
        node,
        'arguments',
        `“${name}” takes ${parameters.length === 0 ? 'no number' : `${wanted}`}, but ${given.length} ${given.length === 1 ? 'is' : 'are'} given.`,
        parameters.length === 0
          ? `Write: do ${name}.`
          : `Write: do ${name} by ${parameters.map(() => '…').join(', ')}.`,
      );
    }
    const first = !this.called.includes(index);
    if (first) this.called.push(index);
    const args = given.map((child, i) => {
      const parameter = this.program.values[parameters[i]!]!;
      if (!first) return reader.quantity(child, [parameter.of], `“${parameter.name}”`);
      const arg = reader.settled(reader.expr(child));
      const of = kindOf(arg);
      if (of === 'text' || of === 'truth') {
        return reader.fail(child, 'kind', 'An own step is given numbers.', 'Write a number with its unit.');
      }
      parameter.of = of;
      return arg;
    });
    this.push({ kind: 'do', task: index, args, at: reader.place(node) });
  }

  /** Reads the bodies of own steps: those called first, so that their parameters have kinds, then the rest. */
  private readTasks(): void {
    const { findings, tasks } = this.program;
    const done = new Set<number>();
    for (let next = 0; done.size < this.taskLines.length;) {
      const uncalled = next >= this.called.length;
      const index = uncalled ? this.taskLines.findIndex((_, i) => !done.has(i)) : this.called[next++]!;
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
  }

  private readTask(index: number): void {
    const { body, end } = this.taskLines[index]!;
    const task = this.program.tasks[index]!;
    this.scope = { ...this.program, task: index };
    this.into = task.body;
    body.forEach((line) => this.attempt(line, () => this.understand(line)));
    this.closeBlocks();
    if (end) task.endLine = end.number;
    else {
      this.program.findings.push(
        fault(task.at, 'missing end', 'This “task” has no “end”.', 'Add a line “end” where it should close.'),
      );
    }
    this.scope = { ...this.program, task: null };
  }

  /** An own step that does itself would never come back. */
  private refuseCircles(): void {
    const { tasks, findings } = this.program;
    const calls = tasks.map((task) => callsIn(task.body));
    const reaches = (from: number, to: number, seen = new Set<number>()): boolean =>
      calls[from]!.some(({ task }) => {
        if (task === to) return true;
        if (seen.has(task)) return false;
        seen.add(task);
        return reaches(task, to, seen);
      });
    calls.forEach((list, from) => {
      for (const { task, at } of list) {
        if (task !== from && !reaches(task, from)) continue;
        const says = `“${tasks[from]!.name}” would do itself again and never come back.`;
        findings.push(fault(at, 'circle', says, 'Use a repeat instead.'));
      }
    });
  }
}

function callsIn(steps: readonly Step[]): Extract<Step, { kind: 'do' }>[] {
  return steps.flatMap((step) => {
    if (step.kind === 'do') return [step];
    if (step.kind === 'repeat') return callsIn(step.body);
    return step.kind === 'if' ? step.arms.flatMap((arm) => callsIn(arm.body)) : [];
  });
}

/**
 * Reads a script. Never throws for anything a person can write; faults stand in `findings` with line,
 * column and one sentence each, all of them at once.
 */
export function parseScript(text: string): Program {
  return new ScriptReader().read(text.replace(/\r\n?/g, '\n'));
}

/** Whether a program may run. */
export function canRun(program: Program): boolean {
  return !program.findings.some((finding) => finding.grade === 'fault') && program.steps.length > 0;
}
