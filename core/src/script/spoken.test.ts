import { describe, expect, it } from '@jest/globals';
import { canRun, formatScript, parseScript, walk, type Step } from './index.ts';

const heads = [
  'sensor floor is light on K3',
  'sensor front is distance on K2',
  'sensor side is distance in in on K6',
  'sensor nose is touch on K1',
  'sensor seen is colour on K4',
  'sensor gyro is heading on K5',
];
const read = (...lines: string[]) => parseScript([...heads, ...lines].join('\n'));
const says = (...lines: string[]) => read(...lines).findings.map(({ says, mend }) => `${says} ${mend}`);
const steps = (...lines: string[]): Step[] => {
  const program = read(...lines);
  expect(program.findings).toEqual([]);
  return program.steps;
};
const bare = (value: unknown): string =>
  JSON.stringify(value, (key, inner: unknown) =>
    ['at', 'line', 'endLine'].includes(key) ? undefined : inner,
  );

describe('one thing said in several words', () => {
  it.each<[string[], string[]]>([
    [
      ['loop', 'stop', 'end'],
      ['repeat', 'stop', 'end'],
    ],
    [
      ['forever', 'stop', 'end repeat'],
      ['repeat', 'stop', 'end'],
    ],
    [
      ['repeat forever', 'stop', 'end'],
      ['repeat', 'stop', 'end'],
    ],
    [
      ['loop 4 times', 'stop', 'end loop'],
      ['repeat 4 times', 'stop', 'end'],
    ],
    [
      ['repeat 4', 'stop', 'end'],
      ['repeat 4 times', 'stop', 'end'],
    ],
    [
      ['while front > 5', 'stop', 'end while'],
      ['repeat while front > 5', 'stop', 'end'],
    ],
    [
      ['until front < 5', 'stop', 'end'],
      ['repeat until front < 5', 'stop', 'end'],
    ],
    [['go 30 %'], ['drive 30 %']],
    [['forward 30 % for 10 cm'], ['drive 30 % for 10 cm']],
    [['drive forwards 30 %'], ['drive 30 %']],
    [['back 30 %'], ['drive -30 %']],
    [['go back 30 % for 2 seconds'], ['drive -30 % for 2 s']],
    [['reverse 30 %'], ['drive -30 %']],
    [['raw drive back 30 %'], ['raw drive -30 %']],
    [['brake'], ['stop']],
    [['reset timer'], ['zero timer']],
    [['zero gyro'], ['zero heading']],
    [['print "x"'], ['show "x"']],
    [['say "x" and front'], ['show "x" and front']],
    [['pause 0.5 s'], ['wait 0.5 s']],
    [['wait for 2 seconds'], ['wait 2 s']],
    [['wait until front ≤ 5 cm'], ['wait until front <= 5 cm']],
    [['wait until front ≠ 5 cm'], ['wait until front <> 5 cm']],
    [['wait until front is less than 5 cm'], ['wait until front < 5 cm']],
    [['wait until front is not less than 5 cm'], ['wait until front >= 5 cm']],
    [['wait until floor is less than or equal to 40'], ['wait until floor <= 40']],
    [['wait until floor is not greater than or equal to 40'], ['wait until floor < 40']],
    [['wait until front is at least 5 cm'], ['wait until front >= 5 cm']],
    [['wait until floor is above threshold'], ['wait until floor > threshold']],
    [['wait until front > 5 cm and < 20 cm'], ['wait until front > 5 cm and front < 20 cm']],
    [['wait until front > 5 and is less than 20'], ['wait until front > 5 and front < 20']],
    [['wait until seen = green'], ['wait until seen is green']],
    [['wait until seen <> green'], ['wait until seen is not green']],
    [['wait until seen is red or green'], ['wait until seen is red or seen is green']],
    [['wait until seen is not red or green'], ['wait until seen is not red and seen is not green']],
    [['wait until nose = pressed'], ['wait until nose is pressed']],
    [
      ['if front < 5 then', 'stop', 'elif front < 9', 'finish', 'otherwise', 'end if'],
      ['if front < 5', 'stop', 'else if front < 9', 'finish', 'else', 'end'],
    ],
    [['turn right 90°'], ['turn right 90 deg']],
    [['turn right until gyro >= 88'], ['spin right until gyro >= 88']],
  ])('%j is %j', (typed, own) => {
    expect(bare(steps(...typed))).toBe(bare(steps(...own)));
    const laid = formatScript([...heads, ...typed].join('\n'));
    // The formatter writes the own words; a colour that is compared and a turn stay as they are typed.
    expect(bare(parseScript(laid).steps)).toBe(bare(steps(...own)));
    expect(formatScript(laid)).toBe(laid);
  });

  it('a name that begins with a way stays a name', () => {
    const typed = 'let backwards pace = 20\nforward backwards pace\nback forward pace\nahead reverse + 3\n';
    const laid = formatScript(typed);
    expect(laid).toContain('drive (backwards pace)');
    expect(formatScript(laid)).toBe(laid);
    expect(bare(parseScript(laid).steps)).toBe(bare(parseScript(typed).steps));
  });

  it('keeps words that are names: old scripts mean what they meant', () => {
    const names = [
      'list',
      'back',
      'go',
      'loop',
      'then',
      'say',
      'log',
      'random',
      'from',
      'more',
      'least',
      'as',
    ];
    for (const name of names) {
      const program = read(
        `let ${name} = 3`,
        `set ${name} to ${name} + 1`,
        `show ${name} and ${name}`,
        `drive ${name} * 10 %`,
      );
      expect([name, program.findings]).toEqual([name, []]);
    }
    expect(read('let back speed = 20 %', 'drive back speed').steps[0]).toMatchObject({
      speed: { kind: 'value' },
    });
  });
});

describe('a word from elsewhere', () => {
  it.each<[string, RegExp]>([
    ['function go', /An own step is written: task/],
    ['def go():', /An own step is written: task/],
    ['break', /“leave”/],
    ['exit', /“finish”/],
    ['sleep 3', /wait 0\.5 s/],
    ['endif', /“end”/],
    ['var x = 3', /let lanes = 0/],
    ['int x = 3', /let lanes = 0/],
    ['rotate right 90', /turn right 90 deg/],
    ['motors on', /drive 40 %/],
    ['call back off', /do go round/],
    ['when nose is pressed', /whenever nose is pressed/],
    ['front = 12', /wait until front is 12|if front is 12/],
    ['front < 12', /wait until front < 12, or: if front < 12/],
    ['lanes = 3', /To change it write: set lanes to/],
    ['lanes += 1', /To change it write: set lanes to/],
    ['count = 3', /let count = …/],
    ['count++', /set count to count \+ 1/],
    ['wait 0,5 s', /0\.5 instead of 0,5/],
    ['repeat 4 times:', /Leave the colon out/],
    ['{', /closes with “end”/],
    ['if front < 5 && nose is pressed', /Write “and”/],
    ['set lanes += 1', /set lanes to lanes \+ 1/],
    ['if pressed', /nose is pressed/],
    ['wait until distance < 5', /sensor front is distance on K2/],
    ['wait until time > 5', /“timer”/],
    ['spin right', /not said how fast/],
    ['turn right', /not said how far/],
    ['wait until front < 12 %', /Write 12 cm instead of 12 %/],
    ['if lanes > yes', /a number is wanted/],
    ['set lanes to yes', /let lanes = no/],
    ['set lanes to do look', /gives nothing back/],
    ['give back 3', /Only an own step/],
    ['add floor to lanes', /not a list/],
    ['show readings', /average of readings/],
    ['show middle of readings', /has no “middle”/],
    ['set lanes to average(readings)', /average of readings/],
    ['log "x"', /numbers, no texts/],
    ['front is', /wait until|not complete/],
    ['drive until floor < threshold', /Say how fast.*drive 30 % until/],
    ['drive forward until nose is pressed', /Say how fast/],
    ['drive 30% until nose pressed', /nose is pressed/],
    ['drive back 10 cm at 30 %', /speed comes first/],
    ['drive 30 % for 10 cm then stop', /next line/],
    ['turn 90 deg right', /turn right 90 deg/],
    ['turn around', /turn right 180 deg/],
    ['turn until gyro > 90', /turn right until gyro > 90/],
    ['stop for 2 s', /wait 2 s/],
    ['wait until 5 s', /wait 5 s/],
    ['wait until front less than 10', /front is less than/],
    ['repeat until nose pressed', /nose is pressed/],
    ['forever do', /Leave “do” out/],
    ['if nose is pressed then stop', /lines of their own/],
    ['if 10 < front < 20', /Ask twice/],
    ['if front between 10 and 20', /> 10 and < 20/],
    ['if floor is dark', /floor < threshold/],
    ['set lanes = lanes + 1', /set lanes to lanes \+ 1/],
    ['add 1 to lanes', /set lanes to lanes \+ 1/],
    ['change lanes by 1', /set lanes to lanes \+ 1/],
    ['let x be 5', /let x = 5/],
    ['show "n: " lanes', /and lanes/],
    ['show "n: ", lanes', /and lanes/],
    ['log floor, front', /log floor and front/],
    ['wheels 30, 20', /wheels 30 and 20/],
    ['say hello', /in quotes/],
    ['beep 3 times', /repeat 3 times/],
    ['light green', /lamp green/],
    ['turn lamp on', /lamp green/],
    ['steer 20 %', /steer 20 % at 30 %/],
    ['steer left 20 % at 30 %', /steer -20 at 30 %/],
    ['zero lanes', /set lanes to 0/],
    ['random 1 to 6', /random from 1 to 6/],
    ['set lanes to random 1 to 6', /random from 1 to 6/],
    ['set lanes to a random number from 1 to 6', /random from 1 to 6/],
    ['set lanes to average readings', /average of readings/],
    ['set lanes to look', /do look/],
    ['send go', /send "go"/],
    ['wait for "go"', /heard "go"/],
    ['whenever nose is pressed do', /Leave “do” out/],
    ['finish program', /“finish” alone/],
    ['stop driving', /“stop” alone/],
    ['stop all', /“stop” alone/],
  ])('%s: told where, what and what to type', (line, wanted) => {
    const blocks = /^(if|repeat|forever|whenever)/.test(line) ? ['end'] : [];
    const found = says('list readings', 'let lanes = 0', line, ...blocks, 'task look', 'stop', 'end');
    expect(found[0]).toMatch(wanted);
  });
});

describe('quantities that bend', () => {
  const kinds = (...lines: string[]) => {
    const program = read(...lines);
    return program.findings.length > 0
      ? program.findings.map((f) => f.says)
      : program.values.map((v) => v.of);
  };

  it.each<[string, string[], unknown[]]>([
    [
      'a value set to 0',
      ['let error = 0', 'set error to floor - 46', 'steer 0.5 * error at 25 %'],
      ['percent'],
    ],
    [
      'used before it is set',
      ['let error = 0', 'wait until error > 3', 'set error to floor - 46'],
      ['percent'],
    ],
    ['compared with a way', ['let gap = 15', 'wait until front < gap'], ['length']],
    ['an average', ['let mean = 0', 'set mean to (4 * mean + floor) / 5'], ['percent']],
    [
      'a factor stays a number',
      ['let m = 0.4', 'let b = 10', 'steer m * floor + b at 25 %'],
      ['number', 'percent'],
    ],
    [
      'a counter stays a number',
      ['let n = 0', 'set n to n + 1', 'repeat n times', 'end', 'steer n at 20 %'],
      ['number'],
    ],
    ['a time', ['let pause length = 0.5', 'wait pause length'], ['time']],
    [
      'what an own step is given',
      ['do run by 30', 'task run by fast', 'wait until floor > fast', 'end'],
      ['percent'],
    ],
    ['a number as a speed', ['let fast = 30', 'drive fast'], ['number']],
  ])('%s', (_, lines, wanted) => expect(kinds(...lines)).toEqual(wanted));

  it('a bare number beside a way is in the unit of its sensor, wherever it was written', () => {
    const [cm] = read('let gap = 15', 'wait until front < gap').values;
    const [inches] = read('let gap = 15', 'wait until side < gap').values;
    expect([cm!.initial, inches!.initial]).toMatchObject([{ value: 150 }, { value: 381 }]);
  });

  it('two uses that clash are told with both kinds and the line of the first', () => {
    expect(says('let x = 0', 'set x to floor', 'wait until front < x')[0]).toMatch(
      /“front” is a length, “x” is a percentage.*“x” holds a percentage since line 8/,
    );
    expect(says('let x = 5 cm', 'set x to 3 s')[0]).toMatch(/a length since line 7, but “3 s” is a time/);
  });

  it('a steering and a pitch may come from a way or an angle, a speed not from a plain length', () => {
    expect(steps('steer 2 * (side - 15) at 30 %')[0]).toMatchObject({
      steering: { kind: 'plain', unit: 'in' },
    });
    expect(steps('drive 3 * (front - 10) until front < 12')[0]).toMatchObject({
      speed: { kind: 'plain', unit: 'cm' },
    });
    expect(steps('beep 40 * front for 0.1 s')[0]).toMatchObject({
      pitch: { kind: 'plain', of: 'frequency' },
    });
    expect(says('drive 30 cm')[0]).toMatch(/A speed is a percentage, but “30 cm” is a length/);
  });
});

describe('yes or no, lists, own steps, beside', () => {
  it('a value may hold yes or no', () => {
    const program = read(
      'let found = no',
      'while not found',
      'if found = no and seen is green',
      'set found to yes',
      'end',
      'set found to front < 10 cm or found',
      'end',
      'if found is yes',
      'stop',
      'end',
    );
    expect(program.findings).toEqual([]);
    expect(program.values[0]!.of).toBe('truth');
    expect(says('let found = no', 'set found to 3')[0]).toMatch(/a yes-or-no since line 7/);
    expect(says('let found = no', 'wait until found > 3')[0]).toMatch(/not a yes-or-no/);
  });

  it('a list takes its kind from what is put in, however late', () => {
    const program = read('list readings', 'wait until average of readings > 40 %', 'add floor to readings');
    expect(program.findings).toEqual([]);
    expect(program.lists).toMatchObject([{ name: 'readings', of: 'percent' }]);
    expect(says('list a', 'add floor to a', 'add front to a')[0]).toMatch(
      /a percentage, but “front” is a length/,
    );
    expect(says('list floor')[0]).toMatch(/declared on line 1 already/);
  });

  it('a fault on one line does not forget what another line has found', () => {
    const program = read(
      'list readings',
      'add 3 % to readings',
      'wait until average of readings > 3 %',
      'drive 3 cm',
    );
    expect(program.findings.map(({ line }) => line)).toEqual([10]);
  });

  it('the same words mean the same only while their names do', () => {
    const kindOf = (first: string) => read(first, 'set x to x + 1', 'wait until x > 5').values[0]!.of;
    expect([kindOf('let x = 0 cm'), kindOf('let x = 0 %'), kindOf('let x = 0')]).toEqual([
      'length',
      'percent',
      'number',
    ]);
    expect(read('let x = 0', 'drive x').findings).toEqual([]);
    expect(read('let x = no', 'drive x').findings).toHaveLength(1);
  });

  it('an own step has values of its own, is left early and gives a value back', () => {
    const program = read(
      'let far = 0',
      'set far to do look by 5',
      'wait until front < far',
      'task look by n',
      'let total = 0',
      'repeat n times as i',
      'set total to total + front',
      'if i > 3',
      'give back total / i',
      'end',
      'end',
      'give back total / n',
      'end',
    );
    expect(program.findings).toEqual([]);
    expect(program.tasks[0]!.gives).toBe('length');
    expect(program.values.map(({ name, of, role }) => [name, of, role])).toEqual([
      ['n', 'number', 'given'],
      ['far', 'length', 'let'],
      ['total', 'length', 'own'],
      ['i', 'number', 'counter'],
    ]);
  });

  it('two own steps may have values of the same name', () => {
    const two = ['task a', 'let x = 1 cm', 'show x', 'end', 'task b', 'let x = 1 s', 'show x', 'end'];
    expect(says('do a', 'do b', ...two)).toEqual([]);
  });

  it('what is done beside the main program stands outside every block and may be all there is', () => {
    const program = read('whenever nose is pressed', 'beep 500 Hz', 'end');
    expect([program.findings, canRun(program), program.watchers.length]).toEqual([[], true, 1]);
    expect(says('repeat', 'whenever nose is pressed', 'end', 'end')[0]).toMatch(/cannot stand inside/);
    expect(says('whenever nose is pressed', 'stop')[0]).toMatch(/“whenever” has no “end”/);
    expect(says('whenever nose', 'stop', 'end')[0]).toMatch(/nose is pressed/);
    expect(says('whenever nose is pressed', 'leave', 'end')[0]).toMatch(/outside any repeat/);
    expect(says('whenever nose is pressed', 'let x = 3', 'end')[0]).toMatch(/stands at the start/);
  });

  it('a repeat counts in a value of its own, which a second repeat may use again', () => {
    const program = read('repeat 3 times as i', 'show i', 'end', 'repeat 2 times as i', 'show i', 'end');
    expect([program.findings, program.values.length]).toEqual([[], 1]);
    expect(says('repeat 3 times as floor', 'end')[0]).toMatch(/declared on line 1 already/);
  });

  it('every step written is counted, those beside the main program too', () => {
    const program = read('drive 20 % until nose is pressed', 'whenever nose is pressed', 'beep', 'end');
    let seen = 0;
    walk(program.steps, () => seen++);
    expect([program.stepCount, seen]).toEqual([2, 1]);
  });
});
