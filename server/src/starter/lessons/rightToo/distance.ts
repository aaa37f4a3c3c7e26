import type { OtherRight } from './other.ts';

/** Other right answers to the lessons of `distance.ts`, by lesson. */
export const rightOfDistance: Record<string, OtherRight[]> = {
  'stop-short': [
    {
      name: 'Fast then slow.',
      change: [
        [
          'drive 40 %\nwait until front < threshold',
          'drive 60 %\nwait until front < {gap + 30} cm\ndrive 15 %\nwait until front < {gap + 0.8} cm',
        ],
      ],
    },
    {
      name: 'Overshoots a little and comes back.',
      change: [
        [
          'wait until front < threshold',
          'wait until front < {gap + 1} cm\nstop\nwait 0.5 s\ndrive -10 %\nwait until front > {gap} cm',
        ],
      ],
    },
    {
      name: 'Half the speed, and a smaller allowance.',
      change: [['drive 40 %\nwait until front < threshold', 'drive 20 %\nwait until front < {gap + 1} cm']],
    },
  ],
  'back-off-five': [
    {
      name: 'Measures the way back by its wheels.',
      change: [['drive -15 %\nwait until front rises by {back} in\nstop', 'drive -15 % for {back} in']],
    },
    {
      name: 'Remembers where it stood and compares.',
      script: `sensor front is distance on K2
let here = 0 cm
drive 30 %
wait until front < 25 cm
stop
wait 1 s
set here to front
drive -15 %
wait until front > here + {25.4 * back} mm
stop
`,
    },
    {
      name: 'In millimetres, after a shorter pause.',
      change: [
        ['drive 35 %', 'drive 25 %'],
        [
          'wait 1 s\ndrive -15 %\nwait until front rises by {back} in',
          'wait 0.6 s\ndrive -12 %\nwait until front rises by {25.4 * back} mm',
        ],
      ],
    },
  ],
  'look-both-ways': [
    {
      name: 'Right first, one kept and one live.',
      script: `sensor front is distance on K2
motor scanner is turret on MX
let b = 0 cm
turret right 90 deg
wait 1 s
set b to front
turret left 180 deg
wait 1 s
if front > b
  turret ahead
  turn left 90 deg
else
  turret ahead
  turn right 90 deg
end
drive 25 % for 30 cm
`,
    },
    {
      name: 'Drives on 40 cm.',
      script: `sensor front is distance on K2
motor scanner is turret on MX
let a = 0 cm
let b = 0 cm
turret left 90 deg
wait 1 s
set a to front
turret right 180 deg
wait 1 s
set b to front
turret ahead
if a > b
  turn left 90 deg
else
  turn right 90 deg
end
drive 30 % for 40 cm
`,
    },
    {
      name: 'Drives on for 15 cm.',
      change: [['drive 30 % for 25 cm', 'drive 30 % for 15 cm']],
    },
  ],
  'through-the-basin': [
    {
      name: 'Stop, then turn at once.',
      script: `sensor front is distance on K2
sensor left side is distance on K4
sensor right side is distance on K6
sensor seen is colour on K3
repeat until seen is green
  drive 25 %
  if front < 12 cm
    stop
    if left side > right side
      turn left 90 deg
    else
      turn right 90 deg
    end
  end
end
stop
`,
    },
    {
      name: 'Slower, and looks from farther away.',
      script: `sensor front is distance on K2
sensor left side is distance on K4
sensor right side is distance on K6
sensor seen is colour on K3
repeat until seen is green
  if front < 14 cm
    stop
    wait 0.5 s
    if right side > left side
      turn right 90 deg
    else
      turn left 90 deg
    end
  else
    drive 20 %
  end
end
stop
`,
    },
    {
      name: 'Waits for wall or green, then decides.',
      script: `sensor front is distance on K2
sensor left side is distance on K4
sensor right side is distance on K6
sensor seen is colour on K3
repeat until seen is green
  drive 25 %
  wait until front < 12 cm or seen is green
  stop
  if seen is not green
    if left side > right side
      turn left 90 deg
    else
      turn right 90 deg
    end
  end
end
stop
`,
    },
    {
      name: 'Waits for the wall each time, in the berth too.',
      script: `sensor front is distance on K2
sensor left side is distance on K4
sensor right side is distance on K6
sensor seen is colour on K3
repeat until seen is green
  drive 25 %
  wait until front < 12 cm
  stop
  if left side > right side
    turn left 90 deg
  else
    turn right 90 deg
  end
end
stop
`,
    },
  ],
};
