import type { TypicalFault } from '@vigilum/core/lesson';

/** Other answers that are right as well, by lesson, each with why. */
export const harbourRightToo: Record<string, TypicalFault[]> = {
  'first-watch': [
    {
      name: 'Polls: stand while pressed, else drive, ends by time.',
      script: `sensor nose is touch on K1
show "press to start"
wait until nose is bumped
clear
repeat until timer > 12.5 s
  if nose is pressed
    stop
  else
    drive 30 %
  end
end
stop
`,
    },
    {
      name: 'Show "waiting".',
      script: `sensor nose is touch on K1
show "waiting"
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
    },
    {
      name: '20 %.',
      script: `sensor nose is touch on K1
show "press me"
wait until nose is bumped
clear
repeat 3 times
  drive 20 %
  wait until nose is pressed
  stop
  wait until nose is released
end
stop
`,
    },
  ],
  'bump-and-turn': [
    {
      name: 'Polling with if.',
      script: `sensor nose is touch on K1
repeat
  if nose is pressed
    stop
    wait 0.5 s
    wheels -30 % and -30 % for 400 deg
    turn right 90 deg
  else
    drive 35 %
  end
end
`,
    },
    {
      name: 'Two wheel turns back.',
      script: `sensor nose is touch on K1
repeat
  drive 35 %
  wait until nose is pressed
  stop
  wait 0.5 s
  drive -30 % for 2 turns
  turn right 90 deg
end
`,
    },
    {
      name: 'Turns to the left: any turn leads on.',
      script: `sensor nose is touch on K1
repeat
  drive 30 %
  wait until nose is pressed
  stop
  wait 1 s
  drive -20 % for 15 cm
  turn left 100 deg
end
`,
    },
  ],
  'stop-short': [
    {
      name: 'Fast then slow.',
      script: `sensor front is distance on K2
drive 60 %
wait until front < {gap + 30} cm
drive 15 %
wait until front < {gap + 0.8} cm
stop
`,
    },
    {
      name: 'Overshoots a little and comes back.',
      script: `sensor front is distance on K2
drive 40 %
wait until front < {gap + 1} cm
stop
wait 0.5 s
drive -10 %
wait until front > {gap} cm
stop
`,
    },
    {
      name: 'Half the speed, and a smaller allowance.',
      script: `sensor front is distance on K2
drive 20 %
wait until front < {gap + 1} cm
stop
`,
    },
  ],
  'back-off-five': [
    {
      name: 'By encoder.',
      script: `sensor front is distance on K2
drive 35 %
wait until front < threshold
stop
wait 1 s
drive -15 % for {back} in
`,
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
      script: `sensor front is distance on K2
drive 25 %
wait until front < threshold
stop
wait 0.6 s
drive -12 %
wait until front rises by {25.4 * back} mm
stop
`,
    },
  ],
  'tide-line': [
    {
      name: 'Two-speed: overshoots, then back onto it.',
      script: `sensor floor is light on K3
drive 50 %
wait until floor < threshold
stop
wait 0.3 s
drive -10 %
wait until floor < threshold
stop
`,
    },
    {
      name: 'Slowly, by asking again and again.',
      script: `sensor floor is light on K3
repeat until floor < threshold
  drive 15 %
end
stop
`,
    },
    {
      name: 'By a drop instead of a level.',
      script: `sensor floor is light on K3
drive 20 %
wait until floor drops by 25
stop
`,
    },
  ],
  'count-the-lanes': [
    {
      name: 'Counts both edges and halves.',
      script: `sensor floor is light on K3
sensor front is distance on K2
let edges = 0
let dark = 0
drive 25 %
repeat until front < 15 cm
  if dark = 0 and floor < threshold
    set edges to edges + 1
    set dark to 1
  end
  if dark = 1 and floor > 60
    set edges to edges + 1
    set dark to 0
  end
end
stop
show "Lanes: " and edges / 2
`,
    },
    {
      name: 'Shows while it goes, "lines" not "lanes".',
      script: `sensor floor is light on K3
sensor front is distance on K2
let n = 0
let over = 0
drive 20 %
repeat until front < 15 cm
  if floor < threshold and over = 0
    set n to n + 1
    set over to 1
    show n and " lines"
  else if floor > 60
    set over to 0
  end
end
stop
`,
    },
    {
      name: 'Show "I counted " and lanes.',
      script: `sensor floor is light on K3
sensor front is distance on K2
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
show "I counted " and lanes
`,
    },
    {
      name: 'No stop line but brakes: stop at 12 cm.',
      script: `sensor floor is light on K3
sensor front is distance on K2
let lanes = 0
let across = 0
drive 25 %
repeat until front < 10 cm
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
    },
  ],
  'follow-the-channel': [
    {
      name: 'One wheel at a time at 20.',
      script: `sensor floor is light on K3
sensor seen is colour on K4
repeat until seen is red
  if floor < threshold
    wheels 0 % and 20 %
  else
    wheels 20 % and 0 %
  end
end
stop
`,
    },
    {
      name: '15 % gain 1.5.',
      script: `sensor floor is light on K3
sensor seen is colour on K4
repeat until seen is red
  steer 1.5 * (floor - threshold) at 15 %
end
stop
`,
    },
    {
      name: '10 % gain 1.',
      script: `sensor floor is light on K3
sensor seen is colour on K4
repeat until seen is red
  steer 1 * (floor - threshold) at 10 %
end
stop
`,
    },
  ],
  'piers-edge': [
    {
      name: 'Turns to the left.',
      script: `sensor left floor is light on K3
sensor right floor is light on K4
sensor front is distance on K2
repeat
  drive 25 %
  wait until left floor < threshold or right floor < threshold or front < 15 cm
  stop
  wait 0.5 s
  drive -25 % for 12 cm
  turn left 180 deg
end
`,
    },
    {
      name: 'Backs off 20 cm.',
      script: `sensor left floor is light on K3
sensor right floor is light on K4
sensor front is distance on K2
repeat
  drive 25 %
  wait until left floor < threshold or right floor < threshold or front < 15 cm
  stop
  wait 0.5 s
  drive -25 % for 20 cm
  turn right 180 deg
end
`,
    },
    {
      name: 'Pause 0.3 s.',
      script: `sensor left floor is light on K3
sensor right floor is light on K4
sensor front is distance on K2
repeat
  drive 25 %
  wait until left floor < threshold or right floor < threshold or front < 15 cm
  stop
  wait 0.3 s
  drive -25 % for 12 cm
  turn right 180 deg
end
`,
    },
    {
      name: 'Turns at 15 % (slow).',
      script: `sensor left floor is light on K3
sensor right floor is light on K4
sensor front is distance on K2
repeat
  drive 25 %
  wait until left floor < threshold or right floor < threshold or front < 15 cm
  stop
  wait 0.5 s
  drive -25 % for 12 cm
  turn right 180 deg at 15 %
end
`,
    },
  ],
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
      name: '90 - gyro straight into the speed.',
      script: `sensor gyro is heading on K5
zero heading
repeat until gyro >= {angle - 2}
  spin right at {angle} - gyro
end
stop
zero wheels
repeat until left wheel >= 4 turns
  steer {angle} - gyro at 30 %
end
stop
`,
    },
    {
      name: 'Drive 3 turns.',
      script: `sensor gyro is heading on K5
zero heading
repeat until gyro >= {angle - 2}
  wheels 0.5 * ({angle} - gyro) and -0.5 * ({angle} - gyro)
end
stop
zero wheels
repeat until left wheel >= 3 turns
  steer 2 * ({angle} - gyro) at 30 %
end
stop
`,
    },
    {
      name: 'After a slow turn at 10 % (8 s).',
      script: `sensor gyro is heading on K5
zero heading
spin right at 6 %
wait until gyro >= {angle - 2}
stop
zero wheels
repeat until left wheel >= 4 turns
  steer 2 * ({angle} - gyro) at 30 %
end
stop
`,
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
      name: 'Drive 15 cm.',
      script: `sensor front is distance on K2
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
drive 30 % for 15 cm
`,
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
      name: 'For ever (no end).',
      script: `sensor front is distance on K2
sensor floor is light on K3
sensor seen is colour on K4
repeat
  if front < 10 cm
    stop
  else if seen is green
    turn right 160 deg
  else
    steer 1 * (floor - threshold) at 15 %
  end
end
`,
    },
    {
      name: 'A weaker gain, a larger turn, an earlier stop.',
      script: `sensor front is distance on K2
sensor floor is light on K3
sensor seen is colour on K4
repeat for 45 s
  if front < 11 cm
    stop
  else if seen is green
    turn right 170 deg
  else
    steer 0.8 * (floor - threshold) at 14 %
  end
end
stop
`,
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
      script: `sensor front is distance on K2
sensor floor is light on K3
wait 2 s
repeat
  spin left at 12 %
  wait until front < 70 cm or floor < threshold
  wait 0.2 s
  drive 35 %
  wait until floor < threshold
  stop
  wait 0.5 s
  drive -40 % for 0.8 s
end
`,
    },
    {
      name: 'Backs off 20 cm by length.',
      script: `sensor front is distance on K2
sensor floor is light on K3
wait 2 s
repeat
  spin right at 12 %
  wait until front < 60 cm or floor < threshold
  wait 0.2 s
  drive 40 %
  wait until floor < threshold
  stop
  wait 0.5 s
  drive -30 % for 20 cm
end
`,
    },
    {
      name: 'Polling, no 0.2 wait.',
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
      name: 'Steer by direction, ends 88.',
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
  'colours-of-the-cargo': [
    {
      name: 'By colour names.',
      script: `sensor hold is colour on K4
repeat 3 times
  drive 25 % for 15 cm
  wait 0.5 s
  if hold is red
    show "red 100"
  else if hold is green
    show "green 100"
  else if hold is blue
    show "blue 100"
  end
  beep
end
`,
    },
    {
      name: 'Drives until something is not white.',
      script: `sensor hold is rgb on K4
let r = 0
let g = 0
let b = 0
repeat 3 times
  drive 20 %
  wait until hold.red < 180 or hold.blue < 180
  drive 20 % for 3 cm
  wait 0.5 s
  set r to hold.red
  set g to hold.green
  set b to hold.blue
  if r > g and r > b
    show "red " and r
  else if g > r and g > b
    show "green " and g
  else
    show "blue " and b
  end
  beep
  drive 20 % for 6 cm
end
`,
    },
    {
      name: '35 %.',
      script: `sensor hold is rgb on K4
let r = 0
let g = 0
let b = 0
repeat 3 times
  drive 35 % for 15 cm
  wait 0.5 s
  set r to hold.red
  set g to hold.green
  set b to hold.blue
  if r > g and r > b
    show "red " and r
  else if g > b
    show "green " and g
  else
    show "blue " and b
  end
end
`,
    },
  ],
};

/** Usual breaks of the model answers that are right as well: another speed, side or length that the task allows. */
export const harbourAccepts: Record<string, string[]> = {
  'bump-and-turn': [
    '12: left and right are mixed up in a turn',
    '3: 70 % instead of 35 %',
    '11: -60 % instead of -30 %',
    '11: 2 instead of 1',
    '12: half the turn: 45 instead of 90 degrees',
  ],
  'back-off-five': ['2: 70 % instead of 35 %'],
  'count-the-lanes': ['14: a stop is left out', '5: 50 % instead of 25 %'],
  'follow-the-channel': ['6: a stop is left out', '4: 30 % instead of 15 %'],
  'piers-edge': [
    '8: a wait is left out',
    '10: left and right are mixed up in a turn',
    '5: 50 % instead of 25 %',
    '9: -50 % instead of -25 %',
    '8: s is mistaken for ms',
    '9: cm is mistaken for in',
    '6: 30 is asked where 15 is meant',
    '9: 24 instead of 12',
  ],
  'hold-a-bearing': [
    '7: the zeroing is left out',
    '11: a stop is left out',
    '3: a repeat is lost: done once',
    '3: >= is typed as <=',
    '9: 60 % instead of 30 %',
    '9: a gain of 16',
  ],
  'look-both-ways': ['11: a movement is left out', '17: 60 % instead of 30 %'],
  'through-the-basin': [
    '7: a stop is left out',
    '8: a wait is left out',
    '14: a stop is left out',
    '11: 50 % instead of 25 %',
    '8: s is mistaken for ms',
  ],
  'harbour-rules': [
    '13: a stop is left out',
    '10: 30 % instead of 15 %',
    '5: cm is mistaken for in',
    '4: 90 instead of 45',
  ],
  'round-the-buoy': [
    '6: a stop is left out',
    '7: a wait is left out',
    '12: a stop is left out',
    '24: a movement is left out',
    '4: 30 % instead of 15 %',
    '10: 30 % instead of 15 %',
    '16: 50 % instead of 25 %',
    '18: 50 % instead of 25 %',
    '20: 30 % instead of 15 %',
    '23: 30 % instead of 15 %',
    '7: s is mistaken for ms',
    '16: cm is mistaken for in',
    '23: cm is mistaken for in',
    '16: 40 instead of 20',
    '18: 64 instead of 32',
    '23: 12 instead of 6',
    '24: half the turn: 20 instead of 40 degrees',
    '4: a gain of 0.1',
  ],
  'guard-the-island': [
    '7: a wait is left out',
    '10: a stop is left out',
    '11: a wait is left out',
    '5: left and right are mixed up in a spin',
    '5: 24 % instead of 12 %',
    '8: 70 % instead of 35 %',
    '12: -80 % instead of -40 %',
    '6: cm is mistaken for in',
    '7: s is mistaken for ms',
    '11: s is mistaken for ms',
    '6: 140 is asked where 70 is meant',
    '12: 1.6 instead of 0.8',
  ],
  'find-the-beacon': [
    '5: a branch of a decision is left out',
    '4: left and right are mixed up in a spin',
    '4: 24 % instead of 12 %',
    '6: 24 % instead of 12 %',
    '8: 24 % instead of 12 %',
    '10: 80 % instead of 40 %',
    '5: -10 is asked where -5 is meant',
    '7: 10 is asked where 5 is meant',
  ],
  'colours-of-the-cargo': ['7: a wait is left out', '6: 50 % instead of 25 %', '7: s is mistaken for ms'],
};
