import { units, type Unit } from '../quantity/index.ts';
import { BEEP, TURN_PERCENT, type Expr, type Lasting, type Program, type Step } from '../script/index.ts';

/** A step as a sentence to be read out. */
export interface Sentence {
  /** “3.2”: the second step inside the third. */
  number: string;
  depth: number;
  /** The line it stands on. */
  line: number;
  text: string;
}

const compares = {
  '<': 'is less than',
  '<=': 'is at most',
  '>': 'is more than',
  '>=': 'is at least',
  '=': 'is equal to',
  '<>': 'is not equal to',
};
const signs = { '+': 'plus', '-': 'minus', '*': 'times', '/': 'divided by' };
const calls = {
  min: 'the smallest of',
  max: 'the largest of',
  abs: 'the size of',
  round: 'the nearest whole number to',
  floor: 'the whole number below',
  clamp: 'held between its ends:',
  remainder: 'what is left over when dividing',
};

const wholes = {
  smallest: 'the smallest of',
  largest: 'the largest of',
  average: 'the average of',
  sum: 'the sum of',
  count: 'how many there are in',
  last: 'the last of',
};

class Reader {
  private readonly program: Program;

  constructor(program: Program) {
    this.program = program;
  }

  private sensor(index: number): string {
    return this.program.sensors[index]?.name ?? 'the sensor';
  }

  /** A quantity in the unit it was written in. */
  private quantity(expr: Expr): string {
    const { line, column, length } = expr.at;
    const typed = (this.program.source[line - 1] ?? '').slice(column - 1, column - 1 + length);
    const [, number = typed, unit = ''] = /^([\d.]+)\s*(\S*)$/.exec(typed) ?? [];
    const known = (Object.keys(units) as Unit[]).find((u) => u.toLowerCase() === unit.toLowerCase());
    const word = known ? units[known].word : unit === 'turn' ? 'turns' : unit;
    const one = Number(number) === 1 && word.endsWith('s') ? word.slice(0, -1) : word;
    return one === '' ? number : `${number} ${one === 'inche' ? 'inch' : one}`;
  }

  /** An expression in words. */
  say(expr: Expr): string {
    switch (expr.kind) {
      case 'quantity':
        return this.quantity(expr);
      case 'text':
        return `“${expr.value}”`;
      case 'sensor':
        return this.sensor(expr.index);
      case 'raw':
        return `the raw reading of ${this.sensor(expr.sensor)}`;
      case 'item':
        return `number ${this.say(expr.position)} of ${this.sensor(expr.sensor)}`;
      case 'builtin':
        return `the ${expr.name}`;
      case 'value':
        return this.program.values[expr.index]?.name ?? 'the value';
      case 'truth':
        return expr.value ? 'yes' : 'no';
      case 'list':
        return `${wholes[expr.asks]} ${this.list(expr.list)}`;
      case 'listItem':
        return `number ${this.say(expr.position)} of ${this.list(expr.list)}`;
      case 'random':
        return `a chance value from ${this.say(expr.from)} to ${this.say(expr.to)}`;
      case 'plain':
        return this.say(expr.operand);
      case 'heard':
        return `“${expr.text}” is heard`;
      case 'threshold':
        return `the threshold of ${this.sensor(expr.sensor)}`;
      case 'negative':
        return `minus ${this.say(expr.operand)}`;
      case 'arithmetic':
        return `${this.within(expr.left)} ${signs[expr.op]} ${this.within(expr.right)}`;
      case 'call':
        return `${calls[expr.name]} ${listed(expr.args.map((arg) => this.say(arg)))}`.replace(
          /^(what is left over when dividing .*) and /,
          '$1 by ',
        );
      case 'state':
        return `the state of ${this.subject(expr.left)} and ${this.subject(expr.right)}`;
      case 'compare':
        return `${this.say(expr.left)} ${compares[expr.op]} ${this.say(expr.right)}`;
      case 'is':
        return `${this.sensor(expr.sensor)} ${this.question(expr)}`;
      case 'change':
        return `${this.say(expr.operand)} has ${{ drops: 'dropped', rises: 'risen', changes: 'changed' }[expr.how]} by ${this.say(expr.by)}`;
      case 'not':
        return `not ${this.within(expr.operand)}`;
      case 'logic':
        return `${this.within(expr.left)} ${expr.op} ${this.within(expr.right)}`;
    }
  }

  private question({ asks }: Extract<Expr, { kind: 'is' }>): string {
    if (asks.of === 'nothing') return 'sees nothing';
    if (asks.of === 'colour') return `is ${asks.what}`;
    return asks.what === 'bumped' ? 'has been bumped' : `is ${asks.what}`;
  }

  private subject(look: Expr): string {
    if (look.kind === 'is') return this.sensor(look.sensor);
    return look.kind === 'compare' ? this.say(look.left) : 'a sensor';
  }

  /** A part that is made of parts itself is set off. */
  private within(expr: Expr): string {
    const words = this.say(expr);
    return expr.kind === 'arithmetic' || expr.kind === 'logic' ? `(${words})` : words;
  }

  private list(index: number): string {
    return this.program.lists[index]?.name ?? 'the list';
  }

  private value(index: number): string {
    return this.program.values[index]?.name ?? 'the value';
  }

  /** How a movement ends by itself, with whichever comes first where there are two ways. */
  private until({ until, endsWhen }: Lasting): string {
    const ways = [
      ...(until
        ? [`${until.of === 'angle' ? 'until the wheels have turned' : 'for'} ${this.say(until.amount)}`]
        : []),
      ...(endsWhen ? [`until ${this.say(endsWhen)}`] : []),
    ];
    return ways.length === 0 ? '' : ` ${ways.join(', or ')}, then brake`;
  }

  private speed(expr: Expr, forward: string, back: string): string {
    if (expr.kind === 'negative') return `${back} at ${this.say(expr.operand)}`;
    return `${forward} at ${this.say(expr)}`;
  }

  sentence(step: Step): string {
    switch (step.kind) {
      case 'drive':
        return `${this.speed(step.speed, 'Drive forward', 'Drive backward')}${step.raw ? ' of raw power' : ''}${this.until(step)}.`;
      case 'wheels':
        return `Turn the left wheel at ${this.say(step.left)} and the right wheel at ${this.say(step.right)}${step.raw ? ' of raw power' : ''}${this.until(step)}.`;
      case 'steer':
        return `Drive at ${this.say(step.speed)} and steer by ${this.say(step.steering)}${this.until(step)}.`;
      case 'turn':
        return `Turn ${step.direction} on the spot by ${this.say(step.angle)} at ${step.speed ? this.say(step.speed) : `${TURN_PERCENT} percent`}${step.endsWhen ? `, or until ${this.say(step.endsWhen)}` : ''}.`;
      case 'spin':
        return `Spin to the ${step.direction} at ${step.speed ? this.say(step.speed) : `${TURN_PERCENT} percent`}${this.until(step)}.`;
      case 'stop':
        return { brake: 'Stop.', hold: 'Stop and hold the wheels.', coast: 'Stop driving and roll out.' }[
          step.how
        ];
      case 'turret':
        return step.direction
          ? `Turn the turret ${step.direction} by ${this.say(step.angle!)}.`
          : 'Turn the turret back to ahead.';
      case 'zero':
        return {
          heading: 'Let the heading count from here.',
          wheels: 'Let the wheels count from here.',
          timer: 'Start the timer.',
        }[step.what];
      case 'wait':
        return `Wait for ${this.say(step.time)}.`;
      case 'waitUntil':
        return `Wait until ${this.say(step.test)}.`;
      case 'repeat':
        return this.repeat(step);
      case 'leave':
        return 'Leave the repeat.';
      case 'finish':
        return 'End the program.';
      case 'if':
        return '';
      case 'set':
        return `Set ${this.value(step.index)} to ${this.say(step.value)}.`;
      case 'add':
        return `Put ${this.say(step.value)} into ${this.list(step.list)}.`;
      case 'emptyList':
        return `Empty ${this.list(step.list)}.`;
      case 'log':
        return `Note ${listed(step.items.map((item) => this.say(item)))} in the log.`;
      case 'send':
        return `Send “${step.text}” to the other robot.`;
      case 'give':
        return step.value ? `Give back ${this.say(step.value)}.` : 'Go back out of the own step.';
      case 'show':
        return `Show ${step.items.map((item) => this.say(item)).join(' and ')}.`;
      case 'clear':
        return 'Empty the display.';
      case 'beep':
        return `Sound ${step.pitch ? this.say(step.pitch) : `${BEEP.pitchHz} hertz`} for ${step.time ? this.say(step.time) : `${BEEP.timeS} seconds`}.`;
      case 'lamp':
        return step.colour ? `Light the lamp ${step.colour}.` : 'Put the lamp off.';
      case 'do': {
        const task = this.program.tasks[step.task]!;
        const given = step.args.length > 0 ? ` by ${step.args.map((arg) => this.say(arg)).join(', ')}` : '';
        const done = `“${task.name}”${given}`;
        return step.into === null
          ? `Do ${done}.`
          : `Do ${done} and set ${this.value(step.into)} to what it gives back.`;
      }
    }
  }

  private repeat({ how, amount, counter }: Extract<Step, { kind: 'repeat' }>): string {
    const what = amount ? this.say(amount) : '';
    if (counter !== null) return `Repeat ${what} times, counting in ${this.value(counter)}:`;
    return {
      forever: 'Again and again, for ever:',
      times: `Repeat ${what} times:`,
      for: `Again and again, for ${what}:`,
      until: `Again and again, until ${what}:`,
      while: `Again and again, while ${what}:`,
    }[how];
  }
}

const listed = (words: string[]) =>
  words.length < 2 ? (words[0] ?? '') : `${words.slice(0, -1).join(', ')} and ${words.at(-1)}`;

/** The program as numbered sentences, own steps at the end, for a handout or for reading out. */
export function readAloud(program: Program): Sentence[] {
  const reader = new Reader(program);
  const found: Sentence[] = [];
  const tell = (steps: readonly Step[], before: string, depth: number) => {
    let count = 0;
    const add = (line: number, text: string) => {
      const number = `${before}${++count}`;
      found.push({ number, depth, line, text });
      return `${number}.`;
    };
    for (const step of steps) {
      if (step.kind !== 'if') {
        const inside = add(step.at.line, reader.sentence(step));
        if (step.kind === 'repeat') tell(step.body, inside, depth + 1);
        continue;
      }
      step.arms.forEach((arm, i) => {
        const test = arm.test ? reader.say(arm.test) : '';
        const head = arm.test ? `${i === 0 ? 'If' : 'Otherwise, if'} ${test}:` : 'Otherwise:';
        tell(arm.body, add(arm.line, head), depth + 1);
      });
    }
  };
  tell(program.steps, '', 0);
  for (const { test, body, at } of program.watchers) {
    const when = test ? reader.say(test) : '…';
    found.push({ number: '', depth: 0, line: at.line, text: `Beside all this, whenever ${when}:` });
    tell(body, '', 1);
  }
  for (const task of program.tasks) {
    const given = task.parameters.map((index) => program.values[index]!.name).join(', ');
    found.push({
      number: '',
      depth: 0,
      line: task.at.line,
      text: `To “${task.name}”${given && ` by ${given}`}:`,
    });
    tell(task.body, '', 1);
  }
  return found;
}
