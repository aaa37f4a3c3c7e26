import type { SyntaxNode } from '@lezer/common';
import type { SensorKind } from '../sensing/index.ts';
import type { Direction, Expr, For, SensorDeclaration, Step } from './ast.ts';
import { kindOf, lampColours, sensorKindWords } from './kinds.ts';
import type { LineReader } from './lower.ts';
import { nearest, shapeOf } from './shapes.ts';
import { sensorsIn } from './walk.ts';

/** A speed in %. What is left of a turn may stand for one, degree for percent: that is how a turn is slowed. */
function speed(reader: LineReader, node: SyntaxNode): Expr {
  const found = reader.expr(node);
  if (kindOf(found) === 'angle' && sensorsIn(found).size > 0) return found;
  return reader.quantity(node, ['percent'], 'A speed');
}

/** What stands in a part such as `at 30 %`; null when the line has no such part. */
function partOf(node: SyntaxNode, name: string, reader: LineReader): SyntaxNode | null {
  const part = node.getChild(name);
  return part && reader.inner(part)[0]!;
}

function atPart(node: SyntaxNode, reader: LineReader): Expr | null {
  const inner = partOf(node, 'AtPart', reader);
  return inner && speed(reader, inner);
}

function forPart(node: SyntaxNode, reader: LineReader): For | null {
  const inner = partOf(node, 'ForPart', reader);
  if (!inner) return null;
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

const directionOf = (node: SyntaxNode, reader: LineReader) =>
  reader.words(node.getChild('Direction')!).toLowerCase() as Direction;

const isRaw = (node: SyntaxNode, reader: LineReader) => /^raw\b/i.test(reader.words(node));

/** A word out of a fixed list; `says` and `mend` tell what is wrong with any other. */
function choice<T extends string>(
  node: SyntaxNode,
  words: readonly T[],
  reader: LineReader,
  says: (word: string) => string,
  mend: string,
): T {
  const word = reader.words(node).toLowerCase();
  const found = words.find((known) => known === word);
  if (found) return found;
  const near = nearest(word, words);
  return reader.fail(node, 'shape', says(word), near ? `Did you mean “${near}”?` : mend);
}

function shown(node: SyntaxNode, reader: LineReader): Expr[] {
  if (node.name === 'And') return reader.inner(node).flatMap((child) => shown(child, reader));
  return [reader.now(reader.expr(node))];
}

/** Reads a step that holds no other steps; null when the node is not one. */
export function readPlainStep(node: SyntaxNode, reader: LineReader): Step | null {
  const at = reader.place(node);
  const exprs = reader.inner(node);
  switch (node.name) {
    case 'SetStep': {
      const name = node.getChild('Name')!;
      const index = reader.valueIndex(reader.name(name));
      if (index < 0) reader.unknown(name);
      const declared = reader.scope.values[index]!;
      const value = reader.quantity(exprs[1]!, [declared.of], `“${declared.name}”`);
      return { kind: 'set', index, value, at };
    }
    case 'DriveStep': {
      const raw = isRaw(node, reader);
      return { kind: 'drive', speed: speed(reader, exprs[0]!), until: forPart(node, reader), raw, at };
    }
    case 'WheelsStep': {
      const [left, right] = exprs[0]!.name === 'And' ? reader.inner(exprs[0]!) : [];
      if (!left || !right) {
        return reader.fail(
          node,
          'shape',
          'Two speeds are wanted, left and right.',
          `It reads like: ${shapeOf('wheels')}.`,
        );
      }
      return {
        kind: 'wheels',
        left: speed(reader, left),
        right: speed(reader, right),
        until: forPart(node, reader),
        raw: isRaw(node, reader),
        at,
      };
    }
    case 'SteerStep': {
      const steering = reader.quantity(exprs[0]!, ['percent', 'angle', 'number'], 'Steering');
      return { kind: 'steer', steering, speed: atPart(node, reader)!, until: forPart(node, reader), at };
    }
    case 'TurnStep': {
      const angle = reader.quantity(exprs[1]!, ['angle'], 'A turn');
      return { kind: 'turn', direction: directionOf(node, reader), angle, speed: atPart(node, reader), at };
    }
    case 'SpinStep':
      return { kind: 'spin', direction: directionOf(node, reader), speed: atPart(node, reader)!, at };
    case 'StopStep': {
      const manner = node.getChild('Manner');
      const how = manner
        ? choice(
            manner,
            ['brake', 'hold', 'coast'],
            reader,
            (word) => `A stop can “hold” or “coast”, not “${word}”.`,
            'Write stop, stop and hold, or stop and coast.',
          )
        : 'brake';
      return { kind: 'stop', how, at };
    }
    case 'TurretStep': {
      const manner = node.getChild('Manner');
      if (manner) {
        choice(
          manner,
          ['ahead'],
          reader,
          (word) => `A turret cannot be turned “${word}”.`,
          `It reads like: ${shapeOf('turret')}.`,
        );
        return { kind: 'turret', direction: null, angle: null, speed: null, at };
      }
      const angle = reader.quantity(exprs[1]!, ['angle'], 'A turn');
      return { kind: 'turret', direction: directionOf(node, reader), angle, speed: atPart(node, reader), at };
    }
    case 'ZeroStep': {
      const what = choice(
        node.getChild('Zeroable')!,
        ['heading', 'wheels', 'timer'],
        reader,
        (word) => `“${word}” cannot be zeroed.`,
        'Write zero heading, zero wheels or zero timer; a value of your own is set: set lanes to 0.',
      );
      return { kind: 'zero', what, at };
    }
    case 'WaitStep': {
      const until = partOf(node, 'UntilPart', reader);
      if (until) return { kind: 'waitUntil', test: reader.truth(until), at };
      return { kind: 'wait', time: reader.quantity(exprs[0]!, ['time'], 'A wait'), at };
    }
    case 'FinishStep':
      return { kind: 'finish', at };
    case 'ShowStep':
      return { kind: 'show', items: shown(exprs[0]!, reader), at };
    case 'ClearStep':
      return { kind: 'clear', at };
    case 'BeepStep':
      return beep(node, reader);
    case 'LampStep': {
      const colour = choice(
        node.getChild('Shade')!,
        ['off', ...lampColours],
        reader,
        (word) => `The lamp cannot be “${word}”.`,
        `It can be off, ${lampColours.join(', ')}.`,
      );
      return { kind: 'lamp', colour: colour === 'off' ? null : colour, at };
    }
    default:
      return null;
  }
}

function beep(node: SyntaxNode, reader: LineReader): Step {
  const [first] = reader.inner(node);
  const pitch =
    first && !first.name.endsWith('Part')
      ? reader.quantity(first, ['frequency'], 'The pitch of a beep')
      : null;
  const time = partOf(node, 'ForPart', reader);
  const volume = partOf(node, 'AtPart', reader);
  return {
    kind: 'beep',
    pitch,
    time: time && reader.quantity(time, ['time'], 'How long it beeps'),
    volume: volume && reader.quantity(volume, ['percent'], 'Its loudness'),
    at: reader.place(node),
  };
}

/** The head of a repeat: how it goes on and by what. */
export function readRepeat(
  node: SyntaxNode,
  reader: LineReader,
): Pick<Extract<Step, { kind: 'repeat' }>, 'how' | 'amount'> {
  const part = reader.inner(node)[0];
  if (!part) return { how: 'forever', amount: null };
  const inner = reader.inner(part)[0]!;
  switch (part.name) {
    case 'TimesPart':
      return { how: 'times', amount: reader.quantity(inner, ['number'], 'How many times') };
    case 'ForPart':
      return { how: 'for', amount: reader.quantity(inner, ['time'], 'How long') };
    default:
      return { how: part.name === 'UntilPart' ? 'until' : 'while', amount: reader.truth(inner) };
  }
}

/** A declared sensor. */
export function readSensor(node: SyntaxNode, reader: LineReader): SensorDeclaration {
  const kindNode = node.getChild('Kind')!;
  const word = reader.words(kindNode).toLowerCase();
  const kind = sensorKindWords.find((known) => known === word);
  if (!kind) {
    const near = nearest(word, sensorKindWords);
    const mend = near ? `Did you mean “${near}”?` : `Kinds are ${sensorKindWords.join(', ')}.`;
    return reader.fail(kindNode, 'sensor kind', `“${word}” is not a kind of sensor.`, mend);
  }
  return {
    name: reader.name(node.getChild('Name')!),
    kind,
    unit: kind === 'distance' ? (declaredUnit(node, kind, reader) ?? 'cm') : declaredUnit(node, kind, reader),
    socket: reader.words(node.getChild('Socket')!),
    at: reader.place(node),
  };
}

function declaredUnit(node: SyntaxNode, kind: SensorKind, reader: LineReader): SensorDeclaration['unit'] {
  const unitNode = node.getChild('Unit');
  if (!unitNode) return null;
  const unit = reader.unit(unitNode);
  const word = reader.words(node.getChild('Preposition')!).toLowerCase();
  if (word !== 'in' || kind !== 'distance' || (unit !== 'mm' && unit !== 'cm' && unit !== 'in')) {
    return reader.fail(
      unitNode,
      'unit',
      'Only a distance is told in a unit of your choice.',
      'Write, for example: sensor front is distance in cm on K2.',
    );
  }
  return unit;
}
