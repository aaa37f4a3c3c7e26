import { boards, buildCourse, darkTape, familyOf, greenCard, redCard, stopLine } from '../../course/index.ts';
import { darkAndLight } from '../usualReadings.ts';
import type { Ink, LessonAim } from './propose.ts';
import { floorEye } from './usualSensors.ts';

const line = { ...darkTape, name: 'dark line' };
/** Halfway between the dark line and the boards, for the robot that the answer is judged on. */
const HALFWAY = 48;

export const stopOnLine: LessonAim = {
  id: 'stop-on-a-line',
  name: 'stop on a line',
  says: 'Drive until the floor turns dark, then stop.',
  recipes: [
    {
      takes: [floorEye],
      write: ({ sockets, declared, pace }) => ({
        title: 'Stop on the line',
        aim: 'The robot drives up and stops on the dark line.',
        skills: ['reads two surfaces and decides on a threshold', 'ends a movement with a stop of its own'],
        read: darkAndLight(line, boards),
        thresholds: { [sockets[0]!]: HALFWAY },
        course: stopLine({ name: 'Stop line', base: boards, line, lineWidthMm: 20, approachMm: 420 }),
        modelScript: `${declared}drive ${pace(160)} %\nwait until floor < threshold\nstop\n`,
        expectations: [
          { kind: 'stops past', landmark: 'near-edge', withinMm: 40 },
          { kind: 'comes to rest' },
          { kind: 'done within', seconds: 10 },
        ],
        floor: { landmark: 'near-edge' },
        timeLimitS: 15,
        faults: ({ declared: head, pace: at, kit }) => [
          // A kit that stops by itself when the program ends hides a forgotten stop.
          ...(kit.atProgramEnd.kind === 'stop'
            ? []
            : [
                {
                  name: 'forgets to stop',
                  script: `${head}drive ${at(160)} %\nwait until floor < threshold\n`,
                },
              ]),
          {
            name: 'asks for lighter',
            script: `${head}drive ${at(160)} %\nwait until floor > threshold\nstop\n`,
          },
          { name: 'decides once', script: `${head}drive ${at(160)} %\nif floor < threshold\n  stop\nend\n` },
          {
            name: 'types a threshold that no surface gives',
            script: `${head}drive ${at(160)} %\nwait until floor < 5\nstop\n`,
          },
        ],
        words: {
          method: 'halfway',
          brief:
            'It cannot see the line as you do: it only knows how much light comes back from the spot under its sensor.',
          predict: 'How far past the near edge of the line will it stop, in millimetres? Why is it not zero?',
          script:
            'Three actions: drive, wait for the line, **stop**. Use the word `threshold` for your number.',
          scriptHints: [
            'What does the wheel do when the program ends? Do not leave it to that.',
            '`wait until floor < threshold`',
          ],
          watch:
            'Watch the reading where it crosses the threshold: how long after that does the robot stand?',
          reflect: 'Why does it stop a little past the edge? What would halve that?',
          extend: 'Drive twice as fast. By how much must the way past the edge grow? Say it, then try it.',
          homework:
            'A light floor reads 80, a dark line 20. Work out the halfway threshold. What changes when the blinds go up?',
        },
      }),
    },
  ],
};

const counting = (ink: Ink, until: string, reArm = true): string =>
  `${ink.declared}let lines = 0
let across = 0
drive ${ink.pace(120)} %
repeat until ${until}
  if floor < threshold and across = 0
    set lines to lines + 1
    set across to 1
${reArm ? '  else if floor > threshold + 10 and across = 1\n    set across to 0\n' : ''}  end
end
stop
show "Lines: " and lines
`;

const countWords = {
  method: 'past the nearest rival' as const,
  brief:
    'A line lasts for many looks. Counting looks gives a number that is far too large: count **crossings**.',
  predict: 'How many lines will it show? Is the coloured one among them?',
  script: 'Raise the counter when the dark begins, and not again until it has ended.',
  scriptHints: [
    'Keep a second number that says whether you are on a line.',
    'Set the counter to zero at the start.',
  ],
  watch: 'Watch the counter beside the reading: does it rise once for each line?',
  reflect: 'What did your first script count, and why?',
  extend: 'Count the coloured lines as well, in a second number.',
  homework:
    'A line is 2 cm wide, the robot drives 12 cm a second and looks every 50 ms. How many looks fall on one line?',
};
const countSkills = ['counts events instead of looks', 'sets a counter to zero and shows it'];
const counts = (lines: number) => ({
  course: buildCourse(familyOf('lanes'), { lines, rivals: 1 }),
  read: darkAndLight({ ...darkTape, name: 'lane line' }, boards),
});

export const count: LessonAim = {
  id: 'count',
  name: 'count',
  says: 'Drive over lines, count the dark ones, show how many.',
  recipes: [
    {
      takes: [floorEye, { name: 'front', kind: 'distance', facing: 'ahead' }],
      write: (ink) => ({
        ...counts(4),
        title: 'Count the lines',
        aim: 'The robot crosses the lines, counts the dark ones and shows how many at the wall.',
        skills: countSkills,
        thresholds: { [ink.sockets[0]!]: 38 },
        modelScript: counting(ink, 'front < 15 cm'),
        expectations: [
          { kind: 'counts', count: 4, tolerance: 0 },
          { kind: 'never touches' },
          { kind: 'comes to rest' },
          { kind: 'done within', seconds: 20 },
        ],
        floor: { measures: ['count'] },
        timeLimitS: 25,
        faults: (same) => [
          {
            name: 'counts looks instead of lines',
            script: `${same.declared}let lines = 0\ndrive ${same.pace(120)} %\nrepeat until front < 15 cm\n  if floor < threshold\n    set lines to lines + 1\n  end\nend\nstop\nshow "Lines: " and lines\n`,
          },
          { name: 'never re-arms', script: counting(same, 'front < 15 cm', false) },
          { name: 'stops too late', script: counting(same, 'front < 1 cm') },
        ],
        words: countWords,
      }),
    },
    {
      takes: [floorEye, { name: 'nose', kind: 'touch', facing: 'ahead' }],
      write: (ink) => ({
        ...counts(4),
        title: 'Count the lines',
        aim: 'The robot crosses the lines, counts the dark ones and shows how many when it meets the wall.',
        skills: countSkills,
        thresholds: { [ink.sockets[0]!]: 38 },
        modelScript: counting(ink, 'nose is pressed'),
        expectations: [
          { kind: 'counts', count: 4, tolerance: 0 },
          { kind: 'bumps', atLeast: 1 },
          { kind: 'comes to rest' },
          { kind: 'done within', seconds: 20 },
        ],
        floor: { measures: ['count'] },
        timeLimitS: 25,
        faults: (same) => [
          {
            name: 'counts looks instead of lines',
            script: `${same.declared}let lines = 0\ndrive ${same.pace(120)} %\nrepeat until nose is pressed\n  if floor < threshold\n    set lines to lines + 1\n  end\nend\nstop\nshow "Lines: " and lines\n`,
          },
          { name: 'never re-arms', script: counting(same, 'nose is pressed', false) },
          { name: 'does not wait for the wall', script: counting(same, 'floor < threshold') },
        ],
        words: countWords,
      }),
    },
  ],
};

/** Length of the channel with these numbers, mm: two straights, a gentle and a sharp bend of 60°, a last straight. */
const channel = { straightMm: 450, gentleMm: 400, sharpMm: 200, bendDeg: 60 };
const channelMm = 450 + (Math.PI / 3) * 400 + 150 + (Math.PI / 3) * 200 + 40;

const following = (ink: Ink, error: string, gain = 1): string =>
  `${ink.declared}zero wheels
repeat until left wheel >= ${ink.turnsFor(channelMm)} turns
  steer ${gain} * (${error}) at ${ink.pace(85)} %
end
stop
`;

export const followEdge: LessonAim = {
  id: 'follow-an-edge',
  name: 'follow an edge',
  says: 'Follow the edge of a line through bends.',
  recipes: [
    {
      takes: [floorEye],
      write: (ink) => ({
        title: 'Follow the edge',
        aim: 'The robot follows the left edge of the line through a gentle and a sharp bend.',
        skills: ['steers by how far a reading is off', 'ends a loop by wheel turns'],
        read: darkAndLight({ ...darkTape, name: 'channel' }, boards),
        thresholds: { [ink.sockets[0]!]: HALFWAY },
        course: buildCourse(familyOf('channel'), channel),
        modelScript: following(ink, 'floor - threshold'),
        expectations: [
          { kind: 'stays on track', track: 'left', withinMm: 15, share: 0.95 },
          { kind: 'travels', atLeastMm: 1200 },
          { kind: 'comes to rest' },
          { kind: 'done within', seconds: 30 },
        ],
        conditions: { acrossMm: [-4, 4] },
        timeLimitS: 35,
        faults: (same) => [
          { name: 'steers away from the edge', script: following(same, 'threshold - floor') },
          { name: 'has too little gain', script: following(same, 'floor - threshold', 0.1) },
          {
            name: 'steers once',
            script: `${same.declared}steer floor - threshold at ${same.pace(85)} %\nwait 15 s\nstop\n`,
          },
        ],
        words: {
          method: 'halfway',
          brief:
            'It follows the **edge** between line and floor, not the line: half dark, half light is where it wants to be.',
          predict: 'Too dark: which way must it steer? And too light?',
          script: 'In a loop: steer by the difference between the reading and your threshold.',
          scriptHints: [
            'Left edge: lighter means too far left, so steer right.',
            'Try a gain of 0.5 first. Wagging? Less. Loses the bend? More.',
          ],
          watch: 'Watch how far it is off in the straight and in the sharp bend.',
          reflect: 'What does a larger gain do on the straight, and what in the bend?',
          extend: 'Follow the right edge instead. What changes in the script?',
          homework: 'Target 50, gain 0.4: work out the steering for the readings 30, 50 and 75.',
        },
      }),
    },
  ],
};

export const reactToColour: LessonAim = {
  id: 'react-to-colour',
  name: 'react to colour',
  says: 'Drive until a colour is seen, then do something else.',
  recipes: [
    {
      takes: [{ name: 'seen', kind: 'colour', facing: 'down' }],
      write: ({ declared, pace }) => ({
        title: 'Turn round on green',
        aim: 'The robot drives on, turns round when it sees the green card, and comes back.',
        skills: ['reacts to a colour by its name', 'knows which colours its sensor mixes up'],
        course: stopLine({
          name: 'Green card',
          base: boards,
          line: greenCard,
          lineWidthMm: 80,
          approachMm: 420,
          beyondMm: 400,
        }),
        modelScript: `${declared}drive ${pace(130)} %\nwait until seen is green\nstop\nwait 0.5 s\nturn right 180 deg\ndrive ${pace(130)} % for 20 cm\n`,
        expectations: [
          { kind: 'net turn', deg: 180, toleranceDeg: 12 },
          {
            kind: 'formula',
            says: 'Stands on the card before it turns',
            formula: 'eventually always[0, 0.3] (speed < 5 and "past near-edge" > 0)',
          },
          { kind: 'travels', atLeastMm: 500 },
          { kind: 'comes to rest' },
          { kind: 'done within', seconds: 14 },
        ],
        floor: { measures: ['turn'] },
        timeLimitS: 18,
        faults: ({ declared: head, pace: at }) => [
          {
            name: 'waits for red',
            script: `${head}drive ${at(130)} %\nwait until seen is red\nstop\nturn right 180 deg\ndrive ${at(130)} % for 20 cm\n`,
          },
          {
            name: 'turns a quarter',
            script: `${head}drive ${at(130)} %\nwait until seen is green\nstop\nturn right 90 deg\ndrive ${at(130)} % for 20 cm\n`,
          },
          {
            name: 'looks once',
            script: `${head}drive ${at(130)} %\nif seen is green\n  stop\nend\nwait 5 s\nstop\n`,
          },
        ],
        words: {
          brief:
            'A colour sensor compares what it sees with colours that it knows. At the border of a card it sees a mixture.',
          predict: 'What will it call the border of the card: green, white, or nothing?',
          script: 'Drive, wait for green, stop, pause, turn round, drive back.',
          scriptHints: [
            '`wait until seen is green`',
            'Pause half a second before the turn: a turn out of a stop is straighter.',
          ],
          watch: 'Watch the colour that it names, look by look, as it comes onto the card.',
          reflect: 'Which two colours did the sensor mix up, and how did you find out?',
          extend: 'Turn left on green and right on red.',
          homework:
            'List three things in a harbour that are told by colour alone. What would a ship do in the fog?',
          reads: [
            {
              tasks: [greenCard, redCard, boards].map(({ name }) => ({
                surface: name,
                how: `Lay the ${name} under the sensor, as high as it will drive.`,
              })),
              text: 'What does the sensor call each of them? The script listens for a name: it must come over the card and nowhere else.',
              expects: 'green over the green card, and over nothing else',
            },
          ],
        },
      }),
    },
  ],
};
