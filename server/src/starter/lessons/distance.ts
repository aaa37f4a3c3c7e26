import {
  cobbleWith,
  courseOf,
  fault,
  floorEye,
  leftSounder,
  lesson,
  lookout,
  rightSounder,
  sounder,
} from './parts.ts';

const front = 'sensor front is distance on K2';

/** 3. Distance, threshold walked in, stop gap; cm, mm and in. */
export const stopShort = lesson({
  slug: 'stop-short',
  title: 'Stop short of the quay',
  aim: 'The tug drives up to the quay and stops 15 cm short of it.',
  need: { kind: 'distance', socket: 'K2', name: 'front' },
  robot: cobbleWith([sounder], { K2: 18 }),
  course: courseOf('quay', 'Quay'),
  modelScript: `${front}
drive 40 %
wait until front < threshold
stop
`,
  expectations: [
    { kind: 'ends with gap', gapMm: 150, toleranceMm: 20 },
    { kind: 'never touches' },
    { kind: 'comes to rest' },
    { kind: 'done within', seconds: 20 },
  ],
  faults: [
    fault('forgets to stop', `${front}\ndrive 40 %\nwait until front < threshold\n`),
    fault('asks for farther', `${front}\ndrive 40 %\nwait until front > threshold\nstop\n`),
    fault('types inches for centimetres', `${front}\ndrive 40 %\nwait until front < 18 in\nstop\n`),
    fault('keeps the first guess of 30', `${front}\ndrive 40 %\nwait until front < 30 cm\nstop\n`),
    fault('is right, but too fast', `${front}\ndrive 90 %\nwait until front < threshold\nstop\n`),
  ],
  floor: { measures: ['gap'] },
  timeLimitS: 20,
  seed: 303,
});

/** 4. Stop, then reverse until the distance has risen by so much. */
export const backOffFive = lesson({
  slug: 'back-off-five',
  title: 'Back off five',
  aim: 'The tug stops short of the quay and then backs off by five inches, wherever it stopped.',
  need: { kind: 'distance', socket: 'K2', name: 'front' },
  robot: cobbleWith([sounder], { K2: 20 }),
  course: courseOf('quay', 'Quay', { distanceMm: 800 }),
  modelScript: `${front}
drive 35 %
wait until front < threshold
stop
wait 1 s
drive -15 %
wait until front rises by 5 in
stop
`,
  expectations: [
    { kind: 'backs off by', byMm: 130, toleranceMm: 20 },
    {
      kind: 'formula',
      says: 'Comes nearer than 30 cm to the quay before it backs off',
      formula: 'eventually "gap ahead" < 30 cm',
    },
    { kind: 'never touches' },
    {
      kind: 'formula',
      says: 'Stands for a moment before it reverses: never ahead and back within half a second',
      formula: 'always (speed > 30 -> always[0, 0.5] speed > -10)',
    },
    { kind: 'comes to rest' },
    { kind: 'done within', seconds: 20 },
  ],
  faults: [
    fault(
      'reverses to a place instead of by a distance',
      `${front}\ndrive 35 %\nwait until front < threshold\nstop\nwait 1 s\ndrive -15 %\nwait until front > 5 in\nstop\n`,
    ),
    fault(
      'types centimetres for inches',
      `${front}\ndrive 35 %\nwait until front < threshold\nstop\nwait 1 s\ndrive -15 %\nwait until front rises by 5 cm\nstop\n`,
    ),
    fault(
      'forgets the last stop',
      `${front}\ndrive 35 %\nwait until front < threshold\nstop\nwait 1 s\ndrive -15 %\nwait until front rises by 5 in\n`,
    ),
    fault(
      'goes on ahead',
      `${front}\ndrive 35 %\nwait until front < threshold\nstop\nwait 1 s\ndrive 15 %\nwait until front rises by 5 in\nstop\n`,
    ),
  ],
  floor: { measures: ['gap'] },
  timeLimitS: 20,
  seed: 404,
});

/** 10. A turret looks left and right; choose the roomier side. */
export const lookBothWays = lesson({
  slug: 'look-both-ways',
  title: 'Look both ways',
  aim: 'The tug looks to both sides with one sensor on a turret and takes the roomier way.',
  need: { kind: 'distance', socket: 'K2', name: 'front' },
  robot: cobbleWith([lookout]),
  course: courseOf('fork', 'Two ways'),
  modelScript: `${front}
motor scanner is turret on MX
let left room = 0 cm
let right room = 0 cm
turret left 90 deg
wait 1 s
set left room to front
turret right 180 deg
wait 1 s
set right room to front
turret ahead
if left room > right room
  turn left 90 deg
else
  turn right 90 deg
end
drive 30 % for 25 cm
`,
  expectations: [
    { kind: 'ends in', zone: 'roomy' },
    { kind: 'never touches' },
    {
      kind: 'formula',
      says: 'Lets the sensor settle for half a second on each side',
      formula: 'eventually (always[0, 0.5] turret < -70) and eventually (always[0, 0.5] turret > 70)',
    },
    {
      kind: 'formula',
      says: 'Does not drive before it has looked to both sides',
      formula: '(travelled < 2 cm) until turret > 60 and (travelled < 2 cm) until turret < -60',
    },
    {
      kind: 'formula',
      says: 'Ends a quarter turn to one side or the other',
      formula: 'eventually always (turned > 75 and turned < 105 or turned < -75 and turned > -105)',
    },
    { kind: 'comes to rest' },
  ],
  faults: [
    fault(
      'always goes left',
      `${front}\nmotor scanner is turret on MX\nwait 2.5 s\nturn left 90 deg\ndrive 30 % for 25 cm\n`,
    ),
    fault(
      'takes the narrower side',
      `${front}\nmotor scanner is turret on MX\nlet left room = 0 cm\nlet right room = 0 cm\nturret left 90 deg\nwait 1 s\nset left room to front\nturret right 180 deg\nwait 1 s\nset right room to front\nturret ahead\nif left room < right room\n  turn left 90 deg\nelse\n  turn right 90 deg\nend\ndrive 30 % for 25 cm\n`,
    ),
    fault(
      'looks ahead instead of right',
      `${front}\nmotor scanner is turret on MX\nlet left room = 0 cm\nlet right room = 0 cm\nturret left 90 deg\nwait 1 s\nset left room to front\nturret right 90 deg\nwait 1 s\nset right room to front\nturret ahead\nif left room > right room\n  turn left 90 deg\nelse\n  turn right 90 deg\nend\ndrive 30 % for 25 cm\n`,
    ),
  ],
  conditions: { alongMm: [-15, 15], acrossMm: [-15, 15] },
  floor: { measures: ['turn'] },
  timeLimitS: 15,
  seed: 1010,
});

const basinStart = `${front}
sensor left side is distance on K4
sensor right side is distance on K6
sensor seen is colour on K3
`;

/** 11. Three distance sensors, own steps for left and right, until the coloured berth. */
export const throughTheBasin = lesson({
  slug: 'through-the-basin',
  title: 'Through the basin',
  aim: 'The tug finds its way between the walls to the green berth, choosing the open side at each end.',
  need: { kind: 'distance', socket: 'K2', name: 'front' },
  also: [
    { kind: 'distance', socket: 'K4', name: 'left side' },
    { kind: 'distance', socket: 'K6', name: 'right side' },
    { kind: 'colour', socket: 'K3', name: 'seen' },
  ],
  robot: cobbleWith([sounder, leftSounder, rightSounder, { ...floorEye, mode: 'colour' }]),
  course: courseOf('basin', 'Basin'),
  modelScript: `${basinStart}repeat until seen is green
  if front < 12 cm
    stop
    wait 0.3 s
    do choose a side
  else
    drive 25 %
  end
end
stop

task choose a side
  if left side > right side
    turn left 90 deg
  else
    turn right 90 deg
  end
end
`,
  expectations: [
    { kind: 'visits', zones: ['turn-1', 'turn-2', 'turn-3', 'berth'] },
    { kind: 'ends in', zone: 'berth' },
    { kind: 'never touches' },
    { kind: 'comes to rest' },
  ],
  faults: [
    fault(
      'takes the narrower side',
      `${basinStart}repeat until seen is green\n  if front < 12 cm\n    stop\n    if left side < right side\n      turn left 90 deg\n    else\n      turn right 90 deg\n    end\n  else\n    drive 25 %\n  end\nend\nstop\n`,
    ),
    fault(
      'always turns right',
      `${basinStart}repeat until seen is green\n  if front < 12 cm\n    stop\n    turn right 90 deg\n  else\n    drive 25 %\n  end\nend\nstop\n`,
    ),
    fault(
      'knows the turns by heart',
      `sensor front is distance on K2
sensor seen is colour on K3
let n = 0
repeat until seen is green
  drive 25 %
  if front < 12 cm
    stop
    wait 0.3 s
    set n to n + 1
    if n = 2
      turn left 90 deg
    else
      turn right 90 deg
    end
  end
end
stop
`,
    ),
    fault('decides once', `${basinStart}if front < 12 cm\n  stop\nelse\n  drive 25 %\nend\nwait 20 s\n`),
  ],
  conditions: { alongMm: [-20, 20], acrossMm: [-15, 15], mismatch: [-0.002, 0.002] },
  timeLimitS: 60,
  seed: 1111,
});
