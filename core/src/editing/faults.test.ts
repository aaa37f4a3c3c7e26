import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { canRun, driveSpeed, parseScript } from '../script/index.ts';
import { singleChanges } from './index.ts';
import { changeSays, usualFaults } from './index.ts';

const answer = `sensor floor is light on K3
sensor front is distance on K2
let lanes = 0
drive 25 %
repeat until front < 15 cm
  wait until floor < threshold
  set lanes to lanes + 1
  if floor < 20 and front > 30 cm
    turn right 90 deg
  else
    steer 0.4 * (floor - threshold) at 20 %
  end
end
stop
show lanes
`;

describe('the usual faults of a script', () => {
  const faults = usualFaults(answer);
  it.each([
    ['stop left out', /^(?![\s\S]*^stop$)/m],
    ['wait left out', /repeat until front < 15 cm\n {2}set/],
    ['loop lost', /drive 25 %\nwait until/],
    ['branch lost', /turn right 90 deg\n {2}end/],
    ['comparison flipped', /repeat until front > 15 cm/],
    ['sides swapped', /turn left 90 deg/],
    ['sides swapped', /steer -1 \* \(0.4/],
    ['way swapped', /drive -25 %/],
    ['logic swapped', /floor < 20 or front/],
    ['sockets swapped', /light on K2\nsensor front is distance on K3/],
    ['twice as fast', /drive 50 %/],
    ['wrong unit', /front < 15 in/],
    ['threshold on the wrong side', /floor < threshold \* 0.1/],
    ['wrong amount', /front < 30 cm\n {2}wait/],
    ['wrong gain', /steer 3.2 \*/],
    ['wrong count', /let lanes = 1/],
  ])('%s', (kind, looks) => {
    expect(faults.some((fault) => fault.kind === kind && looks.test(fault.text))).toBe(true);
  });

  it('all run, none is the script itself, none comes twice, and words in texts are left alone', () => {
    expect(faults.every(({ text }) => canRun(parseScript(text)))).toBe(true);
    expect(new Set(faults.map(({ text }) => text)).size).toBe(faults.length);
    expect(usualFaults('show "turn left 5 cm and stop"').map(({ text }) => text)).toEqual([]);
  });

  it('cannot be crashed by any text', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 200 }), (text) => Array.isArray(usualFaults(text))),
      { numRuns: 60 },
    );
  });
});

describe('changes in words', () => {
  const before = 'a\nb\nc';
  it.each([
    ['a\nx\nc', 'In line 2 write “x” instead of “b”'],
    ['a\nb\nc\nstop', 'After line 3 add “stop”'],
    ['a\nc', 'Leave out “b” in line 2'],
    ['a\nrepeat\n  b\n  c\nend', 'Put lines 2 to 3 between “repeat” and “end”'],
    ['a\nc\nb', 'Put lines 2 to 3 in this order: “c”, “b”'],
    ['a\n  b # why\nc\nd', 'After line 3 add “d”'],
  ])('%j', (after, says) => expect(changeSays(before, after).says).toBe(says));

  it('one change away from a forgotten stop lies the stop', () => {
    const text = 'sensor floor is light on K3\ndrive 30 %\nwait until floor < threshold';
    const says = [...singleChanges(text, `${text}\nstop`)].map((change) => change.says);
    expect(says).toContain('After line 3 add “stop”');
    expect(new Set([...singleChanges(text, `${text}\nstop`)].map((c) => c.text)).size).toBe(says.length);
  });

  it('tells the speed a script drives at, where it is a plain number', () => {
    expect(driveSpeed('drive 40 %\nwait 1 s\nstop')).toBe(40);
    expect(driveSpeed('drive -40 %\nturn right 90 deg')).toBeNull();
    expect(driveSpeed('let v = 20 %\ndrive v')).toBeNull();
  });
});
