import type { Course } from '../course/index.ts';
import type { Expectation } from '../expect/index.ts';
import type { RobotBuild, SensorNeed } from '../sensing/index.ts';
import type { Conditions } from '../sim/index.ts';
import type { Twist } from './twist/twist.ts';

/** Something that a team reads before programming: a surface, a colour, a place. */
export interface ReadTask {
  /** Its name; that of a surface as on the course. */
  surface: string;
  /** For reflected light: which of the two it is, and how much it throws back, 0 to 1. */
  role?: 'dark' | 'light';
  reflectance?: number;
  /** What to do, in the second person. */
  how: string;
}

/** What a step of a lesson can be, in the order that most lessons take. */
export const stepKinds = [
  'brief',
  'wire',
  'read',
  'decide',
  'predict',
  'script',
  'try',
  'prove',
  'floor',
  'reflect',
  'extend',
  'homework',
] as const;
export type StepKind = (typeof stepKinds)[number];

/** What a working step uses instead of the lesson's own; what is not named is as in the lesson. */
export interface WorkingPart {
  /** Sockets to be checked in a wire step. */
  sockets?: string[];
  /** The sensor that a step reads or decides on; the lesson’s first when not said. */
  socket?: string;
  /** What is read in a read step, surface by surface. */
  tasks?: ReadTask[];
  /** True values to read at: mm by ruler, degrees turned to the right. */
  at?: number[];
  /** The method of threshold that is recommended in a decide step. */
  method?: string;
  /** What the editor holds when the team comes to it. */
  startScript?: string;
  course?: Course;
  expectations?: Expectation[];
  /** Trials on the floor. */
  trials?: number;
}

/** One step of a lesson, in the order that a team takes them. */
export interface LessonStep {
  /** Its name inside the lesson; it stays the same when steps are moved. */
  id: string;
  kind: StepKind;
  title: string;
  /** What the team reads, in Markdown. */
  text: string;
  minutes: number;
  /** What the team has when the step is done. */
  expects: string;
  /** Opened one at a time. */
  hints: string[];
  cautions: string[];
  part?: WorkingPart;
}

/** A lesson as a teacher wrote it: everything the seven stages work from. */
export interface Lesson {
  slug: string;
  title: string;
  aim: string;
  minutes: number;
  /** The sensor that the lesson is about. */
  need: SensorNeed;
  /** Further sensors that it takes. */
  also?: SensorNeed[];
  read: { burst: number; tasks: ReadTask[] };
  startScript: string;
  modelScript: string;
  course: Course;
  expectations: Expectation[];
  conditions: Conditions;
  proof: { runs: number; bar: number; seed: number };
  timeLimitS: number;
  floor: {
    trials: number;
    /** The landmark that stops are measured from; '' where none is. */
    landmark: string;
    /** What is measured on the floor: past the landmark when not said. */
    measures?: FloorMeasure[];
  };
  cautions: string[];
  /** The robot that the model answer is proved on, as it comes out of the box. */
  robot?: LessonRobot;
  /** Scripts that go wrong in the usual ways; the expectations must catch each. */
  faults?: TypicalFault[];
  /** What a team goes through, in order; the plain way through the stages when not said. */
  steps?: LessonStep[];
  /** What teams show that they can do: “reads a threshold off two surfaces”. */
  skills?: string[];
  /** Skills that a class should have seen before, by id; by what its own skills come after when not said. */
  needs?: string[];
  /** What differs from team to team. */
  twist?: Twist;
  /** Other answers that are right as well, each with why, in the teacher's words: the checks must let them pass. */
  rightToo?: TypicalFault[];
  /** Usual breaks of the model answer that are right as well, as Strength names them: “7: 70 % instead of 35 %”. */
  accepts?: string[];
  /** What differs from run to run of a proof, so that only a script that does the task passes; teams are told. */
  varies?: Twist;
  /** Where it came from, when it is a copy of somebody's. */
  origin?: LessonOrigin;
}

/** The lesson that a copy was made from. */
export interface LessonOrigin {
  title: string;
  slug: string;
  /** Who it was taken over from; '' when nobody is named. */
  from: string;
}

/** What a team measures on the floor: by ruler, protractor, stopwatch or count. */
export const floorMeasures = ['past', 'gap', 'turn', 'count'] as const;
export type FloorMeasure = (typeof floorMeasures)[number];

/** A robot to judge scripts on when no team's robot is meant. Thresholds by socket, in the sensor's unit. */
export interface LessonRobot {
  kit: string;
  build: RobotBuild;
  thresholds: Record<string, number>;
}

/** A script with a fault that teams make, and what is wrong with it. */
export interface TypicalFault {
  name: string;
  script: string;
}
