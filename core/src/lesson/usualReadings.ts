import type { Surface } from '../course/index.ts';
import type { Lesson } from './lesson.ts';

/** The dark and the light surface of a mat, to be read before programming, twenty looks each. */
export const darkAndLight = (dark: Surface, light: Surface): Lesson['read'] => ({
  burst: 20,
  tasks: [
    {
      surface: dark.name,
      role: 'dark',
      reflectance: dark.reflectance,
      how: `Put the sensor over the middle of the ${dark.name}.`,
    },
    {
      surface: light.name,
      role: 'light',
      reflectance: light.reflectance,
      how: `Put the sensor over the plain ${light.name}, a hand away from any line.`,
    },
  ],
});

/** A table and what lies beyond its edge: nothing, from which no light comes back. */
export function tableAndNothing(table: Surface): Lesson['read'] {
  const { burst, tasks } = darkAndLight({ name: 'nothing underneath', reflectance: 0 }, table);
  return {
    burst,
    tasks: [
      { ...tasks[0]!, how: 'Hold the robot so that the eye looks past the edge.' },
      { ...tasks[1]!, how: `Put the eye over the ${table.name}, a hand away from the edge.` },
    ],
  };
}
