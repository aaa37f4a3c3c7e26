import type { LessonWords, ReadTask } from '@vigilum/core/lesson';

const cards = (...names: string[]): ReadTask[] =>
  names.map((name) => ({
    surface: name,
    how: `Lay the ${name} under the sensor, as high as it will drive.`,
  }));

/** What each lesson reads before programming, and what its steps expect and take where that is its own. */
export const harbourSteps: Record<string, Pick<LessonWords, 'reads' | 'steps'>> = {
  'first-watch': {
    reads: [
      {
        text: 'The button knows *pressed* and *released*. A **bump** is both, one after the other.\n\nRecord, then press and let go three times: once short, once long, once gently. At which moment does each of the three words become true?',
      },
    ],
    steps: {
      wire: {
        expects: 'the button reads 1 while a finger is on it, and 0 when it is not',
        hints: ['It reads 1 all the time? Something leans on it, or the plug is half in.'],
      },
      script: {
        minutes: 10,
        expects: 'the tug waits, starts on a bump, and stands while the button is held',
      },
      predict: { expects: 'two words are written down: what it does at each of the two moments' },
      try: { expects: 'three starts and three stops, and you know which step waited each time' },
      floor: { minutes: 7, expects: '3 trials are logged: how long from the finger to standing still?' },
      reflect: { expects: 'one example each for pressed and for bumped' },
    },
  },
  'bump-and-turn': {
    reads: [
      {
        title: 'How the bumper answers',
        text: 'Push the bumper in the middle, then at its left end, then at its right end. Does it press every time? A wall is seldom met straight on.',
        expects: 'three bumps are counted, and you know where the bumper misses',
      },
    ],
    steps: {
      wire: { expects: 'the bumper answers in the middle and at both ends' },
      script: { minutes: 11, expects: 'what follows a bump is a task of its own, and it is done for ever' },
      try: {
        expects: 'five walls without getting stuck',
        hints: [
          'Stuck in a corner? Look whether it backs off far enough to turn.',
          'Only one bump? Then the deciding stands outside the repeat.',
        ],
      },
      prove: { expects: 'it is proved in every corner, or you can say which one holds it' },
      floor: { minutes: 9, expects: '3 trials of 30 s are logged, with the walls that were met' },
    },
  },
  'stop-short': {
    reads: [
      {
        at: [100, 150, 200, 300, 500],
        minutes: 6,
        text: 'Hold a flat wall at each distance, measured from the **sensor’s face**. What does it say, and how far off is it? Measure once in inches too: which number does your script use?',
        decides: {
          hints: [
            'At 30 % the tug travels two to three centimetres while it stops. And at 60 %?',
            'Or walk it in: 30, then 20, then 17 … and write each gap down.',
          ],
        },
      },
    ],
    steps: {
      wire: { expects: 'the number falls when a hand comes near, and the unit is the one you think' },
      predict: { expects: 'a gap in centimetres is written down before the first run' },
      script: { minutes: 7, expects: 'three actions: drive, wait, stop' },
      try: {
        minutes: 6,
        expects: 'the gap is right once, and you know how far it travelled while it stopped',
      },
      prove: { expects: 'the gap holds from three starts' },
      floor: { minutes: 9, expects: '3 trials by ruler, each with the threshold that was used' },
    },
  },
  'back-off-five': {
    reads: [
      {
        at: [127, 150, 200, 254, 330],
        title: 'Read it in inches',
        text: 'Five inches are 127 mm. Hold a wall at 5, 8, 10 and 13 inches and at 15 cm. Does the sensor say inches or centimetres? What must *you* write?',
        expects: 'every distance is read, and you know which unit the number has',
        decides: true,
      },
    ],
    steps: {
      wire: { expects: 'the number falls when a hand comes near' },
      script: { minutes: 8, expects: 'stop, wait, reverse until it has risen, stop: in that order' },
      predict: { expects: 'two distances are written down: nearest and farthest place to end' },
      try: { expects: 'last distance less first distance is the way that was asked for' },
      floor: {
        minutes: 8,
        expects: '3 trials by ruler: the gap before, the gap after, and their difference',
      },
    },
  },
  'tide-line': {
    steps: {
      wire: {
        expects: 'the number moves when a white paper is pushed under it',
        hints: [
          'Nothing moves? Pull the plug, push it home, look again.',
          'About a finger’s width above the floor: higher and the line looks like the boards.',
        ],
      },
      script: { expects: 'three actions, and the last of them is a stop' },
      predict: { expects: 'millimetres past the near edge, written down before the first run' },
      floor: { expects: '3 trials by ruler, from the near edge to the sensor' },
    },
  },
  'count-the-lanes': {
    reads: [
      {
        minutes: 6,
        text: 'Read the lane line and the boards. Then read a **coloured** card as well: how near does it come to the lane line?',
        hints: [
          'Do the numbers jump? Hold the robot still and take the looks again.',
          '“Another surface” below takes the coloured cards.',
        ],
        decides: {
          hints: [
            'A coloured card between the two? Then halfway is too high: go below the card.',
            'Two levels keep the border from counting twice.',
          ],
        },
      },
    ],
    steps: {
      wire: { expects: 'both sensors answer: one to paper, one to a hand' },
      predict: { minutes: 3, expects: 'two numbers are written down: lanes, and looks on one lane' },
      script: {
        minutes: 12,
        expects: 'it counts once for each lane, and nothing inside the loop waits',
      },
      floor: { minutes: 6, expects: '3 trials: what it showed, and what you counted' },
    },
  },
  'follow-the-channel': {
    reads: [
      {
        text: 'Read the channel and the boards. Then put the sensor **half over each**: that is the number it will try to keep.',
        decides: { expects: 'a target halfway between the two is in use' },
      },
    ],
    steps: {
      wire: { expects: 'the light sensor and the colour sensor both answer' },
      predict: { expects: 'one word, left or right, and one guess at the gain' },
      script: {
        minutes: 10,
        expects: 'steering inside a loop that ends at red, and a stop after it',
      },
      try: {
        minutes: 8,
        expects: 'the sharp bend is kept three times with one gain',
        hints: [
          'Change the gain alone, by a fifth at a time. Write down what each did.',
          'Speed first: a slow tug needs little gain.',
        ],
      },
      floor: { minutes: 7, expects: '3 trials are logged, each with its gain and its speed' },
    },
  },
  'piers-edge': {
    reads: [
      {
        minutes: 4,
        title: 'Read planks and nothing, left',
        text: '**Hold the robot with both hands.** Read the planks, then with the left eye over the edge. Nothing comes back: how low is nothing?',
        decides: {
          title: 'Decide on a threshold, left',
          minutes: 2,
          text: 'Below which number is there **nothing underneath**? Choose a way, and see how safe it is.',
        },
      },
      {
        socket: 'K4',
        minutes: 4,
        title: 'Read planks and nothing, right',
        text: 'The same with the right eye. Two eyes of one kind seldom read the same.',
        decides: {
          title: 'Decide on a threshold, right',
          minutes: 2,
          text: 'The right eye has a threshold of its own. In the script `threshold` means the one of the sensor on the other side of the sign.',
        },
      },
    ],
    steps: {
      wire: {
        expects: 'both eyes answer to paper and the sounder to a hand',
        hints: ['Left and right changed over? Hold a paper under one eye and look which number moves.'],
      },
      predict: { expects: 'a number of centimetres between wheel and edge' },
      script: {
        minutes: 9,
        expects: 'three reasons to stop joined by *or*, and the backing off before the turn',
        hints: [
          'One eye in the middle sees a slanting edge when a wheel is already over it.',
          '`or`, not `and`: one reason to stop is enough.',
          'Back off before the turn: the tail needs room too.',
        ],
      },
      try: { minutes: 5, expects: 'forty seconds on the pier, and you can say what stopped it each time' },
      floor: {
        minutes: 7,
        expects: '3 trials, with a catcher at each edge for all of them',
        hints: ['First at half the speed. The catchers stay until the robot is off the table.'],
      },
    },
  },
  'hold-a-bearing': {
    reads: [
      {
        at: [90, -90, 180],
        minutes: 5,
        text: 'Note where it starts, turn the robot along a set square, note what it says: a quarter to the right, a quarter to the left, half round. Which way counts up?\n\nThen leave it still for a minute. Does the number **creep**?',
        expects: 'three known turns, and what it reads for each',
      },
    ],
    steps: {
      wire: { expects: 'the number follows the robot, and stands still when it does' },
      predict: { expects: 'a number of degrees, more than you asked for' },
      script: {
        minutes: 11,
        expects: 'the turn becomes slower as it comes near, and ends by “at least”, never “equal”',
      },
      try: { expects: 'it ends within three degrees, and the straight stays straight' },
      floor: { minutes: 8, expects: '3 trials by protractor, with the battery’s state beside each' },
    },
  },
  'look-both-ways': {
    reads: [
      {
        at: [200, 420, 1050],
        minutes: 5,
        title: 'Read the two ways',
        text: 'Turn the turret by hand to each side. How far is the wall of the short way, and of the long way? How much do the numbers scatter at the long one?',
        expects: 'three distances are read, and the two ways differ by far more than the scatter',
      },
    ],
    steps: {
      wire: {
        expects: 'the turret moves when you tell it to, and the number changes with it',
        hints: ['Does the cable catch when the turret goes all the way round? Lead it upwards.'],
      },
      predict: { expects: 'one letter for each start: L or R' },
      script: { minutes: 11, expects: 'two numbers are kept, and compared once' },
      try: { expects: 'the roomier way from both starts, and you saw the two kept numbers' },
      floor: { minutes: 8, expects: '3 trials by protractor: which way, and by how many degrees' },
    },
  },
  'through-the-basin': {
    reads: [
      {
        at: [80, 120, 200, 300],
        minutes: 4,
        title: 'Read the front one near a wall',
        text: 'The basin is narrow: what counts is near. Read the front sounder at 8, 12, 20 and 30 cm. From which distance on does it give no number any more?',
        expects: 'four near distances are read, and you know the nearest that it tells',
      },
    ],
    steps: {
      wire: {
        minutes: 4,
        expects: 'three sounders and the colour eye answer, and you know which is left',
        hints: ['Hold a hand to one side and look which number moves.'],
      },
      predict: { expects: 'the turns as letters, in order' },
      script: { minutes: 12, expects: 'one rule in a loop until green, with the choice as a task' },
      try: { minutes: 7, expects: 'the berth once, and you can say at each wall why it turned that way' },
      floor: { minutes: 8, expects: '3 trials are logged: berth or not, and at which wall it went wrong' },
    },
  },
  'harbour-rules': {
    reads: [
      {
        minutes: 4,
        text: 'Read the fairway and the boards: half over each is the number to keep.',
        decides: { minutes: 2 },
      },
      {
        socket: 'K4',
        tasks: cards('green card', 'quay boards', 'fairway'),
        minutes: 3,
        title: 'What it calls green',
        text: 'What does the colour sensor call the green card, the boards and the fairway? A rule that listens for green must hear it there and nowhere else.',
        expects: 'green over the green card, and over nothing else',
      },
    ],
    steps: {
      wire: { expects: 'three sensors answer, each on its own socket' },
      predict: { expects: 'the three rules, numbered' },
      script: { minutes: 11, expects: 'one loop, one decision, no wait inside' },
      try: {
        minutes: 7,
        expects: 'each rule was seen to win once',
        hints: [
          'It drives into the ferry? Then another rule stands before that one.',
          'Test with one rule, then two, then three.',
        ],
      },
      floor: { minutes: 6, expects: '3 trials: a hand is the ferry; was it seen every time?' },
      prove: { minutes: 2 },
    },
  },
  'round-the-buoy': {
    reads: [
      {
        minutes: 4,
        text: 'Read the fairway and the boards: half over each is the number to keep.',
        decides: { minutes: 2 },
      },
      {
        socket: 'K2',
        at: [80, 120, 200],
        minutes: 3,
        title: 'How near is the buoy?',
        text: 'A round thing sends back less than a wall. Stand the buoy at 8, 12 and 20 cm and look whether the number holds.',
        expects: 'three distances of the **buoy**, not of a wall',
      },
    ],
    steps: {
      wire: { expects: 'the light sensor and the sounder both answer' },
      predict: { expects: 'one word: from the left, or from the right' },
      script: { minutes: 11, expects: 'three pieces, the middle one a task that was tested alone' },
      try: { minutes: 7, expects: 'the line is found again, and the tug points along it' },
      floor: { minutes: 7, expects: '3 trials are logged, with the piece that failed' },
      prove: { minutes: 2 },
    },
  },
  'guard-the-island': {
    reads: [
      {
        socket: 'K3',
        minutes: 4,
        text: 'Read the border and the island. The border is all that keeps you from the sea.',
        decides: { minutes: 2 },
      },
      {
        at: [300, 500, 700],
        minutes: 4,
        title: 'How far can it see the other one?',
        text: 'Stand the other tug at 30, 50 and 70 cm, front on and sideways. From where on is it lost?',
        expects: 'three distances of the other tug, and the farthest that is sure',
      },
    ],
    steps: {
      wire: { minutes: 2, expects: 'the light sensor and the sounder both answer' },
      predict: { expects: 'an angle in degrees, and a speed for the sweep' },
      script: { minutes: 10, expects: 'two seconds of hands off, and the border watched in every wait' },
      try: { minutes: 6, expects: 'the other one is out, and yours is on' },
      floor: {
        minutes: 8,
        expects: '3 bouts are logged; everybody sits behind the line',
        hints: ['Hands clear before the start, and the judge says when.'],
      },
      prove: { minutes: 2 },
    },
  },
  'find-the-beacon': {
    reads: [
      {
        minutes: 5,
        tasks: [
          { surface: 'beacon ahead', how: 'Half a metre straight ahead.' },
          { surface: 'beacon to the left', how: 'Half a metre away, a step to the left.' },
          { surface: 'beacon to the right', how: 'Half a metre away, a step to the right.' },
          { surface: 'no beacon', how: 'Switched off, or behind the robot.' },
        ],
        title: 'Where it says the beacon is',
        text: 'Which sign has the direction to the left, and to the right? What does it say when there is **no** beacon: zero, or nothing?',
        expects: 'four cases are read, and you know what “nothing” looks like',
        hints: ['Two beacons in the room? Take turns, or stand back to back.'],
      },
    ],
    steps: {
      wire: { expects: 'the direction changes its sign when the beacon goes from left to right' },
      predict: { expects: 'one word: positive or negative' },
      script: { minutes: 11, expects: 'a branch for “nothing” comes first, and it ends by strength' },
      try: { expects: 'it turns the short way and stops in the light' },
      floor: { minutes: 8, expects: '3 trials are logged, with the beacon in another place each time' },
    },
  },
  'colours-of-the-cargo': {
    reads: [
      {
        minutes: 7,
        tasks: cards('red card', 'green card', 'blue card', 'quay boards'),
        title: 'Read three numbers of each card',
        text: 'For each card: how much red, green and blue comes back? Which of the three is the largest, and by how much? Read the boards between the cards too: they must not count as cargo.',
        expects: 'four surfaces are read, and no two are mixed up',
        hints: [
          'Lay the card flat: a raised corner shines.',
          'Another lamp gives other numbers: read again.',
        ],
      },
    ],
    steps: {
      wire: { expects: 'three numbers move when a coloured card is pushed under it' },
      predict: { expects: 'one of the three numbers, and why it is the largest' },
      script: { minutes: 11, expects: 'all three numbers are copied before any is compared' },
      try: { minutes: 5, expects: 'three cards, three right names' },
      floor: { minutes: 6, expects: '3 trials: what it said over each card' },
    },
  },
};
