import type { OtherRight } from './other.ts';

/** Other right answers to the lessons of `lines.ts`, by lesson. */
export const rightOfLines: Record<string, OtherRight[]> = {
  'tide-line': [
    {
      name: 'Two-speed: overshoots, then back onto it.',
      change: [['drive 30 %', 'drive 50 %\nwait until floor < threshold\nstop\nwait 0.3 s\ndrive -10 %']],
    },
    {
      name: 'Slowly, by asking again and again.',
      change: [
        ['drive 30 %\nwait until floor < threshold', 'repeat until floor < threshold\n  drive 15 %\nend'],
      ],
    },
    {
      name: 'By a drop instead of a level.',
      change: [['drive 30 %\nwait until floor < threshold', 'drive 20 %\nwait until floor drops by 25']],
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
      name: 'Shows the count while it goes, and says lines.',
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
      name: 'Says “I counted” before the number.',
      change: [['show "Lanes: " and lanes', 'show "I counted " and lanes']],
    },
    {
      name: 'Looks for the wall from 10 cm on.',
      change: [['repeat until front < 15 cm', 'repeat until front < 10 cm']],
    },
  ],
  'follow-the-channel': [
    {
      name: 'Turns one wheel at a time.',
      change: [
        [
          '  steer 1.2 * (floor - threshold) at 15 %',
          '  if floor < threshold\n    wheels 0 % and 20 %\n  else\n    wheels 20 % and 0 %\n  end',
        ],
      ],
    },
    {
      name: 'A gain of 1.5.',
      change: [['steer 1.2 * (floor - threshold) at 15 %', 'steer 1.5 * (floor - threshold) at 15 %']],
    },
    {
      name: 'Slower, with a gain of 1.',
      change: [['steer 1.2 * (floor - threshold) at 15 %', 'steer 1 * (floor - threshold) at 10 %']],
    },
  ],
  'piers-edge': [
    {
      name: 'Turns to the left.',
      change: [['turn right 180 deg', 'turn left 180 deg']],
    },
    {
      name: 'Backs off 20 cm.',
      change: [['drive -25 % for 12 cm', 'drive -25 % for 20 cm']],
    },
    {
      name: 'Pauses for 0.3 s only.',
      change: [['wait 0.5 s', 'wait 0.3 s']],
    },
    {
      name: 'Turns at 15 % (slow).',
      change: [['turn right 180 deg', 'turn right 180 deg at 15 %']],
    },
  ],
  'colours-of-the-cargo': [
    {
      name: 'Lets the sensor name the colour.',
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
      name: 'Drives at 35 %.',
      change: [
        ['drive 25 % for 15 cm', 'drive 35 % for 15 cm'],
        ['  end\n  beep', '  end'],
      ],
    },
  ],
};
