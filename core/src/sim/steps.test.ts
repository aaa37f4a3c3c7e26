import { describe, expect, it } from '@jest/globals';
import { simulate, steered } from './index.ts';
import { eye, gyro, setup } from './test/setup.ts';

const run = (text: string, changes: Parameters<typeof setup>[1] = {}) => {
  const given = setup(text, changes);
  expect(given.program.findings).toEqual([]);
  return simulate(given);
};
const last = (text: string, signal: string, changes: Parameters<typeof setup>[1] = {}) =>
  run(text, changes).trace.signals[signal]!.values.at(-1)!;
const shown = (text: string, changes: Parameters<typeof setup>[1] = {}) =>
  run(text, changes)
    .events.filter((e) => e.kind === 'display')
    .map((e) => e.text);
const gyros = (kind: 'heading' | 'spin') => ({ robot: { sensors: [eye(), gyro(kind)] } });
const heading = 'sensor gyro is heading on K5\n';

describe('steering', () => {
  it('goes straight at 0, holds the inner wheel at 50 and turns on the spot at 100', () => {
    expect(steered(0, 30)).toEqual([30, 30]);
    expect(steered(50, 30)).toEqual([30, 0]);
    expect(steered(-50, 30)).toEqual([0, 30]);
    expect(steered(100, 30)).toEqual([30, -30]);
    expect(steered(-250, 30)).toEqual([-30, 30]);
  });

  it('turns right, counting up, for positive steering', () => {
    expect(last('steer 30 at 25 % for 1 s', 'bearing')).toBeGreaterThan(10);
    expect(last('steer -30 at 25 % for 1 s', 'bearing')).toBeLessThan(-10);
  });
});

describe('turning', () => {
  // W·A·π/360 for each wheel (differential drive, Siegwart & Nourbakhsh); what is over is the braking.
  it('on the spot by encoders comes to its angle, slowly or fast: it slows down at its end', () => {
    const slow = last('turn right 90 deg at 10 %', 'bearing');
    const fast = last('turn left 90 deg at 60 %', 'bearing');
    expect(slow).toBeGreaterThan(89);
    expect(slow).toBeLessThan(95);
    expect(-fast).toBeGreaterThan(86);
    expect(-fast).toBeLessThan(96);
  });

  // Common practice: a full-power turn until above 90 ends far beyond it.
  it('until a heading overshoots by momentum, and a heading counts from where it was zeroed', () => {
    const hot = last(
      `${heading}spin right at 100 %\nwait until gyro > 90\nstop`,
      'bearing',
      gyros('heading'),
    );
    expect(hot).toBeGreaterThan(100);
    const twice = `${heading}turn right 90 deg at 10 %\nwait 0.5 s\nzero heading\nspin right at 20 %\nwait until gyro > 40\nstop`;
    expect(last(twice, 'bearing', gyros('heading'))).toBeGreaterThan(128);
    expect(shown(`${heading}zero heading\nshow gyro`, gyros('heading'))).toEqual(['0 deg']);
  });

  it('gives the rate of turn to a spin sensor', () => {
    const rate = shown(
      'sensor gyro is spin on K5\nspin right at 20 %\nwait 1 s\nshow gyro\nstop',
      gyros('spin'),
    );
    // 2v/W: 20 % of 534 mm/s on each wheel, 120 mm apart.
    expect(parseFloat(rate[0]!)).toBeCloseTo(((2 * 0.2 * 534.07) / 120) * (180 / Math.PI), -1);
  });
});

describe('what is always there', () => {
  it('counts wheel turns from the start or from zero wheels', () => {
    const text =
      'drive 30 %\nwait until left wheel >= 2 turns\nzero wheels\nwait until right wheel >= 1 turns\nstop';
    // Three turns of a 68 mm wheel are 641 mm, and braking comes on top.
    const y = last(text, 'y') - 220;
    expect(y).toBeGreaterThan(200);
    expect(shown('drive 30 % for 2 turns\nshow left wheel').map(parseFloat)[0]).toBeGreaterThanOrEqual(720);
    expect(shown('drive 30 % for 2 turns\nwait 1 s\nzero wheels\nshow left wheel')).toEqual(['0 deg']);
  });

  it('counts time from the start or from zero timer, and tells the charge', () => {
    expect(shown('wait 0.5 s\nzero timer\nwait 0.25 s\nshow timer').map(parseFloat)[0]).toBeCloseTo(0.25, 1);
    expect(shown('show battery', { circumstances: { battery: 62 } })).toEqual(['62 %']);
  });

  it('ends a turn by wheel travel too, each wheel counted its own way', () => {
    expect(run('wheels 30 % and -30 % for 1 turns').programOverS).not.toBeNull();
  });
});

describe('raw power', () => {
  it('falls with the battery; a regulated speed does not', () => {
    const far = (text: string, battery: number) => last(text, 'y', { circumstances: { battery } });
    expect(far('raw drive 40 % for 1 s', 20)).toBeLessThan(far('raw drive 40 % for 1 s', 100) - 20);
    expect(far('drive 40 % for 1 s', 20)).toBe(far('drive 40 % for 1 s', 100));
  });
});

describe('waiting for a change', () => {
  it('counts from where the step began', () => {
    const past = (test: string) => last(`drive 20 %\nwait until ${test}\nstop`, 'y');
    // From about 76 on the boards to about 22 on the line: a drop of 28 is the halfway 48.
    expect(Math.abs(past('floor drops by 28') - past('floor < 48'))).toBeLessThan(12);
    expect(Math.abs(past('floor changes by 28') - past('floor drops by 28'))).toBeLessThan(1);
  });

  it('in a repeat counts from where the repeat began', () => {
    const text = 'let n = 0\nrepeat until timer changes by 0.5 s\nset n to n + 1\nend\nshow n';
    const n = Number(shown(text)[0]);
    expect(n).toBeGreaterThan(40);
    expect(n).toBeLessThan(60);
  });
});

describe('own steps and small helpers', () => {
  it('do their steps with what they are given and come back', () => {
    const text =
      'let n = 0\ndo add by 2\ndo add by n + 3\nshow n\ntask add by m\nrepeat m times\nset n to n + 1\nend\nend';
    expect(shown(text)).toEqual(['7']);
  });

  it('call each other, may be empty, and finish ends the program from within', () => {
    expect(
      shown(
        'do a\nshow "after"\ntask a\ndo nothing much\ndo b\nend\ntask nothing much\nend\ntask b\nshow "b"\nfinish\nend',
      ),
    ).toEqual(['b']);
  });

  it('works out min, max, abs, round, floor and clamp', () => {
    expect(
      shown('show min(3, 2) and max(3, 2, 5) and abs(-4) and round(2.5) and floor(2.9) and clamp(12, 0, 9)'),
    ).toEqual(['254329']);
    expect(run('show clamp(3, 9, 1)').ended).toMatchObject({ how: 'error', line: 2 });
  });

  it('gives the two-bit state of two looks', () => {
    expect(shown('show state(floor, floor, 100 %) and state(floor, floor, 0 %)')).toEqual(['30']);
  });

  it('takes the time a beep or a turret needs, and tells what was to be heard and seen', () => {
    const said = run('beep 500 Hz for 0.4 s at 30 %\nbeep\nlamp red\nlamp off');
    expect(said.programOverS).toBeGreaterThan(0.39);
    expect(said.programOverS).toBeLessThan(0.5);
    expect(said.events.map((e) => `${e.kind}: ${e.text}`).slice(0, 4)).toEqual([
      'sound: 500 Hz for 0.4 s at 30 %',
      'sound: 440 Hz for 0.2 s at 50 %',
      'lamp: red',
      'lamp: off',
    ]);
    expect(run('turret left 90 deg').programOverS).toBeGreaterThan(0.25);
  });

  it('answers for a sensor that is not there: nothing, and no state', () => {
    const text =
      'sensor nose is touch on K1\nif nose is pressed or nose is released or nose is bumped\nshow "yes"\nend';
    expect(shown(text)).toEqual([]);
    expect(shown('sensor front is distance on K2\nif front is nothing\nshow "nothing"\nend')).toEqual([
      'nothing',
    ]);
  });
});

describe('a robot that trials have measured', () => {
  // The kit's drive of the tests, with what trials found in its place.
  const measured = (fit: object) => ({ robot: { drive: { ...setup('stop').robot.drive, ...fit } } });
  const near = (value: number, wanted: number) => expect(Math.abs(value / wanted - 1)).toBeLessThan(0.02);

  it('veers by m·L/W over a way L, and m·L²/(2W) aside, as the trial that told it', () => {
    const { trackMm } = setup('stop').robot;
    const [x0] = run('drive 30 % for 5 s', measured({ mismatch: 0.02 })).trace.signals.x!.values;
    const way = last('drive 30 % for 5 s', 'y') - setup('stop').circumstances.start.yMm;
    const aside = last('drive 30 % for 5 s', 'x', measured({ mismatch: 0.02 })) - x0!;
    near(aside, (0.02 * way ** 2) / (2 * trackMm));
    // The same as a condition of one run, and both add up.
    const both = { ...measured({ mismatch: 0.02 }), circumstances: { mismatch: -0.02 } };
    expect(last('drive 30 % for 5 s', 'bearing', both)).toBeCloseTo(0, 9);
  });

  it('turns less on a track that works wider, by as much', () => {
    near(last('turn right 180 deg', 'bearing', measured({ scrub: 0.1 })), 180 / 1.1);
    near(
      last('turn right 180 deg', 'bearing', {
        ...measured({ scrub: 0.1 }),
        circumstances: { scrub: -1 / 11 },
      }),
      180,
    );
  });

  it('stands below its own least speed', () => {
    expect(last('drive 3 % for 1 s', 'speed', measured({ deadPercent: 4 }))).toBe(0);
    expect(last('drive 5 % for 1 s', 'y', measured({ deadPercent: 4 }))).toBeGreaterThan(
      setup('stop').circumstances.start.yMm + 5,
    );
  });
});
