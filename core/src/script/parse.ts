import type { SyntaxNode, Tree } from '@lezer/common';
import type { SensorKind } from '../sensing/index.ts';
import type { Arm, Expr, For, Program, Step } from './ast.ts';
import { fault, type Finding, type Place } from './findings.ts';
import { parser } from './generated/parser.ts';
import { keywords } from './keywords.ts';
import { kindOf, LineFault, LineReader, sensorKindWords } from './lower.ts';
import { nearest, shapeOf, shapes } from './shapes.ts';

/** A script may not be longer than this, in characters and in lines. */
export const SCRIPT_LIMIT = { characters: 200_000, lines: 2_000, depth: 30 };

const lineParser = parser.configure({ top: 'Line' });

interface OpenBlock {
  step: Extract<Step, { kind: 'repeat' | 'if' }>;
  into: Step[];
  at: Place;
}

function firstError(tree: Tree): { from: number; to: number } | null {
  let found: { from: number; to: number } | null = null;
  tree.iterate({
    enter(node) {
      if (node.type.isError && !found) found = { from: node.from, to: node.to };
      return !found;
    },
  });
  return found;
}

function notUnderstood(reader: LineReader, error: { from: number; to: number }): Finding {
  const text = reader.text;
  const first = /[^\s#]+/.exec(text)!;
  const word = /^[A-Za-z]+/.exec(first[0])?.[0].toLowerCase() ?? '';
  if (!shapes[word]) {
    const near = nearest(word, Object.keys(shapes));
    const at = reader.place({ from: first.index, to: first.index + first[0].length });
    return fault(
      at,
      'unknown step',
      `“${first[0]}” is not a step.`,
      near
        ? `Did you mean “${near}”? It reads like: ${shapeOf(near)}.`
        : `Steps start with ${Object.keys(shapes).join(', ')}.`,
    );
  }
  const rest = text.slice(error.from).replace(/#.*$/, '').trim();
  const at = reader.place({ from: error.from, to: Math.max(error.to, error.from + rest.length) });
  const reserved = /^[a-z]+/i.exec(rest)?.[0] ?? '';
  const taken =
    (word === 'sensor' || word === 'let' || word === 'set') && keywords.includes(reserved.toLowerCase());
  return fault(
    at,
    'shape',
    rest === ''
      ? `This “${word}” is not complete.`
      : taken
        ? `“${reserved}” is a word of the script itself and cannot be a name.`
        : `“${word}” does not go on with “${rest.length > 40 ? `${rest.slice(0, 40)}…` : rest}”.`,
    `It reads like: ${shapeOf(word)}.`,
  );
}

/** Reads scripts line by line, so that all faults are listed and the good part is still there. */
class ScriptReader {
  readonly program: Program = { sensors: [], values: [], steps: [], stepCount: 0, lastLine: 0, findings: [] };
  private readonly open: OpenBlock[] = [];
  private into: Step[] = this.program.steps;

  read(text: string): Program {
    if (text.length > SCRIPT_LIMIT.characters) {
      const says = `The script is longer than ${SCRIPT_LIMIT.characters.toLocaleString('en')} characters.`;
      this.program.findings.push(fault({ line: 1, column: 1, length: 1 }, 'size', says, 'Shorten it.'));
      return this.program;
    }
    const lines = text.split('\n');
    if (lines.length > SCRIPT_LIMIT.lines) {
      const says = `The script has more than ${SCRIPT_LIMIT.lines} lines.`;
      this.program.findings.push(
        fault({ line: SCRIPT_LIMIT.lines, column: 1, length: 1 }, 'size', says, 'Shorten it.'),
      );
      lines.length = SCRIPT_LIMIT.lines;
    }
    lines.forEach((line, i) => this.line(line, i + 1));
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
    return this.program;
  }

  private line(text: string, number: number): void {
    const reader = new LineReader(text, number, this.program);
    const tree = lineParser.parse(text);
    const node = this.stepNode(tree);
    try {
      const error = firstError(tree);
      if (error) {
        this.keepBlocks(text, reader);
        throw new LineFault(notUnderstood(reader, error));
      }
      if (node) this.step(node, reader);
    } catch (caught) {
      if (!(caught instanceof LineFault)) throw caught;
      this.program.findings.push(caught.finding);
    }
  }

  private stepNode(tree: Tree): SyntaxNode | null {
    let node = tree.topNode.firstChild;
    while (node && !node.name.endsWith('Step')) node = node.nextSibling;
    return node;
  }

  /** A block opener that went astray still opens its block, so that its `end` is not reported too. */
  private keepBlocks(text: string, reader: LineReader): void {
    const word = /^\s*(repeat|if)\b/i.exec(text)?.[1]?.toLowerCase();
    const at = reader.place({ from: 0, to: text.length });
    if (word === 'repeat')
      this.openBlock({ kind: 'repeat', how: 'forever', amount: null, body: [], endLine: 0, at });
    if (word === 'if')
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
    this.program.lastLine = step.at.line;
  }

  private step(node: SyntaxNode, reader: LineReader): void {
    const at = reader.place(node);
    const exprs = reader.inner(node);
    switch (node.name) {
      case 'SensorStep':
        return this.sensor(node, reader, at);
      case 'LetStep':
        return this.value(node, reader, at);
      case 'SetStep': {
        const name = node.getChild('Name')!;
        const target = this.program.values.findIndex(
          (v) => v.name.toLowerCase() === reader.words(name).toLowerCase(),
        );
        if (target < 0) reader.unknown(name);
        const declared = this.program.values[target]!;
        const value = reader.quantity(exprs[1]!, [declared.of], `“${declared.name}”`);
        return this.push({ kind: 'set', index: target, value, at });
      }
      case 'DriveStep': {
        const speed = reader.quantity(exprs[0]!, ['percent'], 'A speed');
        return this.push({ kind: 'drive', speed, until: this.forPart(node, reader), at });
      }
      case 'WheelsStep': {
        const both = exprs[0]!;
        const [left, right] = both.name === 'And' ? reader.inner(both) : [];
        if (!left || !right)
          reader.fail(
            node,
            'shape',
            'Two speeds are wanted, left and right.',
            `It reads like: ${shapeOf('wheels')}.`,
          );
        return this.push({
          kind: 'wheels',
          left: reader.quantity(left!, ['percent'], 'A speed'),
          right: reader.quantity(right!, ['percent'], 'A speed'),
          until: this.forPart(node, reader),
          at,
        });
      }
      case 'StopStep': {
        const manner = node.getChild('Manner');
        const how = manner ? reader.words(manner).toLowerCase() : 'brake';
        if (how !== 'brake' && how !== 'hold' && how !== 'coast') {
          return reader.fail(
            manner!,
            'shape',
            `A stop can “hold” or “coast”, not “${how}”.`,
            'Write stop, stop and hold, or stop and coast.',
          );
        }
        return this.push({ kind: 'stop', how, at });
      }
      case 'WaitStep': {
        const until = node.getChild('UntilPart');
        if (until) return this.push({ kind: 'waitUntil', test: reader.truth(reader.inner(until)[0]!), at });
        return this.push({ kind: 'wait', time: reader.quantity(exprs[0]!, ['time'], 'A wait'), at });
      }
      case 'RepeatStep':
        return this.repeat(node, reader, at);
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
      case 'FinishStep':
        return this.push({ kind: 'finish', at });
      case 'IfStep': {
        // The block is opened even when its test is wrong, so that its `end` still belongs to it.
        const arm: Arm = { line: at.line, test: null, body: [] };
        this.openBlock({ kind: 'if', arms: [arm], endLine: 0, at });
        arm.test = reader.truth(exprs[0]!);
        return;
      }
      case 'ElseIfStep':
      case 'ElseStep': {
        const block = this.open.at(-1);
        if (block?.step.kind !== 'if')
          return reader.fail(
            node,
            'else',
            'This “else” has no “if” above it.',
            'Add the “if”, or remove this line.',
          );
        if (block.step.arms.at(-1)!.test === null && block.step.arms.length > 1) {
          reader.fail(
            node,
            'else',
            'This comes after an “else” that takes all the rest.',
            'Put it above the “else”.',
          );
        }
        const arm: Arm = { line: at.line, test: null, body: [] };
        block.step.arms.push(arm);
        this.into = arm.body;
        this.program.lastLine = at.line;
        if (node.name === 'ElseIfStep') arm.test = reader.truth(exprs[0]!);
        return;
      }
      case 'EndStep': {
        const block = this.open.pop();
        if (!block)
          return reader.fail(
            node,
            'end',
            'This “end” closes nothing.',
            'Remove it, or add the “repeat” or “if” above.',
          );
        block.step.endLine = at.line;
        this.into = block.into;
        this.program.lastLine = at.line;
        return;
      }
      case 'ShowStep':
        return this.push({ kind: 'show', items: this.items(exprs[0]!, reader), at });
      case 'ClearStep':
        return this.push({ kind: 'clear', at });
    }
  }

  private items(node: SyntaxNode, reader: LineReader): Expr[] {
    if (node.name === 'And') return reader.inner(node).flatMap((child) => this.items(child, reader));
    return [reader.expr(node)];
  }

  private forPart(node: SyntaxNode, reader: LineReader): For | null {
    const part = node.getChild('ForPart');
    if (!part) return null;
    const inner = reader.inner(part)[0]!;
    const amount = reader.expr(inner);
    const of = kindOf(amount);
    if (of !== 'length' && of !== 'angle' && of !== 'time') {
      return reader.fail(
        inner,
        'kind',
        `“for ${reader.words(inner)}” needs a unit.`,
        'Write, for example: for 10 cm, for 2 turns or for 1.5 s.',
      );
    }
    return { of, amount };
  }

  private repeat(node: SyntaxNode, reader: LineReader, at: Place): void {
    const block: Extract<Step, { kind: 'repeat' }> = {
      kind: 'repeat',
      how: 'forever',
      amount: null,
      body: [],
      endLine: 0,
      at,
    };
    this.openBlock(block);
    const part = reader.inner(node)[0];
    if (!part) return;
    const inner = reader.inner(part)[0]!;
    if (part.name === 'TimesPart') {
      block.how = 'times';
      block.amount = reader.quantity(inner, ['number'], 'How many times');
    } else if (part.name === 'ForPart') {
      block.how = 'for';
      block.amount = reader.quantity(inner, ['time'], 'How long');
    } else {
      block.how = part.name === 'UntilPart' ? 'until' : 'while';
      block.amount = reader.truth(inner);
    }
  }

  private sensor(node: SyntaxNode, reader: LineReader, at: Place): void {
    const kindNode = node.getChild('Kind')!;
    const kind = reader.words(kindNode).toLowerCase();
    const name = reader.words(node.getChild('Name')!);
    this.claim(name, node.getChild('Name')!, reader);
    const found = sensorKindWords.find((known) => known === kind);
    if (!found) {
      const near = nearest(kind, sensorKindWords);
      const mend = near ? `Did you mean “${near}”?` : `Kinds are ${sensorKindWords.join(', ')}.`;
      reader.fail(kindNode, 'sensor kind', `“${kind}” is not a kind of sensor.`, mend);
    }
    this.program.sensors.push({
      name,
      kind: found as SensorKind,
      socket: reader.words(node.getChild('Socket')!),
      at,
    });
  }

  private value(node: SyntaxNode, reader: LineReader, at: Place): void {
    const nameNode = node.getChild('Name')!;
    const name = reader.words(nameNode);
    this.claim(name, nameNode, reader);
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
    if (initial.kind === 'threshold' && initial.sensor < 0) {
      return reader.fail(
        valueNode,
        'threshold',
        'Say whose threshold.',
        'Write, for example: let tide = threshold of floor.',
      );
    }
    this.program.values.push({ name, of, initial, at });
  }

  private claim(name: string, node: SyntaxNode, reader: LineReader): void {
    const same = (known: { name: string }) => known.name.toLowerCase() === name.toLowerCase();
    const before = this.program.sensors.find(same) ?? this.program.values.find(same);
    if (before) {
      reader.fail(
        node,
        'name taken',
        `“${name}” is declared on line ${before.at.line} already.`,
        'Choose another name.',
      );
    }
  }
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
