import { sameSocket, type Fitting, type SensorKind } from '../sensing/index.ts';
import type { HeldKind, Program } from '../script/index.ts';
import type { KnownRobotFacts } from './known.ts';
import { insertSteps, type Edited } from './edit.ts';
import { meanings } from './meanings.ts';

/** A step ready to be put into a script; a block comes with its `end`. */
export interface StepTemplate {
  group: (typeof templateGroups)[number];
  code: string;
  means: string;
  /** A declaration that it needs and the script has not yet. */
  declare: string | null;
}

export const templateGroups = [
  'Move',
  'Wait and ask',
  'Repeat',
  'Beside it',
  'Tell',
  'Values',
  'Lists',
  'Own steps',
] as const;

/** What a sensor is called until somebody finds a better name. */
const usualNames: Partial<Record<SensorKind, string>> = {
  touch: 'nose',
  light: 'floor',
  ambient: 'sky',
  colour: 'seen',
  rgb: 'shade',
  distance: 'front',
  proximity: 'near',
  beacon: 'beacon',
  heading: 'gyro',
  spin: 'rate',
};

/** The name by which a kind of sensor can be asked: declared, or to be declared on this robot; null without one. */
function nameFor(
  kind: SensorKind,
  program: Program,
  robot: KnownRobotFacts,
): { name: string; declare: string | null } | null {
  const declared = program.sensors.find((sensor) => sensor.kind === kind);
  if (declared) return { name: declared.name, declare: null };
  const fits = ({ mode, socket }: Fitting) =>
    mode === kind && !program.sensors.some((sensor) => sameSocket(sensor.socket, socket));
  const fitting = robot.build.fittings.find(fits);
  const usual = usualNames[kind];
  if (!fitting || !usual) return null;
  const taken = (name: string) =>
    [...program.sensors, ...program.values, ...program.motors].some((one) => one.name.toLowerCase() === name);
  const name = taken(usual) ? `${usual} ${fitting.socket.toLowerCase()}` : usual;
  return { name, declare: `sensor ${name} is ${kind} on ${fitting.socket}` };
}

const asking: [SensorKind, (name: string) => string[]][] = [
  [
    'touch',
    (n) => [
      `drive 30 % until ${n} is pressed`,
      `wait until ${n} is pressed`,
      `wait until ${n} is bumped`,
      `if ${n} is pressed\nend`,
    ],
  ],
  [
    'light',
    (n) => [
      `drive 30 % until ${n} < threshold`,
      `wait until ${n} < threshold`,
      `wait until ${n} > threshold`,
      `wait until ${n} drops by 30`,
      `if ${n} < threshold\nelse\nend`,
      `repeat until ${n} < threshold\nend`,
      `steer 0.4 * (${n} - threshold) at 25 %`,
    ],
  ],
  ['colour', (n) => [`drive 25 % until ${n} is green`, `wait until ${n} is green`, `if ${n} is red\nend`]],
  [
    'distance',
    (n) => [
      `drive 30 % until ${n} < 15 cm`,
      `wait until ${n} < 15 cm`,
      `wait until ${n} rises by 10 cm`,
      `if ${n} < 15 cm\nend`,
      `repeat until ${n} < 15 cm\nend`,
    ],
  ],
  ['proximity', (n) => [`wait until ${n} > 40 %`, `if ${n} > 40 %\nend`]],
  [
    'heading',
    (n) => [
      `turn right until ${n} >= 88 deg`,
      `wait until ${n} > 85 deg`,
      `repeat until ${n} >= 88 deg\nend`,
    ],
  ],
];

/** Every step that can be added here, in the order of the work, with the sensors that this robot has. */
export function stepTemplates(program: Program, robot: KnownRobotFacts): StepTemplate[] {
  const found: StepTemplate[] = [];
  const add = (group: StepTemplate['group'], code: string, declare: string | null = null) => {
    const first = code.split(' ')[0]!.split('\n')[0]!;
    found.push({ group, code, means: meanings[first] ?? '', declare });
  };
  for (const code of [
    'drive 30 %',
    'drive 30 % for 10 cm',
    'stop',
    'turn right 90 deg',
    'wheels 40 % and 20 %',
    'spin right at 20 %',
    'raw drive 60 %',
  ]) {
    add('Move', code);
  }
  const spare = robot.kit.sockets.find(
    ({ takes, drives }) => takes === 'motor' && !drives?.includes('wheel'),
  );
  if (program.motors.length > 0 || spare) {
    const declare = program.motors.length > 0 || !spare ? null : `motor scanner is turret on ${spare.name}`;
    add('Move', 'turret left 90 deg', declare);
    add('Move', 'turret ahead', declare);
  }
  add('Wait and ask', 'wait 0.5 s');
  add('Wait and ask', 'wait until left wheel >= 2 turns');
  add('Repeat', 'repeat\nend');
  add('Repeat', 'repeat 4 times\nend');
  add('Repeat', 'repeat 4 times as i\nend');
  add('Repeat', 'repeat for 10 s\nend');
  for (const [kind, codes] of asking) {
    const known = nameFor(kind, program, robot);
    if (!known) continue;
    for (const code of codes(known.name)) {
      const first = code.split(' ')[0]!;
      const group =
        first === 'repeat' ? 'Repeat' : ['steer', 'drive', 'turn'].includes(first) ? 'Move' : 'Wait and ask';
      add(group, code, known.declare);
    }
    if (kind === 'heading') add('Values', 'zero heading', known.declare);
  }
  const watched = nameFor('touch', program, robot) ?? nameFor('light', program, robot);
  if (watched) {
    const test = program.sensors.some(({ name, kind }) => name === watched.name && kind === 'light')
      ? '< threshold'
      : watched.declare?.includes(' is light ')
        ? '< threshold'
        : 'is pressed';
    add('Beside it', `whenever ${watched.name} ${test}\nend`, watched.declare);
  }
  add('Beside it', 'send "go"');
  add('Beside it', 'wait until heard "go"');
  add('Repeat', 'leave');
  add('Repeat', 'finish');
  const values = program.values.filter(({ role }) => role === 'let');
  const counted = values.find((value) => value.of === 'number')?.name;
  add('Tell', counted ? `show "${counted}: " and ${counted}` : 'show "hello"');
  const logged = program.sensors.find(({ kind }) => kind !== 'touch' && kind !== 'colour')?.name;
  add('Tell', `log ${logged ?? 'timer'}`);
  for (const code of ['clear', 'beep 500 Hz for 0.5 s at 50 %', 'lamp green', 'lamp off']) add('Tell', code);
  const count = counted ?? 'count';
  const declareCount = counted ? null : `let ${count} = 0`;
  add('Values', `set ${count} to ${count} + 1`, declareCount);
  add('Values', `set ${count} to 0`, declareCount);
  const flag = values.find((value) => value.of === 'truth')?.name ?? 'found';
  const declareFlag = values.some((value) => value.of === 'truth') ? null : 'let found = no';
  add('Values', `set ${flag} to yes`, declareFlag);
  add('Wait and ask', `if ${flag}\nend`, declareFlag);
  add('Repeat', `repeat while not ${flag}\nend`, declareFlag);
  add('Values', `set ${count} to random from 1 to 6`, declareCount);
  add('Values', 'zero wheels');
  add('Values', 'zero timer');
  const list = program.lists[0]?.name ?? 'readings';
  const declareList = program.lists.length > 0 ? null : 'list readings';
  add('Lists', `add ${logged ?? 'timer'} to ${list}`, declareList);
  add('Lists', `show "average: " and average of ${list}`, declareList);
  add('Lists', `clear ${list}`, declareList);
  for (const task of program.tasks) {
    if (task.name === '') continue;
    const given = task.parameters.map((index) => examples[program.values[index]!.of]).join(', ');
    const call = `do ${task.name}${given && ` by ${given}`}`;
    add('Own steps', call);
    if (task.gives === 'number' || task.gives === 'truth') {
      const into = values.find((value) => value.of === task.gives)?.name;
      if (into) add('Own steps', `set ${into} to ${call}`);
    }
  }
  if (program.tasks.length > 0) add('Own steps', 'give back');
  const names = new Set(program.tasks.map((task) => task.name.toLowerCase()));
  const name =
    ['back off', 'turn round', 'look around'].find((one) => !names.has(one)) ?? `step ${names.size + 1}`;
  add('Own steps', `task ${name}\nend`);
  // A drive with all that may end it comes first: it is the first thing that everybody writes.
  const rank = ({ group, code }: StepTemplate) =>
    group === 'Move' ? moves.indexOf(/^\w+/.exec(code)![0]) : moves.length;
  return found
    .map((template, i) => ({ template, i }))
    .sort((a, b) => rank(a.template) - rank(b.template) || a.i - b.i)
    .map(({ template }) => template);
}

const moves = ['drive', 'stop', 'turn', 'wheels', 'steer', 'spin', 'raw', 'turret'];

/**
 * Puts a template into a script after a line: its declaration among the others at the top, an own step at the end.
 */
export function insertTemplate(text: string, after: number, { code, declare }: StepTemplate): Edited {
  if (/^(task|whenever) /.test(code)) {
    const lines = text.split('\n');
    while (lines.at(-1)?.trim() === '') lines.pop();
    const blank = lines.length > 0 ? [''] : [];
    return withDeclaration(
      {
        text: [...lines, ...blank, ...code.split('\n')].join('\n'),
        line: lines.length + blank.length + 1,
      },
      declare,
    );
  }
  return withDeclaration(insertSteps(text, after, code), declare);
}

/** What an own step may be given, by kind. */
const examples: Record<HeldKind, string> = {
  length: '10 cm',
  angle: '90 deg',
  time: '1 s',
  percent: '20 %',
  frequency: '500 Hz',
  number: '3',
  truth: 'yes',
};

function withDeclaration(placed: Edited, declare: string | null): Edited {
  if (!declare) return placed;
  const lines = placed.text.split('\n');
  const last = lines.findLastIndex((line) => /^\s*(sensor|motor|list|let)\b/i.test(line));
  // A value is declared below the sensors, a sensor above the values: either way after what is declared already.
  const at = last + 1 < placed.line ? last + 1 : 0;
  lines.splice(at, 0, declare);
  return { text: lines.join('\n'), line: placed.line + 1 };
}
