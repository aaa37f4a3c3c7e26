import type { QuantityKind, Unit } from '../quantity/index.ts';
import type { SensorKind } from '../sensing/index.ts';
import type { Finding, Place } from './findings.ts';

export type CompareOp = '<' | '<=' | '>' | '>=' | '=' | '<>';

/** What an expression is worth: a quantity of some kind, a text, or yes/no. */
export type ValueKind = QuantityKind | 'text' | 'truth';

/** What is always there without a declaration. */
export type BuiltIn = 'left wheel' | 'right wheel' | 'timer' | 'battery';

export type FunctionName = 'min' | 'max' | 'abs' | 'round' | 'floor' | 'clamp';

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
  | { kind: 'value'; index: number; of: QuantityKind }
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

export interface Arm {
  line: number;
  /** Null for `else`. */
  test: Expr | null;
  body: Step[];
}

export type Direction = 'left' | 'right';

export type Step = { at: Place } & (
  | { kind: 'drive'; speed: Expr; until: For | null; raw: boolean }
  | { kind: 'wheels'; left: Expr; right: Expr; until: For | null; raw: boolean }
  | { kind: 'steer'; steering: Expr; speed: Expr; until: For | null }
  /** On the spot by wheel encoders; `speed` null means `TURN_PERCENT`. */
  | { kind: 'turn'; direction: Direction; angle: Expr; speed: Expr | null }
  | { kind: 'spin'; direction: Direction; speed: Expr }
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
      body: Step[];
      endLine: number;
    }
  | { kind: 'leave' }
  | { kind: 'finish' }
  | { kind: 'if'; arms: Arm[]; endLine: number }
  | { kind: 'set'; index: number; value: Expr }
  | { kind: 'show'; items: Expr[] }
  | { kind: 'clear' }
  | { kind: 'beep'; pitch: Expr | null; time: Expr | null; volume: Expr | null }
  | { kind: 'lamp'; colour: string | null }
  | { kind: 'do'; task: number; args: Expr[] }
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

/** A named value, or a parameter of an own step. */
export interface ValueDeclaration {
  name: string;
  of: QuantityKind;
  /** Null for a parameter: each call gives it. */
  initial: Expr | null;
  /** The own step that it is a parameter of. */
  task: number | null;
  at: Place;
}

/** An own step. */
export interface TaskDeclaration {
  name: string;
  /** Indexes into the program's values. */
  parameters: number[];
  body: Step[];
  at: Place;
  endLine: number;
}

/** A script as understood. It may run only when `findings` holds no fault. */
export interface Program {
  sensors: SensorDeclaration[];
  motors: MotorDeclaration[];
  values: ValueDeclaration[];
  tasks: TaskDeclaration[];
  steps: Step[];
  /** Number of steps written, those inside blocks and own steps counted, declarations not. */
  stepCount: number;
  /** Last line of the main program that holds a step or an `end`. */
  lastLine: number;
  findings: Finding[];
  /** The lines as typed. */
  source: readonly string[];
}
