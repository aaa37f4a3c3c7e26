import type { QuantityKind, Unit } from '../quantity/index.ts';
import type { SensorKind } from '../sensing/index.ts';
import type { Finding, Place } from './findings.ts';

export type CompareOp = '<' | '<=' | '>' | '>=' | '=' | '<>';

/** What an expression is worth: a quantity of some kind, a text, or yes/no. */
export type ValueKind = QuantityKind | 'text' | 'truth';

/** What is always there without a declaration. */
export type BuiltIn = 'left wheel' | 'right wheel' | 'timer' | 'battery';

export type FunctionName = 'min' | 'max' | 'abs' | 'round' | 'floor' | 'clamp' | 'remainder';

/** What a value, or an own step that gives one back, holds: a quantity of one kind, or yes or no. */
export type HeldKind = QuantityKind | 'truth';

/** What a whole list is asked for. */
export type ListQuestion = 'smallest' | 'largest' | 'average' | 'sum' | 'count' | 'last';

/** What `is` asks of a sensor: a touch state or event, no reading, or a colour by name. */
export type StateQuestion =
  | { of: 'touch'; what: 'pressed' | 'released' | 'bumped' }
  | { of: 'nothing' }
  | { of: 'colour'; what: string };

export type Expr = { at: Place } & (
  | { kind: 'quantity'; value: number; of: QuantityKind }
  | { kind: 'text'; value: string }
  | { kind: 'sensor'; index: number; of: QuantityKind }
  /** The reading before the kit turned it into a unit. */
  | { kind: 'raw'; sensor: number }
  /** One number of a sensor that gives several, counted from 1. */
  | { kind: 'item'; sensor: number; position: Expr; of: QuantityKind }
  | { kind: 'builtin'; name: BuiltIn; of: QuantityKind }
  /** `bends`: declared as a bare number, so that it may still take the kind of what it is used with. */
  | { kind: 'value'; index: number; of: HeldKind; bends?: boolean }
  | { kind: 'truth'; value: boolean }
  | { kind: 'list'; list: number; asks: ListQuestion; of: QuantityKind }
  /** One number of a list, counted from 1. */
  | { kind: 'listItem'; list: number; position: Expr; of: QuantityKind }
  /** Drawn anew at each look; whole where both ends are plain whole numbers. */
  | { kind: 'random'; from: Expr; to: Expr }
  /** A quantity told in a unit and taken as a plain number: the centimetres of a distance, to steer by. */
  | { kind: 'plain'; operand: Expr; unit: Unit; of: QuantityKind }
  /** Whether another robot has sent this since it was last asked. */
  | { kind: 'heard'; text: string }
  | { kind: 'threshold'; sensor: number; of: QuantityKind }
  | { kind: 'negative'; operand: Expr }
  | { kind: 'arithmetic'; op: '+' | '-' | '*' | '/'; left: Expr; right: Expr }
  | { kind: 'call'; name: FunctionName; args: Expr[] }
  /** Two looks as one number: left × 2 + right. */
  | { kind: 'state'; left: Expr; right: Expr }
  | { kind: 'compare'; op: CompareOp; left: Expr; right: Expr }
  | { kind: 'is'; sensor: number; asks: StateQuestion }
  /** How far `operand` has moved since the step that asks began. */
  | { kind: 'change'; how: 'drops' | 'rises' | 'changes'; operand: Expr; by: Expr }
  | { kind: 'not'; operand: Expr }
  | { kind: 'logic'; op: 'and' | 'or'; left: Expr; right: Expr }
);

/** How long a movement lasts: so far, so much wheel, or so long. Base units: mm, wheel degrees, s. */
export interface For {
  of: 'length' | 'angle' | 'time';
  amount: Expr;
}

/** A movement that ends by itself, by distance or clock, when a test holds, or by whichever comes first; neither: it goes on. */
export interface Lasting {
  until: For | null;
  /** Looked at every step time; a speed or steering that is read off a sensor is worked out anew at each look then. */
  endsWhen: Expr | null;
}

export interface Arm {
  line: number;
  /** Null for `else`. */
  test: Expr | null;
  body: Step[];
}

export type Direction = 'left' | 'right';

export type Step = { at: Place } & (
  | ({ kind: 'drive'; speed: Expr; raw: boolean } & Lasting)
  | ({ kind: 'wheels'; left: Expr; right: Expr; raw: boolean } & Lasting)
  | ({ kind: 'steer'; steering: Expr; speed: Expr } & Lasting)
  /** On the spot by wheel encoders; `speed` null means `TURN_PERCENT`. `endsWhen` ends it early. */
  | { kind: 'turn'; direction: Direction; angle: Expr; speed: Expr | null; endsWhen: Expr | null }
  /** On the spot until told otherwise; `speed` null means `TURN_PERCENT`, as in “turn right until …”. */
  | ({ kind: 'spin'; direction: Direction; speed: Expr | null } & Lasting)
  | { kind: 'stop'; how: 'brake' | 'hold' | 'coast' }
  /** Null direction: back to ahead. */
  | { kind: 'turret'; direction: Direction | null; angle: Expr | null; speed: Expr | null }
  | { kind: 'zero'; what: 'heading' | 'wheels' | 'timer' }
  | { kind: 'wait'; time: Expr }
  | { kind: 'waitUntil'; test: Expr }
  | {
      kind: 'repeat';
      how: 'forever' | 'times' | 'for' | 'until' | 'while';
      amount: Expr | null;
      /** The value that tells the number of the round, from 1, in “repeat 5 times as i”. */
      counter: number | null;
      body: Step[];
      endLine: number;
    }
  | { kind: 'leave' }
  | { kind: 'finish' }
  | { kind: 'if'; arms: Arm[]; endLine: number }
  | { kind: 'set'; index: number; value: Expr }
  | { kind: 'add'; list: number; value: Expr }
  | { kind: 'emptyList'; list: number }
  | { kind: 'show'; items: Expr[] }
  | { kind: 'clear' }
  /** A row of the log: what is told, each with a head for its column. */
  | { kind: 'log'; items: Expr[] }
  | { kind: 'send'; text: string }
  | { kind: 'beep'; pitch: Expr | null; time: Expr | null; volume: Expr | null }
  | { kind: 'lamp'; colour: string | null }
  /** `into`: the value that takes what the own step gives back. */
  | { kind: 'do'; task: number; args: Expr[]; into: number | null }
  /** Goes back out of an own step, with a value or without. */
  | { kind: 'give'; value: Expr | null }
);

/** How fast a turn goes that names no speed, % of full speed. */
export const TURN_PERCENT = 30;

/** A beep that does not say: pitch in Hz, time in s, loudness in %. */
export const BEEP = { pitchHz: 440, timeS: 0.2, volume: 50 };

export interface SensorDeclaration {
  name: string;
  kind: SensorKind;
  /** The unit that a bare number beside a distance takes: cm unless said otherwise. Null for other kinds. */
  unit: Extract<Unit, 'mm' | 'cm' | 'in'> | null;
  socket: string;
  at: Place;
}

/** A motor beside the wheels: a turret carries a sensor. */
export interface MotorDeclaration {
  name: string;
  socket: string;
  at: Place;
}

/** A named value: one of the script's, one that an own step is given or has of its own, or a count of rounds. */
export interface ValueDeclaration {
  name: string;
  of: HeldKind;
  role: 'let' | 'given' | 'own' | 'counter';
  /** What a `let` outside own steps sets at the start; null for all others. */
  initial: Expr | null;
  /** The own step that knows it; null when the whole script does. */
  task: number | null;
  at: Place;
}

/** A list of readings or other quantities of one kind. */
export interface ListDeclaration {
  name: string;
  of: QuantityKind;
  at: Place;
}

/** Steps that are done beside the main program whenever a test comes true. */
export interface Watcher {
  test: Expr | null;
  body: Step[];
  at: Place;
  endLine: number;
}

/** An own step. */
export interface TaskDeclaration {
  name: string;
  /** Indexes into the program's values. */
  parameters: number[];
  /** What it gives back; null when it gives nothing. */
  gives: HeldKind | null;
  body: Step[];
  at: Place;
  endLine: number;
}

/** A script as understood. It may run only when `findings` holds no fault. */
export interface Program {
  sensors: SensorDeclaration[];
  motors: MotorDeclaration[];
  values: ValueDeclaration[];
  lists: ListDeclaration[];
  tasks: TaskDeclaration[];
  watchers: Watcher[];
  steps: Step[];
  /** Number of steps written, those inside blocks and own steps counted, declarations not. */
  stepCount: number;
  /** Last line of the main program that holds a step or an `end`. */
  lastLine: number;
  findings: Finding[];
  /** The lines as typed. */
  source: readonly string[];
}
