import { fullBuild, fullKit } from '../../test/index.ts';
import type { ReviewContext } from '../index.ts';

/** A robot with its readings and a decided threshold, on no course in particular. */
export const base: ReviewContext = {
  kit: fullKit,
  build: fullBuild,
  thresholds: { K3: 49 },
  surfaces: {
    K3: { low: { name: 'tide line', mean: 22, sd: 2 }, high: { name: 'boards', mean: 76, sd: 3 } },
  },
  lineWidthMm: null,
};
const declared = {
  floor: 'sensor floor is light on K3',
  front: 'sensor front is distance on K2',
  nose: 'sensor nose is touch on K1',
  gyro: 'sensor gyro is heading on K5',
};
type Name = keyof typeof declared;

/** A script as lines, with whatever sensors it names declared above. */
export function script(lines: string): string {
  const steps = lines.split('\n').map((line) => line.trim());
  const heads = (Object.keys(declared) as Name[]).filter((name) => new RegExp(`\\b${name}\\b`).test(lines));
  return [...heads.map((name) => declared[name]), ...steps].join('\n');
}

/** [what, rule with its grade, script that it catches, near miss that it leaves alone, what the review knows]. */
export type Case = [string, string, string, string, ReviewContext?];

/** Each rule with a script that it catches and a near miss that it leaves alone. */
export const pairs: Case[] = [
  [
    '1 no stop',
    'fault: no stop',
    'drive 30 %\nwait until floor < threshold',
    'drive 30 %\nwait until floor < threshold\nstop',
  ],
  [
    '1 no stop on one way only',
    'fault: no stop',
    'drive 30 %\nwait until floor < threshold\nif front < 15 cm\nstop\nend',
    'drive 30 %\nwait until floor < threshold\nif front < 15 cm\nstop\nelse\nspin left at 20 %\nend\nstop',
  ],
  [
    '1 finish while driving',
    'fault: no stop',
    'repeat\ndrive 30 %\nif nose is pressed\nfinish\nend\nend',
    'repeat\ndrive 30 %\nif nose is pressed\nstop\nfinish\nend\nend',
  ],
  [
    '1 an own step that starts and does not stop',
    'fault: no stop',
    'do go\ntask go\nspin right at 20 %\nend',
    'do go\ntask go\nspin right at 20 %\nwait 1 s\nstop\nend',
  ],
  [
    '2 decided once',
    'risk: decided once',
    'drive 30 %\nif floor < threshold\nbeep\nend\nwait 2 s\nstop',
    'drive 30 %\nwait until front < 15 cm\nif floor < threshold\nstop\nelse\nstop and coast\nend\nstop',
  ],
  [
    '2 in an own step',
    'risk: decided once',
    'drive 20 %\ndo look\nwait 2 s\nstop\ntask look\nif nose is pressed\nstop\nend\nend',
    'repeat\ndo look\nend\ntask look\nif nose is pressed\nbeep\nend\nend',
  ],
  [
    '3 equals a reading',
    'risk: equals',
    'drive 30 %\nwait until floor = 49\nstop',
    'let n = 0\nrepeat until n = 4\nset n to n + 1\nend',
  ],
  [
    '3 equals a wheel count',
    'risk: equals',
    'drive 30 %\nwait until left wheel = 2 turns\nstop',
    'drive 30 %\nwait until left wheel >= 2 turns\nstop',
  ],
  [
    '4 no re-arm in a decision',
    'fault: no re-arm',
    'let lanes = 0\nrepeat\nif floor < threshold\nset lanes to lanes + 1\nend\nend',
    'let lanes = 0\nrepeat\nif floor < threshold\nset lanes to lanes + 1\nwait until floor > threshold\nend\nend',
  ],
  [
    '4 no re-arm after a wait',
    'fault: no re-arm',
    'let lanes = 0\nrepeat\nwait until floor < threshold\nset lanes to lanes + 1\nend',
    'let lanes = 0\nrepeat\nwait until floor drops by 30\nset lanes to lanes + 1\nwait until floor rises by 30\nend',
  ],
  [
    '4 a flag re-arms, a bump is an event',
    'fault: no re-arm',
    'let bumps = 0\nrepeat\nif nose is pressed\nset bumps to bumps + 1\nend\nend',
    'let bumps = 0\nlet over = 0\nrepeat\nif nose is bumped\nset bumps to bumps + 1\nend\nif floor < threshold and over = 0\nset bumps to bumps + 1\nset over to 1\nelse if floor > threshold\nset over to 0\nend\nend',
  ],
  [
    '4 re-armed by time',
    'risk: no re-arm',
    'let n = 0\nrepeat\nif nose is pressed\nset n to n + 1\nwait 1 s\nend\nend',
    'let n = 0\nrepeat\nif nose is pressed\nset n to n + 1\nwait until nose is released\nend\nend',
  ],
  [
    '5 hidden test',
    'risk: hidden test',
    'drive 30 %\nrepeat until front < 15 cm\nwait until floor < threshold\nbeep\nend\nstop',
    'drive 30 %\nrepeat until front < 15 cm\nwait until floor < threshold or front < 15 cm\nbeep\nend\nstop',
  ],
  [
    '5 hidden by a long wait',
    'risk: hidden test',
    'repeat until nose is pressed\ndrive 30 %\nwait 2 s\nend\nstop',
    'repeat until nose is pressed\ndrive 30 %\nwait 0.1 s\nend\nstop',
  ],
  [
    '6 wrong socket',
    'fault: wiring',
    'sensor look is distance on K1\ndrive 30 %\nwait until look < 15 cm\nstop',
    'sensor look is distance on k2\ndrive 30 %\nwait until look < 15 cm\nstop',
  ],
  [
    '6 another mode',
    'note: mode',
    'sensor sky is ambient on K3\nwait until sky > 40\nbeep',
    'wait until floor < 49\nbeep',
  ],
  [
    '6 two modes on one socket',
    'risk: two modes',
    'sensor sky is ambient on K3\nwait until floor < 49\nwait until sky > 40',
    'wait until floor < 49\nwait until front < 20 cm',
  ],
  [
    '6 declared and never used',
    'note: unused sensor',
    'sensor look is distance on K2\nbeep',
    'sensor look is distance on K2\nshow look',
  ],
  [
    '6 a turret on a wheel’s socket',
    'fault: wiring',
    'motor scan is turret on ML\nturret left 90 deg',
    'motor scan is turret on MX\nturret left 90 deg',
  ],
  ['6 no turret declared', 'fault: wiring', 'turret left 90 deg', 'motor scan is turret on MX\nturret ahead'],
  ['6 raw readings', 'fault: raw reading', 'show raw floor', 'show floor'],
  [
    '7 out of the sensor’s range',
    'fault: out of range',
    'drive 30 %\nwait until front > 300 cm and front is not nothing\nstop',
    'drive 30 %\nwait until front > 100 cm and front is not nothing\nstop',
  ],
  [
    '7 both surfaces on one side',
    'fault: same side',
    'drive 30 %\nwait until floor < 15\nstop',
    'drive 30 %\nwait until floor < 49\nstop',
  ],
  [
    '7 through a named value',
    'fault: same side',
    'let tide = 90 %\ndrive 30 %\nwait until floor < tide\nstop',
    'let tide = threshold of floor\ndrive 30 %\nwait until floor < tide\nstop',
  ],
  // 22 + 2 sds is 26: about 23 of a thousand looks at the line read higher.
  [
    '8 in the noise',
    'risk: in the noise',
    'let tide = 26 %\ndrive 30 %\nwait until floor < tide\nstop',
    'let tide = 28 %\ndrive 30 %\nwait until floor < tide\nstop',
  ],
  [
    '9 too fast for the line',
    'risk: too fast',
    'drive 100 %\nwait until floor < threshold\nstop',
    'drive 67 %\nwait until floor < threshold\nstop',
    { ...base, lineWidthMm: 18 },
  ],
  [
    '9 cannot stop in time',
    'fault: cannot stop',
    'drive 100 %\nwait until front < 5 cm\nstop',
    'drive 40 %\nwait until front < 5 cm\nstop',
  ],
  [
    '9 sweeps past what it looks for',
    'risk: sweeps past',
    'spin right at 60 %\nwait until front < 40 cm\nstop',
    'spin right at 20 %\nwait until front < 40 cm\nstop',
    { ...base, course: { target: { widthMm: 80, rangeMm: 400 } } },
  ],
  [
    '10 true without an echo',
    'risk: no reading',
    'repeat\nif front > 30 cm\nbeep\nend\nend',
    'repeat\nif front > 30 cm and front is not nothing\nbeep\nend\nend',
  ],
  [
    '10 too near to see',
    'fault: too near to see',
    'drive 20 %\nwait until front < 2 cm\nstop',
    'drive 20 %\nwait until front < 5 cm\nstop',
  ],
  [
    '11 never zeroed',
    'risk: not zeroed',
    'spin right at 3 %\nwait until gyro > 90\nstop',
    'zero heading\nspin right at 3 %\nwait until gyro > 90\nstop',
  ],
  [
    '11 wrong way',
    'fault: wrong way',
    'zero heading\nspin left at 3 %\nwait until gyro > 90\nstop',
    'zero heading\nspin left at 3 %\nwait until gyro < -90\nstop',
  ],
  [
    '11 too hot',
    'risk: overshoots',
    'zero heading\nspin right at 100 %\nwait until gyro > 90\nstop',
    'zero heading\nspin right at 4 %\nwait until gyro > 90\nstop',
  ],
  [
    '11 slows to nothing',
    'risk: never gets there',
    'zero heading\nrepeat until gyro >= 90\nwheels 0.6 * (90 - gyro) and -0.6 * (90 - gyro)\nend\nstop',
    'zero heading\nrepeat until gyro >= 86\nwheels 0.6 * (90 - gyro) and -0.6 * (90 - gyro)\nend\nstop',
  ],
  [
    '11 sticks before it is there',
    'risk: sticks',
    'zero heading\nrepeat until gyro >= 87\nwheels 0.5 * (90 - gyro) and -0.5 * (90 - gyro)\nend\nstop',
    'zero heading\nrepeat until gyro >= 87\nwheels 4 + 0.5 * (90 - gyro) and -4 - 0.5 * (90 - gyro)\nend\nstop',
  ],
  [
    '9 too slow to turn a wheel',
    'risk: too slow',
    'drive 1.5 %\nwait 1 s\nstop',
    'drive 2 %\nwait 1 s\nstop',
  ],
  [
    '12 both branches turn one way',
    'fault: away from the edge',
    'repeat for 10 s\nif floor < threshold\nwheels 40 % and 20 %\nelse\nwheels 30 % and 10 %\nend\nend\nstop',
    'repeat for 10 s\nif floor < threshold\nwheels 40 % and 20 %\nelse\nwheels 20 % and 40 %\nend\nend\nstop',
  ],
  [
    '12 wrong way for this edge',
    'fault: away from the edge',
    'repeat for 10 s\nif floor < threshold\nwheels 40 % and 20 %\nelse\nwheels 20 % and 40 %\nend\nend\nstop',
    'repeat for 10 s\nif floor < threshold\nwheels 20 % and 40 %\nelse\nwheels 40 % and 20 %\nend\nend\nstop',
    { ...base, course: { edge: 'left' } },
  ],
  [
    '12 steering away',
    'fault: away from the edge',
    'repeat for 10 s\nsteer 0.4 * (threshold - floor) at 25 %\nend\nstop',
    'repeat for 10 s\nsteer 0.4 * (floor - threshold) at 25 %\nend\nstop',
    { ...base, course: { edge: 'left' } },
  ],
  [
    '13 never reached',
    'fault: never reached',
    'repeat\nbeep\nend\nstop',
    'repeat\nif nose is pressed\nleave\nend\nend\nstop',
  ],
  ['13 after finish', 'fault: never reached', 'finish\nbeep', 'beep\nfinish'],
  [
    '13 empty branch',
    'note: empty branch',
    'repeat\nif nose is pressed\nend\nend',
    'repeat\nif nose is pressed\nbeep\nend\nend',
  ],
  ['13 own step nobody does', 'note: never done', 'beep\ntask hop\nbeep\nend', 'do hop\ntask hop\nbeep\nend'],
  [
    '14 true at the start',
    'risk: true at start',
    'drive 30 %\nwait until floor > threshold\nstop',
    'drive 30 %\nwait until floor < threshold\nstop',
    { ...base, course: { startReadings: { K3: 76 } } },
  ],
  [
    '14 a repeat that never begins',
    'risk: true at start',
    'repeat while left wheel > 0\nbeep\nend',
    'drive 20 %\nrepeat while left wheel < 2 turns\nbeep\nend\nstop',
  ],
  [
    '15 count not set again',
    'risk: never reset',
    'let n = 0\nrepeat 3 times\nrepeat until n = 4\nset n to n + 1\nend\nend',
    'let n = 0\nrepeat 3 times\nset n to 0\nrepeat until n = 4\nset n to n + 1\nend\nend',
  ],
  [
    '15 wheels not zeroed again',
    'risk: never reset',
    'repeat 4 times\ndrive 30 %\nwait until left wheel > 2 turns\nstop\nend',
    'repeat 4 times\nzero wheels\ndrive 30 %\nwait until left wheel > 2 turns\nstop\nend',
  ],
  [
    '15 a number typed',
    'note: typed number',
    'drive 30 %\nwait until floor < 55\nstop',
    'drive 30 %\nwait until floor < threshold\nstop',
  ],
  [
    '15 two levels: the one entered is decided, the one left lies beyond it',
    'note: typed number',
    'repeat\nwait until floor < threshold\nbeep\nwait until floor > 45\nend',
    'repeat\nwait until floor < threshold\nbeep\nwait until floor > 60\nend',
  ],
  [
    '16 no watcher at a drop',
    'risk: no watcher',
    'drive 30 %\nwait until front < 15 cm\nstop',
    'drive 30 %\nwait until floor < threshold\nstop',
    { ...base, course: { drop: true } },
  ],
  [
    '16 hands off',
    'risk: hands off',
    'wait 0.5 s\ndrive 30 % for 10 cm',
    'wait 2 s\ndrive 30 % for 10 cm',
    { ...base, course: { opponent: true } },
  ],
  [
    '16 reversing blind',
    'risk: reversing blind',
    'drive -30 %\nwait until nose is pressed\nstop',
    'drive -30 %\nwait until front rises by 5 in\nstop',
  ],
  ['16 reversing far', 'risk: reversing blind', 'drive -30 % for 70 cm', 'drive -30 % for 10 cm'],
];
