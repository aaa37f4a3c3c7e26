import type { Course } from '../course/index.ts';
import type { Expectation } from '../expect/index.ts';
import type { SensorNeed } from '../sensing/index.ts';
import type { Conditions } from '../sim/index.ts';

/** A surface that a team reads before programming. */
export interface ReadTask {
  /** Name of the surface as on the course. */
  surface: string;
  role: 'dark' | 'light';
  reflectance: number;
  /** What to do, in the second person. */
  how: string;
}

/** A lesson as a teacher wrote it: everything the seven stages work from. */
export interface Lesson {
  slug: string;
  title: string;
  aim: string;
  minutes: number;
  need: SensorNeed;
  read: { burst: number; tasks: ReadTask[] };
  startScript: string;
  modelScript: string;
  course: Course;
  expectations: Expectation[];
  conditions: Conditions;
  proof: { runs: number; bar: number; seed: number };
  timeLimitS: number;
  floor: { trials: number; landmark: string };
  cautions: string[];
}
