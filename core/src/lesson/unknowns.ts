import { parseScript, walkProgram } from '../script/index.ts';
import type { SensorKind } from '../sensing/index.ts';
import type { Lesson } from './lesson.ts';

/** Something of the real world that a simulated run does not have, so that what is proved may fail on the floor. */
export interface Unknown {
  id: string;
  /** What it is, a sentence. */
  says: string;
  /** How it shows on the floor, and what to do. */
  shows: string;
  /** Whether it can matter in a lesson. */
  touches: (lesson: Lesson) => boolean;
}

const sensorsOf = ({ need, also }: Lesson): SensorKind[] => [need, ...(also ?? [])].map(({ kind }) => kind);
const has =
  (...kinds: SensorKind[]) =>
  (lesson: Lesson): boolean =>
    sensorsOf(lesson).some((kind) => kinds.includes(kind));

/** Whether the model answer goes by its wheels: a way, a turn or a count of degrees. */
function byWheels({ modelScript }: Lesson): boolean {
  let found = false;
  walkProgram(parseScript(modelScript), (step) => {
    if (step.kind === 'turn') found = true;
    if ((step.kind === 'drive' || step.kind === 'wheels' || step.kind === 'steer') && step.until)
      found ||= step.until.of !== 'time';
  });
  return found || /\b(left|right) wheel\b/.test(modelScript);
}

/** What the simulator does not know, that which most often lets a proved program fail first. */
export const unknowns: readonly Unknown[] = [
  {
    id: 'light',
    says: 'The light is the same all over the mat.',
    shows:
      'Shadows, a window, glossy tape and worn print change the readings from place to place. Read where the robot will drive.',
    touches: has('light', 'ambient', 'colour', 'rgb'),
  },
  {
    id: 'grip',
    says: 'Wheels never slip, but where the robot pushes against something.',
    shows:
      'On dust, on carpet or at a hard start they do: ways and turns by wheel come out short. Clean the tyres, start softly.',
    touches: byWheels,
  },
  {
    id: 'soft',
    says: 'Every wall sends sound back well.',
    shows:
      'Cloth, foam and people’s legs swallow it, and in a corner it comes back twice. Use hard, upright boards.',
    touches: has('distance'),
  },
  {
    id: 'boxes',
    says: 'Boxes stand fast, or are said to be light; those slide where they are pushed and cost the robot no strength.',
    shows:
      'A box that is heavy to push slows the robot and makes its wheels slip; one light box does not push another. Weigh down what shall stand.',
    touches: ({ course }) => (course.boxes ?? []).length > 0,
  },
  {
    id: 'castor',
    says: 'The castor rolls freely, and the robot never tips.',
    shows:
      'A castor that drags turns the robot a little when it starts off; a tall robot nods when it brakes at an edge.',
    touches: ({ course }) => course.rim === 'drop',
  },
  {
    id: 'gyro',
    says: 'A heading creeps evenly.',
    shows:
      'After a knock, or while it warms up, it creeps by fits. Zero it standing still, just before it is used.',
    touches: has('heading', 'spin'),
  },
  {
    id: 'infrared',
    says: 'Nothing else in the room shines infrared.',
    shows:
      'Sunlight and some lamps do: proximity and beacons read as if something were near. Draw the blind.',
    touches: has('proximity', 'beacon'),
  },
  {
    id: 'opponent',
    says: 'The other robot follows one simple rule.',
    shows: 'A real one starts late, turns away, or gets stuck. Play against more than one.',
    touches: ({ course }) => course.opponent !== undefined,
  },
  {
    id: 'hands',
    says: 'Buttons are pressed cleanly, and as long as was said.',
    shows: 'A finger slips, or presses twice. Let the script wait for the release.',
    touches: has('touch'),
  },
  {
    id: 'wear',
    says: 'Plugs sit, motors are as new, and the battery keeps through a run.',
    shows:
      'A loose plug, a worn motor or a battery that falls during the hour changes everything. Look there first when nothing fits.',
    touches: () => true,
  },
];

/** What of it can matter in a lesson, ranked. */
export const unknownsOf = (lesson: Lesson): Unknown[] => unknowns.filter(({ touches }) => touches(lesson));
