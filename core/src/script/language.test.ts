import { describe, expect, it } from '@jest/globals';
import { parseScript, walkProgram, type Program } from './index.ts';

const declared = [
  'sensor floor is light on K3',
  'sensor left floor is light on K4',
  'sensor right floor is light on K6',
  'sensor front is distance on K2',
  'sensor nose is touch on K1',
  'sensor seen is colour on K3',
  'sensor eye is rgb on K3',
  'sensor gyro is heading on K5',
  'sensor light is beacon on K2',
];
const read = (...steps: string[]): Program => parseScript([...declared, ...steps].join('\n'));
const first = (step: string) => {
  const program = read(step);
  expect([step, program.findings]).toEqual([step, []]);
  return program.steps[0]!;
};
const test = (expr: string) => {
  const step = first(`wait until ${expr}`);
  return step.kind === 'waitUntil' ? step.test : null;
};
const says = (...steps: string[]) => read(...steps).findings.map((f) => f.says);

describe('moving', () => {
  it.each<[string, object]>([
    ['steer 0.4 * (58 - floor) at 25 %', { kind: 'steer', speed: { value: 25 }, until: null }],
    ['steer -20 at 25 % for 2 turns', { kind: 'steer', until: { of: 'angle', amount: { value: 720 } } }],
    ['turn right 90 deg', { kind: 'turn', direction: 'right', angle: { value: 90 }, speed: null }],
    [
      'turn left 0.25 turns at 20 %',
      { kind: 'turn', direction: 'left', angle: { value: 90 }, speed: { value: 20 } },
    ],
    ['spin left at 50 %', { kind: 'spin', direction: 'left', speed: { value: 50 } }],
    ['raw drive 60 %', { kind: 'drive', raw: true }],
    ['raw wheels 60 % and -40 %', { kind: 'wheels', raw: true }],
    ['turret left 90 deg', { kind: 'turret', direction: 'left', angle: { value: 90 } }],
    ['turret ahead', { kind: 'turret', direction: null, angle: null }],
    ['zero heading', { kind: 'zero', what: 'heading' }],
    ['zero wheels', { kind: 'zero', what: 'wheels' }],
    [
      'beep 500 Hz for 2 s at 50 %',
      { kind: 'beep', pitch: { value: 500 }, time: { value: 2 }, volume: { value: 50 } },
    ],
    ['beep', { kind: 'beep', pitch: null, time: null, volume: null }],
    ['lamp red', { kind: 'lamp', colour: 'red' }],
    ['lamp off', { kind: 'lamp', colour: null }],
  ])('%s', (text, step) => {
    expect(first(text)).toMatchObject(step);
  });
});

describe('asking', () => {
  it('a touch sensor for its state or its event, a colour by name, any sensor for no reading', () => {
    expect(test('nose is pressed')).toMatchObject({ kind: 'is', asks: { of: 'touch', what: 'pressed' } });
    expect(test('nose is not bumped')).toMatchObject({ kind: 'not', operand: { asks: { what: 'bumped' } } });
    expect(test('seen is Green')).toMatchObject({ asks: { of: 'colour', what: 'green' } });
    expect(test('front is nothing or front > 40')).toMatchObject({
      op: 'or',
      left: { asks: { of: 'nothing' } },
    });
  });

  it('how far a reading has changed since the step began; a bare number takes the sensor’s unit', () => {
    expect(test('floor drops by 30')).toMatchObject({
      kind: 'change',
      how: 'drops',
      by: { value: 30, of: 'percent' },
    });
    expect(test('front rises by 5 in')).toMatchObject({ how: 'rises', by: { value: 127, of: 'length' } });
    expect(test('front changes by 10')).toMatchObject({ how: 'changes', by: { value: 100, of: 'length' } });
  });

  it('a bare number beside a distance is in the declared unit, cm when none is declared', () => {
    expect(test('front < 15')).toMatchObject({ right: { value: 150, of: 'length' } });
    const inches = parseScript('sensor front is distance in in on K2\nwait until front < 5');
    expect(inches.findings).toEqual([]);
    expect(inches.steps[0]).toMatchObject({ test: { right: { value: 127 } } });
    expect(parseScript('sensor floor is light in cm on K2').findings[0]!.says).toMatch(/Only a distance/);
  });

  it('what is always there: wheels, timer, battery', () => {
    expect(test('left wheel >= 2 turns')).toMatchObject({
      left: { kind: 'builtin', name: 'left wheel' },
      right: { value: 720 },
    });
    expect(test('timer > 2')).toMatchObject({ right: { value: 2, of: 'time' } });
    expect(test('battery < 20')).toMatchObject({ right: { of: 'percent' } });
  });

  it('one number of several, by name or by place', () => {
    expect(test('eye.green > 100')).toMatchObject({
      left: { kind: 'item', position: { value: 2 }, of: 'number' },
    });
    expect(test('item 3 of eye > 100')).toMatchObject({ left: { position: { value: 3 } } });
    expect(test('light.strength > 20 %')).toMatchObject({ left: { position: { value: 2 }, of: 'percent' } });
    expect(says('wait until eye.grey > 3')).toEqual(['It has no “.grey”.']);
    expect(says('wait until item 4 of eye > 3')).toEqual(['There is no item 4: it gives 3.']);
    expect(says('wait until floor.red > 3')).toEqual(['“floor” gives one number, not several.']);
  });

  it('two sensors as a two-bit state, by a threshold or by a colour', () => {
    expect(test('state(left floor, right floor, threshold) = 3')).toMatchObject({
      left: {
        kind: 'state',
        left: { op: '<', right: { kind: 'threshold', sensor: 1 } },
        right: { right: { sensor: 2 } },
      },
    });
    expect(test('state(left floor, right floor, 40 %) > 0')).toMatchObject({
      left: { left: { right: { value: 40 } } },
    });
    expect(test('state(seen, seen, black) = 1')).toMatchObject({
      left: { left: { kind: 'is', asks: { what: 'black' } } },
    });
    expect(says('show state(floor, front, 3 s)')).toEqual([expect.stringMatching(/cannot be compared/)]);
  });

  it('a threshold within a sum is that of the sensor on the other side', () => {
    expect(test('floor > threshold + 10')).toMatchObject({
      right: { op: '+', left: { kind: 'threshold', sensor: 0 }, right: { value: 10, of: 'percent' } },
    });
    expect(says('drive threshold')).toEqual([expect.stringMatching(/needs a sensor/)]);
    expect(says('repeat until floor + left floor < threshold', 'end')).toEqual([
      expect.stringMatching(/needs a sensor/),
    ]);
  });

  it('what is left of a turn may be a speed; a plain angle may not', () => {
    expect(first('spin right at 0.5 * (90 - gyro)')).toMatchObject({ kind: 'spin' });
    expect(says('drive 90 deg')).toEqual(['A speed is a percentage, but “90 deg” is an angle.']);
  });

  it('arithmetic with functions keeps the kind of quantity', () => {
    expect(test('max(front, 20 cm) > 30')).toMatchObject({ right: { value: 300 } });
    expect(test('clamp(floor, 10, 90) < 41')).toMatchObject({
      left: { args: [{}, { of: 'percent' }, { of: 'percent' }] },
    });
    expect(says('show abs(1, 2)')).toEqual(['“abs” takes 1 number, not 2.']);
    expect(says('show min(3 cm, 2 s)')).toEqual(['“min” cannot mix a length and a time.']);
    expect(says('show mix(3, 4)')).toEqual(['“mix” cannot be worked out.']);
  });

  it.each<[string, RegExp]>([
    ['wait until nose is green', /never “green”/],
    ['wait until seen is gren', /not a colour/],
    ['wait until seen = 3', /told by its name/],
    ['wait until front is pressed', /gives numbers/],
    ['wait until nose', /not a question/],
    ['wait until floor drops by 3 cm', /“floor” is a percentage, “3 cm” is a length/],
    ['if floor drops by 30\nend', /looks only once/],
    ['lamp mauve', /cannot be “mauve”/],
    ['zero everything', /cannot be zeroed/],
    ['turret up', /cannot be turned/],
    ['steer 3 cm at 20 %', /Steering is a percentage or an angle/],
  ])('%s is told in one sentence', (text, wanted) => {
    const found = says(...text.split('\n'));
    expect(found).toEqual([expect.stringMatching(wanted)]);
  });
});

describe('own steps', () => {
  it('take their parameters’ kinds from the first call, wherever they are written', () => {
    const program = read(
      'do back off by 10 cm',
      'do back off by 5',
      'task back off by d',
      'drive -30 % for d',
      'end',
    );
    expect(program.findings).toEqual([]);
    expect(program.tasks).toMatchObject([{ name: 'back off', endLine: 14, body: [{ kind: 'drive' }] }]);
    expect(
      program.steps.map((s) => s.kind === 'do' && s.args[0]?.kind === 'quantity' && s.args[0].value),
    ).toEqual([100, 50]);
    const kinds: string[] = [];
    walkProgram(program, (step) => kinds.push(step.kind));
    expect(kinds).toEqual(['do', 'do', 'drive']);
  });

  it('have names of any words, and parameters of their own that hide other names', () => {
    const program = read(
      'let d = 3',
      'do wait for the traffic by 2 s, 40 %',
      'task Wait for the Traffic by d, v',
      'wait d',
      'drive v',
      'end',
    );
    expect(program.findings).toEqual([]);
    expect(program.stepCount).toBe(3);
    expect(program.lastLine).toBe(11);
  });

  it.each<[string, string[], RegExp]>([
    ['unknown', ['do fly'], /no own step “fly”/],
    ['too few numbers', ['do hop', 'task hop by d', 'stop', 'end'], /takes d, but 0 are given/],
    ['too many numbers', ['do hop by 3', 'task hop', 'stop', 'end'], /takes no number, but 1 is given/],
    [
      'other kind in a later call',
      ['do hop by 3 cm', 'do hop by 3 s', 'task hop by d', 'stop', 'end'],
      /“d” is a length/,
    ],
    ['no end', ['do hop', 'task hop', 'stop'], /This “task” has no “end”/],
    ['inside a block', ['repeat', 'task hop', 'end', 'end'], /cannot stand inside another block/],
    ['twice', ['task hop', 'end', 'task hop', 'end'], /own step on line 10 already/],
    ['doing itself', ['do hop', 'task hop', 'do hop', 'end'], /would do itself again/],
    ['in a circle', ['do a', 'task a', 'do b', 'end', 'task b', 'do a', 'end'], /would do itself again/],
    ['a sensor inside', ['do hop', 'task hop', 'sensor x is touch on K1', 'end'], /stands at the start/],
    [
      'a leave of the caller’s repeat',
      ['repeat', 'do hop', 'end', 'task hop', 'leave', 'end'],
      /outside any repeat/,
    ],
  ])('%s: told in one sentence', (_, steps, wanted) => {
    const found = says(...steps);
    expect(found[0]).toMatch(wanted);
    expect(found.length).toBeLessThanOrEqual(2);
  });

  it('an unfinished one does not hide the next, nor the faults within', () => {
    expect(says('do hop', 'task hop', 'drive 3 cm', 'task jump', 'stop', 'end')).toEqual([
      'This “task” has no “end”.',
      'A speed is a percentage, but “3 cm” is a length.',
    ]);
  });
});
