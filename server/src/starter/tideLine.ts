import { stopLine } from '@vigilum/core/course';
import type { Lesson } from '@vigilum/core/lesson';

const boards = { name: 'quay boards', reflectance: 0.76 };
const line = { name: 'tide line', reflectance: 0.2 };

/** Lesson 5 of the harbour year: stop on the dark line. */
export const tideLine: Lesson = {
  slug: 'tide-line',
  title: 'Tide line',
  aim: 'The tug drives up the quay and stops on the dark tide line.',
  minutes: 50,
  need: { kind: 'light', socket: 'K3', name: 'floor' },
  read: {
    burst: 20,
    tasks: [
      {
        surface: line.name,
        role: 'dark',
        reflectance: line.reflectance,
        how: 'Put the sensor over the middle of the dark line.',
      },
      {
        surface: boards.name,
        role: 'light',
        reflectance: boards.reflectance,
        how: 'Put the sensor over the plain boards, a hand away from the line.',
      },
    ],
  },
  startScript: 'sensor floor is light on K3\n',
  modelScript: 'sensor floor is light on K3\ndrive 30 %\nwait until floor < threshold\nstop\n',
  course: stopLine({ name: 'Tide line', base: boards, line, lineWidthMm: 24, approachMm: 420 }),
  expectations: [
    { kind: 'stops past', landmark: 'near-edge', withinMm: 24 },
    { kind: 'comes to rest' },
    { kind: 'done within', seconds: 15 },
  ],
  conditions: {
    alongMm: [-60, 60],
    acrossMm: [-25, 25],
    bearingDeg: [-3, 3],
    lightShift: [-4, 4],
    mismatch: [-0.01, 0.01],
  },
  proof: { runs: 20, bar: 0.8, seed: 1203 },
  timeLimitS: 20,
  floor: { trials: 3, landmark: 'near-edge' },
  cautions: [
    'On a table, a catcher stands at each edge, program finished or not.',
    'Stop the program before you touch the robot. Keep hair and sleeves away from the wheels.',
    'School rules and the maker’s instructions come first.',
  ],
};
