import { describe, expect, it } from '@jest/globals';
import { Kernel, simulate, type Run, type RunSetup } from './index.ts';
import { bareFloor, bumper, eye, gyro, setup, sounder } from './test/setup.ts';

type Changes = Parameters<typeof setup>[1];
const heads = 'sensor nose is touch on K1\nsensor front is distance on K2\nsensor gyro is heading on K5\n';
const sensors = [eye(), bumper(), sounder(), gyro('heading')];
const given = (text: string, { robot, ...more }: NonNullable<Changes> = {}): RunSetup => {
  const made = setup(`${heads}${text}`, { ...more, robot: { sensors, ...robot } });
  expect(made.program.findings).toEqual([]);
  return made;
};
const run = (text: string, changes: Changes = {}) => simulate(given(text, changes));
const end = (done: Run, signal: string) => done.trace.signals[signal]!.values.at(-1)!;
const shown = (done: Run) => done.events.filter(({ kind }) => kind === 'display').map(({ text }) => text);
const values = (done: Run, name: string) => [...done.trace.signals[`value ${name}`]!.values];
/** A finger on a button that looks up, in these stretches of time. */
const pressed = (...times: [fromS: number, toS: number][]): NonNullable<Changes> => ({
  course: bareFloor({ presses: times.map(([fromS, toS]) => ({ fromS, toS })) }),
  robot: { sensors: [eye(), bumper(null), sounder(), gyro('heading')] },
  circumstances: { start: { xMm: 500, yMm: 300, bearingDeg: 0 } },
});

describe('moving until', () => {
  it.each([
    ['drive 30 %', 'floor < threshold'],
    ['drive 30 %', 'floor drops by 20'],
    ['spin right at 20 %', 'gyro >= 60'],
    ['wheels 30 % and 20 %', 'left wheel >= 2 turns'],
  ])('%s until %s stands where “wait until” and “stop” would', (move, test) => {
    const short = run(`${move} until ${test}`);
    const long = run(`${move}\nwait until ${test}\nstop`);
    for (const signal of ['x', 'y', 'bearing'])
      expect(Math.abs(end(short, signal) - end(long, signal))).toBeLessThan(1.5);
    expect(short.ended.how).toBe('at rest');
    expect(Math.abs(end(short, 'y') - 150) + Math.abs(end(short, 'bearing'))).toBeGreaterThan(50);
  });

  it('ends by its way or by its test, whichever comes first', () => {
    const far = (text: string) => end(run(text), 'y') - 150;
    const toLine = far('drive 30 % until floor < threshold');
    expect(far('drive 30 % for 10 cm until floor < threshold')).toBeLessThan(toLine - 100);
    expect(Math.abs(far('drive 30 % for 100 cm until floor < threshold') - toLine)).toBeLessThan(1);
    expect(Math.abs(far('drive 30 % until floor < threshold for 100 cm') - toLine)).toBeLessThan(1);
  });

  it('turns until a heading, or by its angle when the test never holds', () => {
    expect(end(run('turn right until gyro >= 40'), 'bearing')).toBeGreaterThan(40);
    expect(end(run('turn right 90 deg until front < 1 cm'), 'bearing')).toBeCloseTo(90, -1);
    expect(end(run('turn right 90 deg until gyro > 30'), 'bearing')).toBeLessThan(60);
  });

  it('a steering that reads a sensor is worked out anew at each look', () => {
    // Turning back to 0 as the heading moves away: a P-regulator, which a steering kept from the start could not be.
    const start = { xMm: 500, yMm: 300, bearingDeg: 0 };
    const text = 'spin right until gyro > 25\nwait 0.5 s\nsteer -2 * gyro at 20 % until left wheel > 4 turns';
    expect(Math.abs(end(run(text, { circumstances: { start } }), 'bearing'))).toBeLessThan(12);
  });

  it.each([
    ['steer -2 * gyro at 20 %', ['30 s', '200 cm', '9 turns']],
    ['drive 10 + 10 * timer / 1 s', ['30 s', '500 cm']],
    ['wheels 20 - gyro and 20 + gyro', ['30 s', '9 turns']],
    ['spin right at 30 - gyro / 5', ['30 s']],
  ])('%s beside a “for” that comes later goes as it does beside the test alone', (step, fors) => {
    const start = { xMm: 500, yMm: 300, bearingDeg: 0 };
    const track = (how: string) => {
      const before = 'spin right until gyro > 25\nwait 0.5 s\n';
      const { x, y, bearing } = run(before + step + how, { circumstances: { start } }).trace.signals;
      return [x!.values, y!.values, bearing!.values];
    };
    const alone = track(' until timer > 3 s');
    for (const amount of fors) {
      expect(track(` for ${amount} until timer > 3 s`)).toEqual(alone);
      expect(track(` until timer > 3 s for ${amount}`)).toEqual(alone);
    }
    // Without a test it keeps to what it read when it began.
    expect(track(' for 2 s')).not.toEqual(alone);
  });

  it('counts bumps and changes from where it began, each time anew', () => {
    const done = run(
      'repeat 2 times\n  drive 5 % until nose is bumped\nend\nshow timer',
      pressed([1, 1.2], [3, 3.2]),
    );
    expect(parseFloat(shown(done)[0]!)).toBeCloseTo(3.2, 1);
  });

  it('a test that holds already ends it after one look', () => {
    expect(end(run('drive 30 % until front > 0 cm or timer >= 0 s'), 'y') - 150).toBeLessThan(3);
  });
});

describe('beside the main program', () => {
  it('does its steps once for each press, not while it is held, and lets the main program go on where it moves nothing', () => {
    const text =
      'let n = 0\nrepeat for 5 s\n  wait 0.5 s\nend\nshow n and " " and timer\n\nwhenever nose is pressed\n  set n to n + 1\n  beep\nend';
    const done = run(text, pressed([0.5, 2], [3, 3.1]));
    expect(shown(done)[0]).toMatch(/^2 5(\.\d+)? s$/);
    expect(done.events.filter(({ kind }) => kind === 'sound')).toHaveLength(2);
  });

  it('one that comes true again while its steps still run begins once they are done and it was false', () => {
    const text = 'let n = 0\nwait 5 s\nshow n\n\nwhenever nose is pressed\n  set n to n + 1\n  wait 1 s\nend';
    expect(shown(run(text, pressed([0.5, 0.7], [1, 1.2], [3, 3.2])))).toEqual(['2']);
  });

  it('has the wheels from its first movement to its end; the main program waits and then drives its whole way', () => {
    const plain = run('drive 20 % for 60 cm\nstop', pressed());
    const text = 'drive 20 % for 60 cm\nstop\n\nwhenever nose is pressed\n  drive -20 % for 10 cm\nend';
    const done = run(text, pressed([1, 1.2]));
    // 60 cm on, and the 10 cm that the other took back: they are no part of the main program's way.
    expect(end(done, 'y')).toBeCloseTo(end(plain, 'y') - 100, -1);
    expect(done.trace.timesS.at(-1)!).toBeGreaterThan(plain.trace.timesS.at(-1)! + 1);
  });

  it('takes nothing from a turn that it interrupts', () => {
    const text = 'turn right 180 deg at 20 %\nstop\n\nwhenever nose is pressed\n  turn right 40 deg\nend';
    expect(end(run(text, pressed([0.5, 0.7])), 'bearing')).toBeCloseTo(220, -1);
  });

  it('gives the wheels back to what the main program told them last; a finish ends everything', () => {
    const text = (last: string) =>
      `drive 20 %\nwait 4 s\nstop\n\nwhenever nose is pressed\n  stop\n  ${last}\nend`;
    const goesOn = run(text('beep'), pressed([1, 1.1]));
    const finished = run(text('finish'), pressed([1, 1.1]));
    expect(end(goesOn, 'y') - 300).toBeGreaterThan(300);
    expect(end(finished, 'y') - 300).toBeLessThan(140);
    expect(finished.programOverS).toBeLessThan(1.2);
  });

  it('two of them: the second waits at its first movement until the first has the wheels no more', () => {
    const text =
      'wait 8 s\n\nwhenever nose is pressed\n  turn right 90 deg\nend\n\nwhenever timer > 1 s\n  turn right 90 deg\nend';
    expect(end(run(text, pressed([0.9, 1.1])), 'bearing')).toBeCloseTo(180, -1);
  });

  it('an own step that both do at once keeps their values apart', () => {
    const text = `let a = 0
let b = 0
set a to do slow double by 3
show a and " " and b

whenever timer > 0.2 s
  set b to do slow double by 10
end

task slow double by n
  let twice = n
  wait 1 s
  set twice to twice + n
  give back twice
end`;
    const done = run(text);
    expect([values(done, 'a').at(-1), values(done, 'b').at(-1)]).toEqual([6, 20]);
  });

  it('is over when the main program is and its steps are done; without a main program it goes on', () => {
    const beside = 'whenever nose is pressed\n  wait 2 s\n  show "done"\nend';
    expect(run(`wait 1 s\n\n${beside}`, pressed([0.9, 1.1])).programOverS).toBeCloseTo(2.9, 1);
    const alone = run(beside, { ...pressed([0.9, 1.1]), timeLimitMs: 4000 });
    expect([shown(alone), alone.ended.how]).toEqual([['done'], 'time limit']);
  });
});

describe('values, lists, chance, own steps', () => {
  it('yes and no, counted rounds, remainders', () => {
    const text =
      'let found = no\nlet sum = 0\nrepeat 7 times as i\n  if remainder(i, 3) = 0\n    set found to not found\n    set sum to sum + i\n  end\nend\nshow found and " " and sum and " " and remainder(-1, 4)';
    expect(shown(run(text))).toEqual(['no 9 3']);
    expect(shown(run('let found = no\nset found to 3 > 2\nif found\n  show found\nend'))).toEqual(['yes']);
  });

  it('a list knows its numbers, keeps no missing reading and is empty again after clear', () => {
    const text = `list l
repeat 4 times as i
  add i * i to l
end
show count of l and " " and smallest of l and " " and largest of l and " " and average of l and " " and sum of l and " " and item 2 of l and " " and last of l
add front to l2
clear l
show count of l and " " and average of l and " " and count of l2`.replace('list l\n', 'list l\nlist l2\n');
    const open = { course: bareFloor({ widthMm: 4000, heightMm: 4000 }) };
    expect(shown(run(text, open))).toEqual(['4 1 16 7.5 30 4 16', '0 nothing 0']);
  });

  it('chance is the same in the same run, whole between whole numbers, and changes no sensor', () => {
    const text = 'repeat 40 times\n  set n to random from 1 to 6\n  wait random from 0.01 s to 0.02 s\nend';
    const rolled = (seed: number) => values(run(`let n = 1\n${text}`, { circumstances: { seed } }), 'n');
    expect(rolled(3)).toEqual(rolled(3));
    expect(rolled(3)).not.toEqual(rolled(4));
    expect(new Set([...rolled(3), ...rolled(4)])).toEqual(new Set([1, 2, 3, 4, 5, 6]));
    const [with_, without] = [
      run('let n = 0\nset n to random from 1 to 6\ndrive 20 % for 1 s'),
      run('let n = 0\nset n to 3\ndrive 20 % for 1 s'),
    ];
    expect([...with_.trace.signals.K3!.values]).toEqual([...without.trace.signals.K3!.values]);
  });

  it('an own step gives back a value, is left early, and gives nothing where it says nothing', () => {
    const text =
      'let x = 0\nset x to do pick by 3\nshow x\nset x to do pick by -1\nshow x\n\ntask pick by n\n  if n > 0\n    give back 2 * n\n  end\n  show "low"\nend';
    expect(shown(run(text))).toEqual(['6', 'low', 'nothing']);
  });

  it('shows quantities with their units, colours and touches by their words', () => {
    const text = 'show front and " " and gyro and " " and floor and " " and nose and " " and timer';
    const near = {
      course: bareFloor({ walls: [{ from: { xMm: 0, yMm: 700 }, to: { xMm: 1000, yMm: 700 } }] }),
    };
    expect(shown(run(text, near))[0]).toMatch(/^44\.\d cm 0 deg \d+ % released 0(\.\d+)? s$/);
  });

  it('tells raw counts where the part has them, and nothing where it has none', () => {
    const counting = { ...eye(), raw: { atMin: 910, atMax: 130 } };
    const told = (sensor: typeof counting | ReturnType<typeof eye>) =>
      shown(
        run('show raw floor and " " and floor', {
          robot: { sensors: [sensor, bumper(), sounder(), gyro('heading')] },
        }),
      )[0]!;
    const [raw, percent] = told(counting)
      .match(/[\d.]+/g)!
      .map(Number);
    expect(raw).toBe(Math.round(910 - 7.8 * percent!));
    expect(told(eye())).toMatch(/^nothing /);
  });

  it('steers by a way in its sensor’s unit', () => {
    const walled = {
      course: bareFloor({ walls: [{ from: { xMm: 0, yMm: 700 }, to: { xMm: 1000, yMm: 700 } }] }),
    };
    const text = (speed: string) => `drive ${speed} for 0.5 s`;
    // 44.6 cm ahead: 2 × (44.6 − 30) is 29.2 %.
    const [byWay, byNumber] = [run(text('2 * (front - 30)'), walled), run(text('29.2 %'), walled)];
    expect(Math.abs(end(byWay, 'y') - end(byNumber, 'y'))).toBeLessThan(1);
  });
});

describe('the log', () => {
  it('has a row for each step that logs, in the units of its sensors, and a column for each thing logged', () => {
    const done = run('repeat 3 times as i\n  log floor and i\n  wait 0.5 s\nend\nlog gyro\nlog floor');
    expect(done.log.columns).toEqual([
      { name: 'floor', unit: '%' },
      { name: 'i', unit: '' },
      { name: 'gyro', unit: 'deg' },
    ]);
    expect(done.log.rows.map(({ values }) => values.map((v) => Number.isNaN(v)))).toEqual([
      [false, false, true],
      [false, false, true],
      [false, false, true],
      [true, true, false],
      [false, true, true],
    ]);
    expect(done.log.rows.map(({ atS }) => Math.floor(2 * atS) / 2)).toEqual([0, 0.5, 1, 1.5, 1.5]);
  });

  it('keeps so many rows and says that there were more', () => {
    const done = run('repeat for 14 s\n  log floor\nend', { robot: { sensors, stepTimeMs: 1 } });
    expect([done.log.rows.length, done.log.full]).toEqual([5000, true]);
  });
});

describe('words between robots', () => {
  it('a word is heard once, also when it came before anybody listened', () => {
    const kernel = new Kernel(
      given('wait 1 s\nwait until heard "go"\nshow timer\nif heard "go"\n  show "again"\nend\nsend "done"'),
    );
    const sent: string[] = [];
    kernel.told.onSend = (text) => sent.push(text);
    kernel.told.receive('go');
    const done = kernel.run();
    expect(shown(done)).toHaveLength(1);
    expect(parseFloat(shown(done)[0]!)).toBeCloseTo(1, 1);
    expect(sent).toEqual(['done']);
  });
});

describe('two robots on a course', () => {
  const wide = bareFloor({ widthMm: 2000, heightMm: 2000 });
  const pair = (
    text: string,
    theirs: string,
    at = { xMm: 1200, yMm: 300, bearingDeg: 0 },
    more: Changes = {},
  ) => {
    const mine = given(text, {
      course: wide,
      circumstances: { start: { xMm: 500, yMm: 300, bearingDeg: 0 } },
      ...more,
    });
    return simulate({ ...mine, other: { program: given(theirs).program, start: at } });
  };

  it('one starts when the other says so, and answers', () => {
    const done = pair(
      'wait 1 s\nsend "go"\nwait until heard "there"\nshow timer',
      'wait until heard "go"\ndrive 30 % for 20 cm\nsend "there"',
    );
    const alone = run('drive 30 % for 20 cm\nshow timer', { course: wide });
    const took = parseFloat(shown(alone)[0]!);
    expect(Math.abs(parseFloat(shown(done)[0]!) - 1 - took)).toBeLessThan(0.15);
    expect(done.other!.events.map(({ kind }) => kind)).toEqual(expect.arrayContaining(['heard', 'sent']));
    expect(done.trace.signals['opponent y']!.values.at(-1)! - 300).toBeGreaterThan(190);
  });

  it('a word that nobody sends leaves it waiting', () => {
    const done = pair('wait until heard "go"\ndrive 30 % for 20 cm', 'send "stop"', undefined, {
      timeLimitMs: 3000,
    });
    expect([done.ended.how, end(done, 'y')]).toEqual(['time limit', 300]);
  });

  it('they feel each other and do not drive through one another', () => {
    const done = pair('drive 30 %\nwait until nose is pressed\nstop\nshow "met"', 'drive 30 % for 3 s', {
      xMm: 500,
      yMm: 1200,
      bearingDeg: 180,
    });
    expect(shown(done)).toEqual(['met']);
    const gaps = done.trace.timesS.map((_, i) =>
      Math.hypot(
        done.trace.signals['opponent x']!.values[i]! - done.trace.signals.x!.values[i]!,
        done.trace.signals['opponent y']!.values[i]! - done.trace.signals.y!.values[i]!,
      ),
    );
    expect(Math.min(...gaps)).toBeGreaterThan(150);
  });

  it('sees the other by its sounder', () => {
    const done = pair('show front', 'wait 1 s', { xMm: 500, yMm: 900, bearingDeg: 180 });
    expect(parseFloat(shown(done)[0]!)).toBeGreaterThan(30);
    expect(parseFloat(shown(done)[0]!)).toBeLessThan(45);
  });

  it('is the same each time, and a fault of the other ends only the other', () => {
    const both = () => pair('drive 20 % for 1 s\nshow floor', 'let n = 0\nwait 0.5 s\nset n to 1 / n');
    const [one, two] = [both(), both()];
    expect([...one.trace.signals.y!.values]).toEqual([...two.trace.signals.y!.values]);
    expect([one.ended.how, one.other!.ended?.how]).toEqual(['at rest', 'error']);
  });
});
