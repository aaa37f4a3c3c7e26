import type { OtherRight } from './other.ts';

/** Other right answers to the lessons of `together.ts`, by lesson. */
export const rightOfTogether: Record<string, OtherRight[]> = {
  'hold-a-bearing': [
    {
      name: 'Two-speed turn, gain 1.',
      script: `sensor gyro is heading on K5
zero heading
spin right at 30 %
wait until gyro > {angle - 30}
spin right at 8 %
wait until gyro >= {angle - 2}
stop
zero wheels
repeat while left wheel < 1440 deg
  steer {angle} - gyro at 25 %
end
stop
`,
    },
    {
      name: 'Takes what is left of the turn for the speed.',
      change: [
        ['wheels 4 + 0.5 * ({angle} - gyro) and -4 - 0.5 * ({angle} - gyro)', 'spin right at {angle} - gyro'],
        ['steer 2 * ({angle} - gyro) at 30 %', 'steer {angle} - gyro at 30 %'],
      ],
    },
    {
      name: 'Drives on for three turns of the wheels.',
      change: [['repeat until left wheel >= 4 turns', 'repeat until left wheel >= 3 turns']],
    },
    {
      name: 'Turns slowly all the way.',
      change: [
        [
          'repeat until gyro >= {angle - 2}\n  wheels 4 + 0.5 * ({angle} - gyro) and -4 - 0.5 * ({angle} - gyro)\nend',
          'spin right at 6 %\nwait until gyro >= {angle - 2}',
        ],
      ],
    },
  ],
  'harbour-rules': [
    {
      name: 'Waits inside the branch; turns by the line.',
      script: `sensor front is distance on K2
sensor floor is light on K3
sensor seen is colour on K4
repeat until timer > 44 s
  if front < 12 cm
    stop
    wait until front > 15 cm
  else if seen is green
    drive 15 % for 3 cm
    turn right 165 deg
  else if floor < threshold
    wheels 8 % and 18 %
  else
    wheels 18 % and 8 %
  end
end
stop
`,
    },
    {
      name: 'Goes on for ever.',
      change: [
        ['repeat for 45 s', 'repeat'],
        ['end\nstop', 'end'],
      ],
    },
    {
      name: 'A weaker gain, a larger turn, an earlier stop.',
      change: [
        ['if front < 10 cm', 'if front < 11 cm'],
        ['turn right 160 deg', 'turn right 170 deg'],
        ['steer 1 * (floor - threshold) at 15 %', 'steer 0.8 * (floor - threshold) at 14 %'],
      ],
    },
  ],
  'round-the-buoy': [
    {
      name: 'Goes round on the left, meets the left edge.',
      script: `sensor front is distance on K2
sensor floor is light on K3
repeat until front < 12 cm
  steer 1 * (floor - threshold) at 15 %
end
stop
wait 0.3 s
turn left 60 deg
drive 25 % for 20 cm
turn right 60 deg
drive 25 % for 32 cm
turn right 60 deg
drive 15 %
wait until floor < threshold
stop
turn left 60 deg
repeat for 5 s
  steer 1 * (floor - threshold) at 15 %
end
stop
`,
    },
    {
      name: 'Longer legs, farther round.',
      script: `sensor front is distance on K2
sensor floor is light on K3
repeat until front < 15 cm
  steer 0.8 * (floor - threshold) at 14 %
end
stop
turn right 60 deg
drive 25 % for 24 cm
turn left 60 deg
drive 25 % for 40 cm
turn left 60 deg
drive 12 %
wait until floor < threshold
stop
drive 15 % for 6 cm
turn right 40 deg
repeat for 6 s
  steer 1 * (floor - threshold) at 15 %
end
stop
`,
    },
    {
      name: 'At right angles.',
      script: `sensor front is distance on K2
sensor floor is light on K3
repeat until front < 14 cm
  steer 1 * (floor - threshold) at 15 %
end
stop
turn right 90 deg
drive 25 % for 18 cm
turn left 90 deg
drive 25 % for 45 cm
turn left 90 deg
drive 12 %
wait until floor < threshold
stop
drive 15 % for 7 cm
turn right 80 deg
repeat for 6 s
  steer 1 * (floor - threshold) at 15 %
end
stop
`,
    },
  ],
  'guard-the-island': [
    {
      name: 'Sweeps to the left.',
      change: [['spin right at 12 %', 'spin left at 12 %']],
    },
    {
      name: 'Backs off 20 cm by length.',
      change: [
        ['wait until front < 70 cm or floor < threshold', 'wait until front < 60 cm or floor < threshold'],
        ['drive 35 %', 'drive 40 %'],
        ['drive -40 % for 0.8 s', 'drive -30 % for 20 cm'],
      ],
    },
    {
      name: 'Asks again and again for the border, and stops before it drives.',
      script: `sensor front is distance on K2
sensor floor is light on K3
wait 2.5 s
repeat
  spin right at 12 %
  wait until front < 70 cm or floor < threshold
  stop
  repeat until floor < threshold
    drive 35 %
  end
  stop
  wait 0.5 s
  drive -40 % for 0.8 s
end
`,
    },
  ],
  'find-the-beacon': [
    {
      name: 'Steers by the direction.',
      script: `sensor beacon is beacon on S-c
repeat until beacon.strength > 88
  if beacon is nothing
    spin right at 12 %
  else
    steer beacon.direction at 30 %
  end
end
stop
show beacon.strength
`,
    },
    {
      name: 'Ends at 85.',
      script: `sensor beacon is beacon on S-c
repeat until beacon.strength > 85
  if beacon is nothing
    spin right at 12 %
  else
    steer beacon.direction at 30 %
  end
end
stop
show beacon.strength
`,
    },
    {
      name: 'Turns the other way while it sees nothing.',
      script: `sensor beacon is beacon on S-c
repeat until beacon.strength > 88
  if beacon is nothing
    spin left at 12 %
  else
    steer 1.5 * beacon.direction at 25 %
  end
end
stop
show "strength " and beacon.strength
`,
    },
  ],
};
