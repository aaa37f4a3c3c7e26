import type { SensorKind } from '../sensing/index.ts';

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
  | { is: 'reading'; atMs: number; socket: string; value: number | null }
  | { is: 'ok'; command: string }
  | { is: 'error'; says: string };

/** Where a hand can put the sensor: over a surface, in the air, or over a paper moved to and fro. */
export type Hand = { put: 'over'; surface: string } | { put: 'air' } | { put: 'paper' };

export type ToRobot =
  | { is: 'hello' }
  | { is: 'sockets' }
  | { is: 'stream'; socket: string; on: boolean }
  | { is: 'hand'; hand: Hand };

const NAME = /^[A-Za-z0-9][A-Za-z0-9_-]{0,15}$/;
const NUMBER = /^-?\d{1,9}(\.\d{1,6})?$/;
const KINDS = [
  'touch',
  'light',
  'ambient',
  'colour',
  'rgb',
  'distance',
  'proximity',
  'heading',
  'spin',
  'empty',
];

/** Names with spaces travel with underscores. */
const pack = (text: string): string => text.trim().replace(/\s+/g, '_').slice(0, 60);
const unpack = (text: string): string => text.replace(/_/g, ' ');

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
      return `r ${message.atMs} ${message.socket} ${message.value === null ? 'none' : Number(message.value.toFixed(6))}`;
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
      return message.hand.put === 'over'
        ? `hand over ${pack(message.hand.surface)}`
        : `hand ${message.hand.put}`;
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
      if (!NAME.test(a) || !KINDS.includes(b)) return null;
      if (b === 'empty') return { is: 'socket', socket: a, kind: 'empty', unit: '', periodMs: 0 };
      if (words.length !== 5 || !NUMBER.test(d)) return null;
      return {
        is: 'socket',
        socket: a,
        kind: b as SensorKind,
        unit: c === '-' ? '' : c,
        periodMs: Number(d),
      };
    case 'r':
      if (words.length !== 4 || !NUMBER.test(a) || !NAME.test(b)) return null;
      if (c !== 'none' && !NUMBER.test(c)) return null;
      return { is: 'reading', atMs: Number(a), socket: b, value: c === 'none' ? null : Number(c) };
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
    case 'hand':
      if (a === 'over' && words.length === 3 && b !== '') {
        return { is: 'hand', hand: { put: 'over', surface: unpack(b) } };
      }
      return words.length === 2 && (a === 'air' || a === 'paper') ? { is: 'hand', hand: { put: a } } : null;
    default:
      return null;
  }
}
