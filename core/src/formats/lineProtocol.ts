import { isSensorKind, type Sample, type SensorKind } from '../sensing/index.ts';

/**
 * The line protocol between a robot (or its stand-in) and Vigilum: plain text, one message a line, words
 * parted by single spaces, numbers with a decimal point. docs/line-protocol.md is its description.
 */
export const PROTOCOL = 'vigilum/1';
/** Longer lines are refused. */
export const LINE_LIMIT = 200;

export type FromRobot =
  | { is: 'hello'; protocol: string; robot: string }
  | { is: 'socket'; socket: string; kind: SensorKind | 'empty'; unit: string; periodMs: number }
  | { is: 'reading'; atMs: number; socket: string; value: Sample }
  | { is: 'ok'; command: string }
  | { is: 'error'; says: string };

/**
 * What hands can do to a stand-in robot: put its sensor over a surface, hold it in the air, move a paper under
 * it, put the robot on the mat (pose of the axle's middle), drag it in a straight line, turn it, press the
 * bumper, hold a hand in front, carry a beacon, change the room's light, set the height of its floor sensors.
 */
export type Hand =
  | { put: 'over'; surface: string }
  | { put: 'air' }
  | { put: 'paper' }
  | { put: 'at'; xMm: number; yMm: number; bearingDeg: number }
  | { put: 'drag'; toXMm: number; toYMm: number; seconds: number }
  | { put: 'turn'; deg: number }
  | { put: 'press' }
  | { put: 'release' }
  | { put: 'front'; mm: number | null }
  | { put: 'beacon'; deg: number | null }
  | { put: 'room'; light: number }
  | { put: 'height'; mm: number };

export type ToRobot =
  | { is: 'hello' }
  | { is: 'sockets' }
  | { is: 'stream'; socket: string; on: boolean }
  | { is: 'hand'; hand: Hand };

const NAME = /^[A-Za-z0-9][A-Za-z0-9_-]{0,15}$/;
const NUMBER = /^-?\d{1,9}(\.\d{1,6})?$/;
/** Names with spaces travel with underscores. */
const pack = (text: string): string => text.trim().replace(/\s+/g, '_').slice(0, 60);
const unpack = (text: string): string => text.replace(/_/g, ' ');

const digits = (value: number): string => String(Number(value.toFixed(6)));
const writeSample = (sample: Sample): string =>
  sample === null ? 'none' : typeof sample === 'number' ? digits(sample) : sample.map(digits).join(',');

/** "none", a number, or three with commas; undefined for anything else. */
function readSample(word: string): Sample | undefined {
  if (word === 'none') return null;
  const parts = word.split(',');
  if (!parts.every((part) => NUMBER.test(part))) return undefined;
  if (parts.length === 1) return Number(word);
  return parts.length === 3 ? [Number(parts[0]), Number(parts[1]), Number(parts[2])] : undefined;
}

/** Writes a message of the robot as one line, without the line end. */
export function writeFromRobot(message: FromRobot): string {
  switch (message.is) {
    case 'hello':
      return `hello ${message.protocol} ${pack(message.robot)}`;
    case 'socket':
      return message.kind === 'empty'
        ? `socket ${message.socket} empty`
        : `socket ${message.socket} ${message.kind} ${message.unit || '-'} ${message.periodMs}`;
    case 'reading':
      return `r ${message.atMs} ${message.socket} ${writeSample(message.value)}`;
    case 'ok':
      return `ok ${message.command}`;
    case 'error':
      return `error ${message.says}`.slice(0, LINE_LIMIT);
  }
}

/** Writes a message to the robot as one line, without the line end. */
export function writeToRobot(message: ToRobot): string {
  switch (message.is) {
    case 'hello':
    case 'sockets':
      return message.is;
    case 'stream':
      return `stream ${message.socket} ${message.on ? 'on' : 'off'}`;
    case 'hand':
      return `hand ${writeHand(message.hand)}`;
  }
}

function writeHand(hand: Hand): string {
  switch (hand.put) {
    case 'over':
      return `over ${pack(hand.surface)}`;
    case 'at':
      return `at ${digits(hand.xMm)} ${digits(hand.yMm)} ${digits(hand.bearingDeg)}`;
    case 'drag':
      return `drag ${digits(hand.toXMm)} ${digits(hand.toYMm)} ${digits(hand.seconds)}`;
    case 'turn':
      return `turn ${digits(hand.deg)}`;
    case 'front':
      return `front ${hand.mm === null ? 'none' : digits(hand.mm)}`;
    case 'beacon':
      return `beacon ${hand.deg === null ? 'none' : digits(hand.deg)}`;
    case 'room':
      return `room ${digits(hand.light)}`;
    case 'height':
      return `height ${digits(hand.mm)}`;
    default:
      return hand.put;
  }
}

/** Reads what follows the word hand; null when it is not of the protocol. */
function readHand([put = '', ...rest]: readonly string[]): Hand | null {
  const numbers = rest.map((word) => (NUMBER.test(word) ? Number(word) : NaN));
  const given = (count: number) => rest.length === count && numbers.every((n) => !Number.isNaN(n));
  const [a = 0, b = 0, c = 0] = numbers;
  switch (put) {
    case 'over':
      return rest.length === 1 && rest[0] !== '' ? { put, surface: unpack(rest[0]!) } : null;
    case 'air':
    case 'paper':
    case 'press':
    case 'release':
      return rest.length === 0 ? { put } : null;
    case 'at':
      return given(3) ? { put, xMm: a, yMm: b, bearingDeg: c } : null;
    case 'drag':
      return given(3) && c > 0 ? { put, toXMm: a, toYMm: b, seconds: c } : null;
    case 'turn':
      return given(1) ? { put, deg: a } : null;
    case 'front':
      if (rest.length === 1 && rest[0] === 'none') return { put, mm: null };
      return given(1) && a >= 0 ? { put, mm: a } : null;
    case 'beacon':
      if (rest.length === 1 && rest[0] === 'none') return { put, deg: null };
      return given(1) && Math.abs(a) <= 180 ? { put, deg: a } : null;
    case 'room':
      return given(1) && a >= 0 && a <= 100 ? { put, light: a } : null;
    case 'height':
      return given(1) && a >= 0 && a <= 200 ? { put, mm: a } : null;
    default:
      return null;
  }
}

/** Reads a line from a robot; null when it is not of the protocol. Lines come from strangers: nothing is assumed. */
export function readFromRobot(line: string): FromRobot | null {
  if (line.length > LINE_LIMIT) return null;
  const words = line.trim().split(' ');
  const [head, a = '', b = '', c = '', d = ''] = words;
  switch (head) {
    case 'hello':
      return words.length === 3 ? { is: 'hello', protocol: a, robot: unpack(b) } : null;
    case 'socket':
      if (!NAME.test(a)) return null;
      if (b === 'empty') return { is: 'socket', socket: a, kind: 'empty', unit: '', periodMs: 0 };
      if (!isSensorKind(b) || words.length !== 5 || !NUMBER.test(d)) return null;
      return {
        is: 'socket',
        socket: a,
        kind: b,
        unit: c === '-' ? '' : c,
        periodMs: Number(d),
      };
    case 'r': {
      if (words.length !== 4 || !NUMBER.test(a) || !NAME.test(b)) return null;
      const value = readSample(c);
      return value === undefined ? null : { is: 'reading', atMs: Number(a), socket: b, value };
    }
    case 'ok':
      return { is: 'ok', command: a };
    case 'error':
      return { is: 'error', says: words.slice(1).join(' ') };
    default:
      return null;
  }
}

/** Reads a line to a robot; null when it is not of the protocol. */
export function readToRobot(line: string): ToRobot | null {
  if (line.length > LINE_LIMIT) return null;
  const words = line.trim().split(' ');
  const [head, a = '', b = ''] = words;
  switch (head) {
    case 'hello':
    case 'sockets':
      return words.length === 1 ? { is: head } : null;
    case 'stream':
      if (words.length !== 3 || !NAME.test(a) || (b !== 'on' && b !== 'off')) return null;
      return { is: 'stream', socket: a, on: b === 'on' };
    case 'hand': {
      const hand = readHand(words.slice(1));
      return hand && { is: 'hand', hand };
    }
    default:
      return null;
  }
}
