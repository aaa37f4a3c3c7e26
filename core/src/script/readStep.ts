import type { SyntaxNode } from '@lezer/common';
import type { SensorKind } from '../sensing/index.ts';
import type { Direction, Expr, For, Lasting, SensorDeclaration, Step } from './ast.ts';
import { kindOf, lampColours, sensorKindWords } from './kinds.ts';
import type { LineReader } from './lower.ts';
import { truthOfWord } from './names.ts';
import { nearest, shapeOf } from './shapes.ts';

/** A speed in %. What is left of a turn or of a way may stand for one, a degree or a cm for a percent: that is how it is slowed. */
const speed = (reader: LineReader, node: SyntaxNode): Expr => reader.scaled(node, ['percent'], 'A speed');

const parted = new Set(['Direction', 'Way', 'AtPart', 'ForPart', 'UntilPart']);

/** The expressions of a step that stand in none of its parts. */
const ownExprs = (node: SyntaxNode, reader: LineReader): SyntaxNode[] =>
  reader.inner(node).filter(({ name }) => !parted.has(name));

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

/** How a movement ends by itself: “for 10 cm”, “until floor < threshold”, or whichever comes first. */
function lasting(node: SyntaxNode, reader: LineReader): Lasting {
  const test = partOf(node, 'UntilPart', reader);
  return { until: forPart(node, reader), endsWhen: test && reader.truth(test) };
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
  if (
    node.name === 'NameRef' &&
    !reader.isKnown(reader.name(node)) &&
    truthOfWord(reader.name(node)) === null
  ) {
    const said = reader.name(node);
    reader.fail(node, 'unknown name', `“${said}” has no meaning yet.`, `Words stand in quotes: "${said}".`);
  }
  return [reader.now(reader.expr(node))];
}

const plainSteps = new Set([
  'AddStep',
  'DriveStep',
  'WheelsStep',
  'SteerStep',
  'TurnStep',
  'SpinStep',
  'StopStep',
  'TurretStep',
  'ZeroStep',
  'WaitStep',
  'FinishStep',
  'ShowStep',
  'ClearStep',
  'LogStep',
  'SendStep',
  'BeepStep',
  'LampStep',
]);

/** Whether a step holds no others and declares nothing: it means the same wherever the same names are known. */
export const isPlainStep = ({ name }: SyntaxNode): boolean => plainSteps.has(name);

/** Reads a step that holds no other steps; null when the node is not one. */
export function readPlainStep(node: SyntaxNode, reader: LineReader): Step | null {
  const at = reader.place(node);
  const exprs = reader.inner(node);
  switch (node.name) {
    case 'AddStep': {
      const list = reader.list(node.getChild('Name')!);
      return { kind: 'add', list, value: added(list, exprs[0]!, reader), at };
    }
    case 'DriveStep':
      return {
        kind: 'drive',
        speed: driven(node, reader),
        ...lasting(node, reader),
        raw: isRaw(node, reader),
        at,
      };
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
        ...lasting(node, reader),
        raw: isRaw(node, reader),
        at,
      };
    }
    case 'SteerStep': {
      const steering = reader.scaled(exprs[0]!, ['percent', 'angle', 'number'], 'Steering');
      return { kind: 'steer', steering, speed: atPart(node, reader)!, ...lasting(node, reader), at };
    }
    case 'TurnStep':
      return turn(node, reader);
    case 'SpinStep': {
      const spin = { speed: atPart(node, reader), ...lasting(node, reader) };
      if (!spin.speed && !spin.until && !spin.endsWhen) {
        return reader.fail(node, 'shape', 'It is not said how fast.', `It reads like: ${shapeOf('spin')}.`);
      }
      return { kind: 'spin', direction: directionOf(node, reader), ...spin, at };
    }
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
      return { kind: 'zero', what: zeroed(node.getChild('Zeroable')!, reader), at };
    }
    case 'WaitStep': {
      const until = partOf(node, 'UntilPart', reader);
      if (until) return { kind: 'waitUntil', test: reader.truth(until), at };
      const time = partOf(node, 'ForPart', reader) ?? exprs[0]!;
      if (time.name === 'Text')
        reader.fail(
          time,
          'kind',
          'A wait takes a time.',
          `For a word write: wait until heard ${reader.words(time)}.`,
        );
      return { kind: 'wait', time: reader.quantity(time, ['time'], 'A wait'), at };
    }
    case 'FinishStep':
      return { kind: 'finish', at };
    case 'ShowStep':
      return { kind: 'show', items: shown(exprs[0]!, reader), at };
    case 'ClearStep': {
      const name = node.getChild('Name');
      return name ? { kind: 'emptyList', list: reader.list(name), at } : { kind: 'clear', at };
    }
    case 'LogStep':
      return { kind: 'log', items: logged(exprs[0]!, reader), at };
    case 'SendStep':
      return { kind: 'send', text: reader.words(node.getChild('Text')!).slice(1, -1), at };
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

/** The speed of a drive, turned round by a word for back; “back speed” may also be a name. */
function driven(node: SyntaxNode, reader: LineReader): Expr {
  const [inner] = ownExprs(node, reader);
  const way = node.getChild('Way');
  if (!way) return speed(reader, inner!);
  const whole = { from: way.from, to: inner!.to };
  if (inner!.name === 'NameRef' && reader.isKnown(reader.name(whole)))
    return reader.scaledValue(whole, ['percent'], 'A speed');
  const ahead = speed(reader, inner!);
  if (/^(ahead|forwards?)$/i.test(reader.words(way))) return ahead;
  return { kind: 'negative', operand: ahead, at: reader.place(whole) };
}

/** A turn by an angle, or until something is so, which goes on like a spin. */
function turn(node: SyntaxNode, reader: LineReader): Step {
  const at = reader.place(node);
  const direction = directionOf(node, reader);
  const [angle] = ownExprs(node, reader);
  const { endsWhen } = lasting(node, reader);
  const fast = atPart(node, reader);
  if (angle) {
    const by = reader.quantity(angle, ['angle'], 'A turn');
    return { kind: 'turn', direction, angle: by, speed: fast, endsWhen, at };
  }
  if (endsWhen) return { kind: 'spin', direction, speed: fast, until: null, endsWhen, at };
  return reader.fail(node, 'shape', 'It is not said how far it turns.', `It reads like: ${shapeOf('turn')}.`);
}

function zeroed(node: SyntaxNode, reader: LineReader): 'heading' | 'wheels' | 'timer' {
  const named = reader.scope.sensors[reader.sensorIndex(reader.name(node))];
  if (named?.kind === 'heading') return 'heading';
  const value = reader.valueIndex(reader.name(node));
  if (value >= 0) {
    const { name } = reader.scope.values[value]!;
    reader.fail(node, 'shape', `“${name}” is a value of your own.`, `Write: set ${name} to 0.`);
  }
  return choice(
    node,
    ['heading', 'wheels', 'timer'],
    reader,
    (word) => `“${word}” cannot be zeroed.`,
    'Write zero heading, zero wheels or zero timer; a value of your own is set: set lanes to 0.',
  );
}

/** What is put into a list, which takes its kind from what is put into it first. */
function added(list: number, node: SyntaxNode, reader: LineReader): Expr {
  const { name, of } = reader.scope.lists[list]!;
  const { settled } = reader.scope;
  const taken = settled.list(name);
  if (taken) return reader.quantity(node, [taken], `What “${name}” holds`);
  const given = reader.expr(node);
  const kind = reader.wantQuantity(given);
  // A plain number says nothing yet: a later line may put quantities in.
  if (kind !== of) settled.takeList(name, kind, reader.line);
  return given;
}

/** What a row of the log holds; texts have no column. */
function logged(node: SyntaxNode, reader: LineReader): Expr[] {
  const items = shown(node, reader);
  const text = items.find(({ kind }) => kind === 'text');
  if (text)
    reader.failAt(
      text.at,
      'log',
      'A log holds numbers, no texts.',
      'Write, for example: log floor and front.',
    );
  return items;
}

function beep(node: SyntaxNode, reader: LineReader): Step {
  const [first] = reader.inner(node);
  const pitch =
    first && !first.name.endsWith('Part') ? reader.scaled(first, ['frequency'], 'The pitch of a beep') : null;
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
): Pick<Extract<Step, { kind: 'repeat' }>, 'how' | 'amount'> & { counter: SyntaxNode | null } {
  const part = reader.inner(node)[0];
  if (!part || part.name === 'Forever') return { how: 'forever', amount: null, counter: null };
  const inner = reader.inner(part)[0]!;
  switch (part.name) {
    case 'TimesPart': {
      const amount = reader.quantity(inner, ['number'], 'How many times');
      return { how: 'times', amount, counter: part.getChild('Name') };
    }
    case 'ForPart':
      return { how: 'for', amount: reader.quantity(inner, ['time'], 'How long'), counter: null };
    default:
      return {
        how: part.name === 'UntilPart' ? 'until' : 'while',
        amount: reader.truth(inner),
        counter: null,
      };
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
