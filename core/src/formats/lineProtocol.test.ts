import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import {
  PROTOCOL,
  readFromRobot,
  readToRobot,
  writeFromRobot,
  writeToRobot,
  type FromRobot,
  type ToRobot,
} from './index.ts';

const fromRobot: FromRobot[] = [
  { is: 'hello', protocol: PROTOCOL, robot: 'Cobble 2' },
  { is: 'socket', socket: 'K3', kind: 'light', unit: '%', periodMs: 50 },
  { is: 'socket', socket: 'S-a', kind: 'touch', unit: '', periodMs: 10 },
  { is: 'socket', socket: 'K4', kind: 'empty', unit: '', periodMs: 0 },
  { is: 'reading', atMs: 1234, socket: 'K3', value: 42.5 },
  { is: 'reading', atMs: 1284, socket: 'K3', value: null },
  { is: 'reading', atMs: 1290, socket: 'K3', value: [180, 40, 41] },
  { is: 'ok', command: 'stream' },
  { is: 'error', says: 'no socket K9' },
];
const toRobot: ToRobot[] = [
  { is: 'hello' },
  { is: 'sockets' },
  { is: 'stream', socket: 'K3', on: true },
  { is: 'stream', socket: 'K3', on: false },
  { is: 'hand', hand: { put: 'over', surface: 'tide line' } },
  { is: 'hand', hand: { put: 'paper' } },
  { is: 'hand', hand: { put: 'at', xMm: 200, yMm: 150.5, bearingDeg: -90 } },
  { is: 'hand', hand: { put: 'drag', toXMm: 200, toYMm: 400, seconds: 1.5 } },
  { is: 'hand', hand: { put: 'turn', deg: -90 } },
  { is: 'hand', hand: { put: 'press' } },
  { is: 'hand', hand: { put: 'front', mm: null } },
  { is: 'hand', hand: { put: 'front', mm: 150 } },
  { is: 'hand', hand: { put: 'beacon', deg: 30 } },
  { is: 'hand', hand: { put: 'room', light: 80 } },
  { is: 'hand', hand: { put: 'height', mm: 12 } },
];

describe('the line protocol', () => {
  it('reads back what it writes', () => {
    for (const message of fromRobot) expect(readFromRobot(writeFromRobot(message))).toEqual(message);
    for (const message of toRobot) expect(readToRobot(writeToRobot(message))).toEqual(message);
  });

  it('is readable by eye', () => {
    expect(fromRobot.map(writeFromRobot)).toEqual([
      'hello vigilum/1 Cobble_2',
      'socket K3 light % 50',
      'socket S-a touch - 10',
      'socket K4 empty',
      'r 1234 K3 42.5',
      'r 1284 K3 none',
      'r 1290 K3 180,40,41',
      'ok stream',
      'error no socket K9',
    ]);
  });

  it.each([
    '',
    'r',
    'r x K3 4',
    'r 1 K3 NaN',
    'r 1 K3 1e9999',
    'r 1 K3 4 5',
    'r 1 ../etc 4',
    'socket K3 laser % 50',
    'hello',
    'constructor',
    `r 1 K3 ${'9'.repeat(400)}`,
  ])('takes “%s” for no message of a robot', (line) => {
    expect(readFromRobot(line)).toBeNull();
  });

  it.each([
    'stream K3',
    'stream K3 maybe',
    'stream ; on',
    'hand',
    'hand over',
    'hand wave',
    'hello there',
    'rm -rf',
  ])('takes “%s” for no message to a robot', (line) => {
    expect(readToRobot(line)).toBeNull();
  });

  it('never throws on noise', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 250 }), (line) => {
        readFromRobot(line);
        readToRobot(line);
        return true;
      }),
      { numRuns: 2000 },
    );
  });

  it('keeps every finite reading of a sensor', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -9999, max: 9999 }),
        fc.integer({ min: 0, max: 999 }),
        (whole, thousandths) => {
          const value = whole + thousandths / 1000;
          const back = readFromRobot(writeFromRobot({ is: 'reading', atMs: 5, socket: 'K3', value }));
          return back?.is === 'reading' && Math.abs(Number(back.value) - value) < 1e-6;
        },
      ),
    );
  });
});
