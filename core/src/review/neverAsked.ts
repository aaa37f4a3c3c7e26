import { sensorWords, type SensorKind } from '../sensing/index.ts';
import { programParts, sensorOfPart, sensorsIn, walkProgram } from '../script/index.ts';
import { finding, type Rule } from './context.ts';
import { movesAtAll } from './motionOf.ts';
import { looked } from './look.ts';

/** Kinds that look at the floor can stand for each other. */
const floorKinds: readonly SensorKind[] = ['light', 'ambient', 'colour', 'rgb'];
const alike = (a: SensorKind, b: SensorKind) => a === b || (floorKinds.includes(a) && floorKinds.includes(b));

/** The sensor that the lesson is about, never asked: the robot goes by clock or by heart. */
export const neverAsked: Rule = (program, context) => {
  const { about } = context;
  if (!about || program.steps.length === 0) return [];
  const asked = new Set<number>();
  for (const part of programParts(program)) {
    const sensor = sensorOfPart(part);
    if (sensor !== null) asked.add(sensor);
  }
  program.values.forEach(({ initial }) => initial && sensorsIn(initial).forEach((index) => asked.add(index)));
  let moves = false;
  walkProgram(program, (step) => {
    moves ||= movesAtAll(step);
  });
  if (!moves || [...asked].some((index) => alike(program.sensors[index]!.kind, about))) return [];
  return [
    looked(
      finding(
        program.steps[0]!.at,
        'risk',
        'never asked',
        `Nothing here asks a ${sensorWords[about]} sensor.`,
        'This lesson is about it: by clock or by heart the robot cannot know when things are otherwise.',
        'Ask it where something is to happen, for example in a “wait until”.',
      ),
      (seen) => (seen.passed === null ? null : !seen.passed),
    ),
  ];
};
