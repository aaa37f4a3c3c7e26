import type { CourseFacts } from '@vigilum/core/script';
import type { Facing, Fitting, SensorKind } from '@vigilum/core/sensing';

/** What a lesson of the harbour year wants a team to write, and on which robot and course. */
export interface ModelAnswer {
  slug: string;
  title: string;
  script: string;
  fittings: Fitting[];
  /** Decided thresholds by socket, in the sensor's own unit. */
  thresholds: Record<string, number>;
  lineWidthMm: number | null;
  course: Partial<CourseFacts>;
}

const part = (
  socket: string,
  sensorId: string,
  mode: SensorKind,
  facing: Facing,
  [aheadMm, rightMm, heightMm]: [number, number, number],
): Fitting => ({ socket, sensorId, mode, facing, aheadMm, rightMm, heightMm });

const bumper = part('K1', 'bumper', 'touch', 'ahead', [110, 0, 30]);
const sounder = part('K2', 'sounder', 'distance', 'ahead', [104, 0, 60]);
const floorEye = part('K3', 'floor-eye', 'light', 'down', [80, 0, 12]);
const colourEye = part('K4', 'floor-eye', 'colour', 'down', [80, 30, 12]);
const spinTop = part('K5', 'spin-top', 'heading', 'up', [-20, 0, 70]);

const answer = (
  slug: string,
  title: string,
  fittings: Fitting[],
  script: string,
  more: Partial<Pick<ModelAnswer, 'thresholds' | 'lineWidthMm' | 'course'>> = {},
): ModelAnswer => ({ slug, title, fittings, script, thresholds: {}, lineWidthMm: null, course: {}, ...more });

const floor = 'sensor floor is light on K3';
const front = 'sensor front is distance on K2';
const nose = 'sensor nose is touch on K1';
const seen = 'sensor seen is colour on K4';
const gyro = 'sensor gyro is heading on K5';

/** The model answers of the harbour year's sixteen lessons, for a Cobble. */
export const modelAnswers: readonly ModelAnswer[] = [
  answer(
    'first-watch',
    'First watch',
    [bumper],
    `${nose}
show "press to start"
wait until nose is bumped
clear
repeat 3 times
  drive 30 %
  wait until nose is pressed
  stop
  wait until nose is released
end
stop
`,
  ),
  answer(
    'bump-and-turn',
    'Bump and turn in the boathouse',
    [bumper],
    `${nose}
repeat
  drive 35 %
  wait until nose is pressed
  stop
  wait 0.5 s
  do back off and turn
end

task back off and turn
  drive -30 % for 1 turns
  turn right 90 deg
end
`,
  ),
  answer(
    'stop-short',
    'Stop short of the quay',
    [sounder],
    `${front}
drive 40 %
wait until front < threshold
stop
`,
    { thresholds: { K2: 22 }, course: { startReadings: { K2: 120 } } },
  ),
  answer(
    'back-off-five',
    'Back off five',
    [sounder],
    `${front}
drive 35 %
wait until front < threshold
stop
wait 1 s
drive -25 %
wait until front rises by 5 in
stop
`,
    { thresholds: { K2: 20 }, course: { startReadings: { K2: 110 } } },
  ),
  answer(
    'tide-line',
    'Tide line',
    [floorEye],
    `${floor}
drive 30 %
wait until floor < threshold
stop
`,
    { thresholds: { K3: 48 }, lineWidthMm: 18, course: { startReadings: { K3: 76 } } },
  ),
  answer(
    'count-the-lanes',
    'Count the lanes',
    [floorEye, sounder],
    `${floor}
${front}
let lanes = 0
let across = 0
drive 25 %
repeat until front < 15 cm
  if floor < threshold and across = 0
    set lanes to lanes + 1
    set across to 1
  else if floor > threshold + 10 and across = 1
    set across to 0
  end
end
stop
show "Lanes: " and lanes
`,
    { thresholds: { K3: 40 }, lineWidthMm: 20, course: { startReadings: { K3: 76, K2: 180 } } },
  ),
  answer(
    'follow-the-channel',
    'Follow the channel',
    [floorEye, colourEye],
    `${floor}
${seen}
repeat until seen is red
  steer 0.4 * (floor - threshold) at 25 %
end
stop
`,
    { thresholds: { K3: 46 }, lineWidthMm: 30, course: { edge: 'left', startReadings: { K3: 46 } } },
  ),
  answer(
    'piers-edge',
    'Pier’s edge',
    [floorEye, sounder],
    `${floor}
${front}
repeat
  drive 25 %
  wait until floor < 10 or front < 15 cm
  stop
  drive -25 % for 12 cm
  turn right 135 deg
end
`,
    { course: { drop: true, startReadings: { K3: 60, K2: 90 } } },
  ),
  answer(
    'hold-a-bearing',
    'Hold a bearing',
    [spinTop],
    `${gyro}
zero heading
repeat until gyro >= 88
  wheels 0.5 * (90 - gyro) and -0.5 * (90 - gyro)
end
stop
zero wheels
repeat until left wheel >= 4 turns
  steer 2 * (90 - gyro) at 30 %
end
stop
`,
    { course: { startReadings: { K5: 0 } } },
  ),
  answer(
    'look-both-ways',
    'Look both ways',
    [sounder],
    `${front}
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
drive 30 % for 20 cm
`,
  ),
  answer(
    'through-the-basin',
    'Through the basin',
    [
      sounder,
      part('K4', 'sounder', 'distance', 'left', [40, -70, 60]),
      part('K6', 'sounder', 'distance', 'right', [40, 70, 60]),
      { ...floorEye, mode: 'colour' },
    ],
    `${front}
sensor left side is distance on K4
sensor right side is distance on K6
sensor seen is colour on K3
repeat until seen is green
  if front < 12 cm
    stop
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
  ),
  answer(
    'harbour-rules',
    'Harbour rules',
    [sounder, floorEye, colourEye],
    `${front}
${floor}
${seen}
repeat for 60 s
  if front < 10 cm
    stop
  else if seen is green
    turn right 180 deg
  else
    steer 0.4 * (floor - threshold) at 20 %
  end
end
stop
`,
    { thresholds: { K3: 46 }, lineWidthMm: 30, course: { edge: 'left' } },
  ),
  answer(
    'round-the-buoy',
    'Round the buoy',
    [sounder, floorEye],
    `${front}
${floor}
repeat until front < 12 cm
  steer 0.4 * (floor - threshold) at 20 %
end
stop
do go round the buoy
repeat for 5 s
  steer 0.4 * (floor - threshold) at 20 %
end
stop

task go round the buoy
  turn right 60 deg
  drive 25 % for 20 cm
  turn left 60 deg
  drive 25 % for 15 cm
  turn left 60 deg
  drive 20 %
  wait until floor < threshold
  stop
end
`,
    { thresholds: { K3: 46 }, lineWidthMm: 30, course: { edge: 'left', startReadings: { K2: 100 } } },
  ),
  answer(
    'guard-the-island',
    'Guard the island',
    [sounder, floorEye],
    `${front}
${floor}
wait 2 s
repeat
  spin right at 12 %
  wait until front < 50 cm or floor < threshold
  drive 35 %
  wait until floor < threshold
  stop
  drive -40 % for 0.8 s
end
`,
    {
      thresholds: { K3: 46 },
      lineWidthMm: 40,
      course: { opponent: true, target: { widthMm: 150, rangeMm: 500 }, startReadings: { K3: 76, K2: 150 } },
    },
  ),
  answer(
    'find-the-beacon',
    'Find the beacon',
    [],
    `sensor beacon is beacon on S-c
repeat until beacon.strength > 60 %
  if beacon.direction < -5 deg
    spin left at 15 %
  else if beacon.direction > 5 deg
    spin right at 15 %
  else
    drive 20 %
  end
end
stop
show item 1 of beacon and " " and item 2 of beacon
`,
  ),
  answer(
    'colours-of-the-cargo',
    'Colours of the cargo',
    [part('K4', 'floor-eye', 'rgb', 'down', [80, 0, 12])],
    `sensor hold is rgb on K4
let most = 0
repeat 3 times
  drive 25 % for 15 cm
  wait 0.5 s
  set most to max(hold.red, hold.green, hold.blue)
  if hold.red >= most
    show "red " and hold.red
  else if hold.green >= most
    show "green " and hold.green
  else
    show "blue " and hold.blue
  end
  beep
end
`,
  ),
];
