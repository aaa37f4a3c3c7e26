import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { canRun, parseScript } from '../script/index.ts';
import {
  floorKnobs,
  knobFault,
  knobsOf,
  saidValues,
  skeletonOf,
  trialKnobs,
  usualKnobs,
  withKnobs,
  withSaid,
  type KnobFacts,
} from './index.ts';

const facts: KnobFacts = {
  thresholds: { K3: 47, K2: 15 },
  unitOf: (socket) => (socket === 'K2' ? 'cm' : '%'),
};
const told = (text: string, known: KnobFacts | null = facts) =>
  knobsOf(text, known).map(({ name, role, value, unit, places }) =>
    [name, role, value, unit, places.length].join(' '),
  );
const head = 'sensor floor is light on K3\nsensor front is distance on K2\nsensor gyro is heading on K5\n';

describe('the numbers of a script', () => {
  it('are named by what they do, with their unit, in reading order', () => {
    expect(
      told(`${head}let gain = 0.4
drive 30 % for 20 cm
steer gain * (floor - threshold) at 15 %
wait until front < 8 in
wait 0.5 s
turn right 90 deg at 40 %
wait until gyro >= 88
turn left 1.5 turns`),
    ).toEqual([
      'gain gain 0.4  1',
      'speed speed 30 % 1',
      'way way 20 cm 1',
      'floor threshold threshold 47 % 1',
      'speed 2 speed 15 % 1',
      'front threshold threshold 8 in 1',
      'wait wait 0.5 s 1',
      'turn turn 90 deg 1',
      'turning speed speed 40 % 1',
      'leave at gyro leave 88 deg 1',
      'turn 2 turn 1.5 turns 1',
    ]);
  });

  it('of a two-state follower are two: the outer and the inner wheel, each in two places', () => {
    const text = `${head}repeat
  if floor > threshold
    wheels 40 % and 30 %
  else
    wheels 30 % and 40 %
  end
end`;
    expect(told(text)).toEqual([
      'floor threshold threshold 47 % 1',
      'outer wheel wheel 40 % 2',
      'inner wheel wheel 30 % 2',
    ]);
    expect(withKnobs(text, { 'inner wheel': -20, 'outer wheel': 50 }, facts)).toContain(
      '    wheels 50 % and -20 %\n  else\n    wheels -20 % and 50 %',
    );
    // A pair that is not mirrored is the left and the right wheel.
    expect(told('wheels 40 % and 30 % for 2 s', null)).toEqual([
      'left wheel wheel 40 % 1',
      'right wheel wheel 30 % 1',
      'time wait 2 s 1',
    ]);
    // Two mirrored pairs, for a gentle and for a sharp bend, stay apart.
    const both = text.replace(
      'end\nend',
      'end\nif front < 10 cm\nwheels 50 % and 0 %\nelse\nwheels 0 % and 50 %\nend\nend',
    );
    expect(told(both).filter((one) => one.includes('wheel'))).toEqual([
      'outer wheel wheel 40 % 2',
      'inner wheel wheel 30 % 2',
      'outer wheel 2 wheel 50 % 2',
      'inner wheel 2 wheel 0 % 2',
    ]);
  });

  it('without a unit have the one that they are taken in', () => {
    expect(told(`${head}wait until front < 20\nwait until floor < 58\nwait until gyro > 90`)).toEqual([
      'front threshold threshold 20 cm 1',
      'floor threshold threshold 58 % 1',
      'leave at gyro leave 90 deg 1',
    ]);
    expect(withKnobs(`${head}wait until front < 20`, { 'front threshold': 15.5 }, facts)).toBe(
      `${head}wait until front < 15.5`,
    );
  });

  it('the decided threshold is one knob wherever it stands, and is typed out when it is turned', () => {
    const text = `${head}repeat until floor < threshold\n  steer 0.5 * (floor - threshold of floor) at 20 %\nend`;
    expect(told(text)).toContain('floor threshold threshold 47 % 2');
    expect(told(text, null).some((one) => one.startsWith('floor threshold'))).toBe(false);
    expect(withKnobs(text, { 'floor threshold': 52 }, facts)).toBe(
      `${head}repeat until floor < 52 %\n  steer 0.5 * (floor - 52 %) at 20 %\nend`,
    );
    expect(skeletonOf(text)).toBe(skeletonOf(withKnobs(text, { 'floor threshold': 52 }, facts)));
  });

  it('leave comments, texts, sounds and declared names alone', () => {
    const text = `${head}# drive 99 % for 12 s\nshow "5 lanes"\nbeep 440 Hz for 1 s\ndrive 30 %  # not 40 %\nstop`;
    expect(told(text)).toEqual(['speed speed 30 % 1']);
    expect(withKnobs(text, { speed: 25 }, facts)).toBe(text.replace('30 %', '25 %'));
  });

  it('stand in own steps, beside the main program, in calls and with a sign', () => {
    expect(
      told(`${head}task creep by far
  drive 12 % for far
end
whenever front < 9 cm
  drive -30 % for 5 cm
end
steer clamp(0.7 * (floor - 50), -40, 40) at max(10 %, 20 % - 1 * floor)
do creep by 4 cm`).sort(),
    ).toEqual(
      [
        'speed speed 12 % 1',
        'front threshold threshold 9 cm 1',
        'speed 2 speed -30 % 1',
        'way way 5 cm 1',
        'gain gain 0.7  1',
        'floor target threshold 50 % 1',
        'limit of steering number -40 % 1',
        'limit of steering 2 number 40 % 1',
        'speed 3 speed 10 % 1',
        'speed 4 speed 20 % 1',
        'gain 2 gain 1  1',
        'number number 4 cm 1',
      ].sort(),
    );
    expect(told('back 30 % for 2 s', null)).toEqual(['speed speed 30 % 1', 'time wait 2 s 1']);
    expect(withKnobs('drive −30% for 2s', { speed: -12.5, time: 3 })).toBe('drive -12.5% for 3s');
  });

  it('of a script that is not understood are those of the lines that are', () => {
    expect(told('drive 30 %\nfly 20 m\nwait 2 s', null)).toEqual(['speed speed 30 % 1', 'wait wait 2 s 1']);
    expect(knobsOf('')).toEqual([]);
    expect(withKnobs('', { speed: 3 })).toBe('');
    expect(() => withKnobs('drive 30 %', { speed: NaN })).toThrow(RangeError);
    expect(knobFault('drive 30 %', null, { gain: 2 })).toBe(
      'The script has no number that is called “gain”.',
    );
    expect(knobFault('drive 30 %', null, { speed: 2 })).toBeNull();
  });

  it('a slider holds the value that it has, and every step of it can be run', () => {
    const roles = [
      'drive ? %',
      'wait ? s',
      'drive 20 % for ? cm',
      'turn right ? deg',
      'drive 20 % until front < ? cm',
    ];
    fc.assert(
      fc.property(fc.constantFrom(...roles), fc.double({ min: 0.1, max: 90, noNaN: true }), (step, x) => {
        const text = `${head}${step.replace('?', String(Number(x.toFixed(2))))}`;
        const knob = knobsOf(text, facts).at(-1)!;
        expect(knob.low).toBeLessThanOrEqual(knob.value);
        expect(knob.high).toBeGreaterThanOrEqual(knob.value);
        for (const value of [knob.low, knob.high, knob.value]) {
          const next = withKnobs(text, { [knob.name]: value }, facts);
          expect(canRun(parseScript(next))).toBe(true);
          expect(knobsOf(next, facts).at(-1)!.value).toBeCloseTo(value, 3);
        }
        // What is put in and back again leaves the text as it was.
        const other = withKnobs(text, { [knob.name]: knob.high }, facts);
        expect(withKnobs(other, { [knob.name]: knob.value }, facts)).toBe(text);
      }),
      { numRuns: 200 },
    );
  });

  it('are offered gain and speed first, counts never', () => {
    const knobs = knobsOf(`let n = 3\nlet gain = 2\ndrive 30 %\nwait 1 s\nrepeat 5 times\nend`);
    expect(usualKnobs(knobs, 2).map(({ name }) => name)).toEqual(['gain', 'speed']);
    expect(usualKnobs(knobs, 9).map(({ name }) => name)).toEqual(['gain', 'speed', 'wait']);
  });
});

describe('what a team says that it changed', () => {
  it.each([
    ['threshold 30 to 20', [['threshold', 20, '']]],
    [
      'gain 0.6, 20 %',
      [
        ['gain', 0.6, ''],
        ['', 20, '%'],
      ],
    ],
    ['gain 1,2', [['gain', 1.2, '']]],
    ['speed 30 → 25 %', [['speed', 25, '%']]],
    ['20 cm instead of 30 cm', [['', 20, 'cm']]],
    ['leave at −88°', [['leave', -88, 'deg']]],
    [
      'gain=1.4 and speed=15%',
      [
        ['gain', 1.4, ''],
        ['speed', 15, '%'],
      ],
    ],
    ['new battery', []],
    ['', []],
    ['K3 moved', []],
  ])('“%s”', (text, wanted) => {
    expect(saidValues(text).map(({ words, value, unit }) => [words.join(' '), value, unit])).toEqual(wanted);
  });

  it('goes to the knob of that name, else to the only one of that unit, and is never guessed', () => {
    const knobs = [
      { name: 'gain', value: 1, unit: '' },
      { name: 'speed', value: 15, unit: '%' },
    ];
    const after = (said: string) => withSaid(knobs, said).map(({ name, value }) => `${name} ${value}`);
    // It was read as 20 and put on one axis with gains.
    expect(after('gain 0.6, 20 %')).toEqual(['gain 0.6', 'speed 20']);
    expect(after('25 %')).toEqual(['gain 1', 'speed 25']);
    expect(after('7')).toEqual(['gain 1', 'speed 15']);
    expect(after('threshold 30')).toEqual(['gain 1', 'speed 15', 'threshold 30']);
    const two = [...knobs, { name: 'floor threshold', value: 47, unit: '%' }];
    expect(withSaid(two, '50 %')).toEqual(two);
  });

  it('stays for the next trial of the same script, until something else is said', () => {
    const text = 'sensor floor is light on K3\ndrive 30 %\nwait until floor < threshold\nstop';
    const first = floorKnobs(text, facts, null, {}, 'speed 25');
    const second = floorKnobs(text, facts, first, {}, '');
    const third = floorKnobs(text, facts, second, { 'floor threshold': 40 }, '');
    const speed = (knobs: typeof first) => knobs.find(({ name }) => name === 'speed')!.value;
    expect([first, second, third].map(speed)).toEqual([25, 25, 25]);
    expect(third.find(({ name }) => name === 'floor threshold')!.value).toBe(40);
    expect(speed(floorKnobs(text, facts, null, {}, ''))).toBe(30);
    // Without a script what was said is all there is.
    const none = floorKnobs('', null, null, {}, 'threshold 30');
    expect(floorKnobs('', null, none, {}, 'threshold 20')).toEqual([
      { name: 'threshold', value: 20, unit: '' },
    ]);
    expect(trialKnobs(text, facts, { speed: 10 })[0]).toEqual({ name: 'speed', value: 10, unit: '%' });
  });
});
