import type { LessonWords } from '@vigilum/core/lesson';

/** What the harbour year tells its teams, and what they show in the end, by lesson. */
export const harbourWords: Record<string, LessonWords & { skills: string[] }> = {
  'first-watch': {
    skills: ['starts and stops a robot with a button', 'tells pressed, released and bumped apart'],
    brief:
      'The watch begins when somebody presses the button on deck. Until then the tug lies still, and while the button is held it stands.\n\nA button knows three things: **pressed**, **released**, and **bumped** (pressed and let go again).',
    predict:
      'The button is pressed at 5 s and held for a second. What does the tug do at 5.5 s, and at 6.5 s?',
    script:
      'One action a line:\n\n1. say on the display that you wait\n2. wait for a bump, clear the display\n3. three times: drive, wait until pressed, stop, wait until released',
    scriptHints: [
      '“Pressed” is true for as long as the finger stays; “bumped” is over when it has left.',
      'What is done three times stands between `repeat 3 times` and `end`.',
      'Without `wait until nose is released` the loop runs through all three rounds in one press.',
    ],
    watch: 'Watch the step that is running while the button is down: it should be the wait.',
    reflect: 'When would you use *pressed*, and when *bumped*? Give one example from a ship.',
    extend: 'Let the tug beep once for every start and show how many there were.',
    homework:
      'Find three buttons at home. For each: does it act when pressed, when released, or for as long as it is held?',
  },
  'bump-and-turn': {
    skills: ['finds a wall by touch and backs off', 'gives steps that belong together a name of their own'],
    brief:
      'In the boathouse it is too dark to see. The tug feels its way: it drives until its bumper meets something, stops, backs off and turns.\n\nIt must never stop doing so: whoever decides only once is stuck at the first wall.',
    predict: 'How many walls will it meet in thirty seconds?',
    script:
      'Put the four actions after a bump into a task of your own, and do it in an endless repeat:\n\n- stop and wait half a second\n- back off by one turn of the wheels\n- turn by about 90°, to one side or the other',
    scriptHints: [
      'A robot that reverses at once tips. Pause first.',
      '`task back off and turn` … `end`, and `do back off and turn` where it belongs.',
    ],
    watch: 'Watch what happens in a corner: are there two bumps in a row?',
    reflect: 'Why does a turn of exactly 90° lead it along the same way again and again?',
    extend: 'Turn by another angle each time. Does it see more of the boathouse?',
    homework: 'Draw the boathouse from above and the way of the tug through five bumps.',
  },
  'stop-short': {
    skills: ['stops by a measured distance', 'walks a threshold in instead of guessing it'],
    brief:
      'A tug that touches the quay costs paint. It must come to rest **15 cm** short of it, whatever its speed was.\n\nIt sends out a sound and listens for the echo. Between the moment when it hears “near enough” and standing still, it travels on.',
    predict:
      'The script waits for 15 cm. Where will the tug stand: nearer or farther than that, and by how much?',
    script: 'Drive, wait until the front is nearer than your threshold, **stop**.',
    scriptHints: [
      'Begin with 30 cm. Measure the gap. Take off what is too much.',
      'Write each trial down: 30, 20, 17 … and the gap that came out.',
    ],
    watch: 'Watch the distance twice: when the stop begins, and when it stands.',
    reflect: 'How far does your tug travel while it stops? Does that grow with the speed?',
    extend:
      'Make it 15 cm again at half and at twice the speed. Put the three thresholds against the speeds.',
    homework: 'Write 15 cm in millimetres and in inches. Which of the three would you measure a quay with?',
  },
  'back-off-five': {
    skills: ['moves by a change instead of to a place', 'keeps inches and centimetres apart'],
    brief:
      'The harbour master says: “Back off by five inches.” He does not say where from.\n\nSo the tug must remember what it measured when it stood, and reverse until the distance has **risen** by so much.',
    predict: 'It stops somewhere between 15 and 18 cm. Between which two distances will it stand in the end?',
    script:
      'Stop short of the quay as before. Wait a second. Reverse slowly until the front *rises by* 5 in. Stop.',
    scriptHints: [
      '`wait until front rises by 5 in` compares with what it was when that step began.',
      'Slowly: at speed it travels on after the stop, as it did on the way ahead.',
    ],
    watch: 'Watch the distance from the first stop to the last: what is the difference?',
    reflect: 'Why is “until front > 13 cm” another thing than “rises by 13 cm”?',
    extend: 'Back off by {back} inches three times, with a pause between.',
    homework:
      'Somebody tells you: “two steps back”. Somebody else: “back to the door”. Which of the two is a change?',
  },
  'tide-line': {
    skills: ['reads two surfaces and decides on a threshold', 'ends a movement with a stop of its own'],
    brief:
      'The tide line on the quay marks how far the tug may come. It does not see the line as you do: it knows only how much light comes back from the spot under its sensor.\n\nFirst you find out what *your* robot reads on *your* floor.',
    predict: 'How many millimetres past the near edge of the line will it stop? Why is it not zero?',
    script:
      'Driving until the line takes **three** actions:\n\n1. drive\n2. wait until the floor is darker than the threshold\n3. stop',
    scriptHints: [
      'Write `threshold` where your number belongs: then it follows when you decide anew.',
      'Do not count on the end of the program: the tug rolls on for half a second.',
    ],
    watch: 'Watch the reading where it crosses the threshold line. How long after that does the tug stand?',
    reflect:
      'The sun comes out. What happens to both readings, and does your threshold still lie between them?',
    extend: 'Drive twice as fast. Say first how far past the edge it will stop.',
    homework:
      'The boards read 80, the line 22. Work out halfway. How much darker may the room get before it is wrong?',
  },
  'count-the-lanes': {
    skills: ['counts events instead of looks', 'sets a counter to zero and shows it'],
    brief:
      'Ships sail in lanes. The tug crosses them all and reports how many there are. The coloured ones are for yachts and do not count.\n\nA lane lasts for many looks: whoever adds one at every look counts far too many.',
    predict: 'How many dark lanes are there? How many looks fall on one, if it looks every 50 ms?',
    script:
      'You need two values: how many lanes there were, and whether you are on one *now*.\n\n- dark, and not on a lane yet: one more, and now on it\n- light again: not on it any more',
    scriptHints: [
      'Set both to zero before the loop.',
      'Leave a gap between “dark” and “light again”, or the border counts twice.',
      'No wait inside the loop: it would hide the wall from it.',
    ],
    watch:
      'Watch the counter beside the reading. Does it go up once for each dip, and not at the coloured ones?',
    reflect: 'What did your first script count, and which line of it was to blame?',
    extend: 'Count the yachts’ lanes too, in a second value.',
    homework:
      'A turnstile counts people. What could make it count one person twice? How do builders prevent that?',
  },
  'follow-the-channel': {
    skills: ['steers by how far a reading is off', 'finds a gain by trial: up until worse, then back'],
    brief:
      'The channel is narrow and bends. The tug keeps to its **left edge**: half dark, half light is where it wants to be.\n\nTwo schools: *two-state* (too light, this way; too dark, that way), and *proportional* (the farther off, the more).',
    predict: 'It reads lighter than the threshold. Which way must it steer? And how hard in the sharp bend?',
    script:
      'In a loop that ends at the red berth: steer by the difference between reading and threshold, times a gain.',
    scriptHints: [
      'Left edge: lighter means too far left, so steer to the right.',
      'Begin with gain 0.4 and little speed. Loses the bend? More gain. Wags? Less.',
      'End by seeing red, and stop.',
    ],
    watch: 'Watch how far it is off the edge on the straight and in the sharp bend. Where is it worst?',
    reflect: 'Why does a gain that is good in the bend make it wag on the straight?',
    extend: 'Write it two-state: 40 and 20 % on the wheels. How far does that carry through the sharp bend?',
    homework: 'Target 50, gain 0.6: work out the steering for readings of 20, 50 and 90.',
  },
  'piers-edge': {
    skills: ['sees an edge by missing light', 'joins conditions with or'],
    brief:
      'The pier has a wall at one end and nothing at the other. The tug patrols between them and must **never** go over.\n\nBeyond the edge no light comes back. That is how it knows.',
    predict: 'It sees the edge 8 cm ahead of its wheels. How many centimetres are left when it stands?',
    script:
      'Again and again: drive, wait for the left eye, the right eye **or** the wall, stop, back off, turn round.',
    scriptHints: [
      'One eye in the middle sees a slanting edge when a wheel is already over it.',
      '`or`, not `and`: one reason to stop is enough.',
      'Back off before the turn: the tail needs room too.',
    ],
    watch: 'Watch which of the three stops it each time.',
    reflect: 'What is the greatest speed at which it still stops in time? What sets that limit?',
    extend: 'Let it turn by a different angle each time and see whether it finds the whole pier.',
    homework:
      'Draw a robot from above coming to an edge at a slant. Mark eyes and wheels. Where must it have stopped?',
  },
  'hold-a-bearing': {
    skills: ['zeroes a sensor before using it', 'slows down as it comes near', 'drives straight by looking'],
    brief:
      'On open water there is no line to follow, only a bearing to hold. The spin top adds up every turn: to the right counts up.\n\nA tug has momentum: at full power it turns on long after the stop.',
    predict: 'Full power until {angle}°. What will the protractor say?',
    script:
      '1. zero the heading\n2. turn right, the more slowly the nearer it comes to {angle}, and leave just before\n3. drive on, steering by how far the heading is off',
    scriptHints: [
      'What is left is `{angle} - gyro`. Let the wheels follow half of it.',
      'Below a few percent a motor does not turn: add a **least speed**, `4 + 0.5 * …`, or it stands short for ever.',
      'Leave at {angle - 2}: it rolls on.',
      'Never test a turning value for *equal*: it is stepped over.',
    ],
    watch: 'Watch how the rate of turn falls as the heading comes near {angle}.',
    reflect:
      'Hold the robot still and look at the heading for a minute. Does it creep? What does that do to a long voyage?',
    extend: 'Sail a square: four sides, four turns, back at the start. How far off is it?',
    homework: 'Turning right counts up. What does the heading say after: right 90, left 180, right 45?',
  },
  'look-both-ways': {
    skills: ['keeps a reading and compares it later', 'lets a sensor settle before reading it'],
    brief:
      'At the fork the tug has one sounder on a turret. It looks to one side, remembers, looks to the other side, and takes the roomier way.',
    predict: 'Which way will it take from start A? And from start B, which looks the other way?',
    script:
      'Turret left, wait, keep the number. Turret right, wait, keep the number. Turret ahead. Then choose.',
    scriptHints: [
      'From left to right is **half** a turn, 180°.',
      'A turret that has just stopped still swings: wait a second before you read.',
      '`let left room = 0 cm` first, `set left room to front` when you have looked.',
    ],
    watch: 'Watch both kept numbers at the moment of the choice.',
    reflect: 'What would it choose if you left out the waits?',
    extend: 'If both sides are nearly the same, go back the way you came.',
    homework: 'How do you look before crossing a street? Write it as steps for a robot with one eye.',
  },
  'through-the-basin': {
    skills: ['uses three sensors at once', 'breaks a long way into one rule that repeats'],
    brief:
      'The basin is a maze of walls. Three sounders tell how much room is ahead, to the left and to the right. The green berth is at the end.\n\nYou do not know the way. You need a **rule**.',
    predict: 'Write the turns down as letters, L and R, before it runs.',
    script:
      'Until green: if the wall ahead is near, stop and turn to the side with more room; otherwise drive.',
    scriptHints: [
      'Put the choice into a task of its own and test it alone first.',
      'Stop before you compare: while it rolls the numbers change.',
    ],
    watch: 'Watch the three distances at each wall. Was the choice right for what it saw?',
    reflect: 'In which maze would this rule fail?',
    extend: 'Mirror the course. Does the same script still find the berth?',
    homework: 'Draw a maze with three turns that defeats the rule “to the side with more room”.',
  },
  'harbour-rules': {
    skills: ['puts rules in the order of their importance', 'keeps looking at several sensors'],
    brief:
      'Three rules of the harbour: *wait while the ferry is there*, *turn round on green*, *otherwise follow the fairway*.\n\nWhen two of them apply, the first one in the script wins.',
    predict: 'Which rule must come first? What goes wrong if it comes last?',
    script:
      'One loop, one decision with three branches. No waits inside: a wait is blind to everything else.',
    scriptHints: [
      'Test each rule alone, then join them.',
      '`if front < 10 cm` … `else if seen is green` … `else` … `end`',
    ],
    watch: 'Watch which branch runs, and when it changes.',
    reflect: 'Name a fourth rule for a real harbour. Where in the order does it belong?',
    extend: 'Beep while waiting, once a second.',
    homework: 'Write three rules for crossing a road, in order, for somebody who follows them to the letter.',
  },
  'round-the-buoy': {
    skills: [
      'leaves a line, goes round something and finds it again',
      'tests a piece alone before joining it',
    ],
    brief:
      'There is a buoy in the fairway. The tug follows until it is near, goes round it, finds the line again and follows on.\n\nBig programs are joined from pieces that were tested alone.',
    predict: 'After going round: will it meet the line from the left or from the right?',
    script: 'Three pieces: follow until something is near; go round; follow on. Make the middle one a task.',
    scriptHints: [
      'Round it in three straight legs: out, along, back in.',
      'The last leg has no length: it ends when the line is seen.',
      'After the line, turn a little along it before you follow on.',
    ],
    watch: 'Watch where the line is seen again, and which way the tug points there.',
    reflect: 'Which piece failed most often, and how did you test it alone?',
    extend: 'Go round on the other side.',
    homework: 'Draw the three legs with lengths and angles. What changes when the buoy is twice as wide?',
  },
  'guard-the-island': {
    skills: ['searches by a slow sweep', 'watches a border while doing something else'],
    brief:
      'Two tugs on one island, and room for one. Yours waits two seconds with **hands off**, finds the other one and pushes it out, and stays on the island itself.',
    predict: 'How wide is the other tug at 50 cm, in degrees? How fast may the sweep be?',
    script:
      'Wait two seconds. Then for ever: sweep until something is near, push until the border, stop, pause, back off.',
    scriptHints: [
      'A sweep that is too fast passes over the other one between two looks.',
      'The border counts while you sweep as well.',
      'Pause before you reverse.',
    ],
    watch: 'Watch what it sees when it begins to push. Was it the other tug?',
    reflect: 'What was worth more: a faster push, or a slower search?',
    extend: 'Sweep first to the side where the other one was seen last.',
    homework: 'A thing 13 cm wide stands 50 cm away. Draw it to scale and measure its angle.',
  },
  'find-the-beacon': {
    skills: ['turns towards a source by its direction', 'uses raw values and lists of values'],
    brief:
      'A beacon sends infrared light that you cannot see. The lookout tells two things: from **which side** it comes, and how **strong** it is.',
    predict: 'The beacon lies to the right. Is the direction positive or negative?',
    script: 'Turn until the beacon is ahead, drive towards it, correct as you go, and stop when it is near.',
    scriptHints: [
      'No beacon in sight gives no number at all: turn until there is one.',
      'Steer by the direction, as you steered by the edge of the channel.',
    ],
    watch: 'Watch direction and strength together: which of them changes first?',
    reflect: 'Why can strength alone not tell you how far it is?',
    extend: 'Stand still, look five times, and use the middle one of the five.',
    homework: 'Which lamps at home send infrared? Look at one through a phone’s camera, from a distance.',
  },
  'colours-of-the-cargo': {
    skills: ['reads three numbers of one sensor', 'knows which colours are mixed up, and why'],
    brief:
      'The cargo lies on cards: red, green and blue. The sensor gives three numbers, how much of each comes back.\n\nThe largest of them names the colour, *if* it stands over the middle of the card.',
    predict: 'Over a grey card: which of the three numbers is the largest?',
    script:
      'For each card: drive on to it, stop, wait, copy the three numbers, then say which is the largest.',
    scriptHints: [
      'Copy all three **before** you compare: between two looks they change.',
      'At the border of a card it sees a mixture. Stop over the middle.',
    ],
    watch: 'Watch the three numbers as it comes onto a card: how long are they mixed?',
    reflect: 'Which two cards were mixed up, and what would keep them apart?',
    extend: 'Say “no card” when all three numbers are nearly the same.',
    homework: 'Look at a coloured thing under two different lamps. Does its colour change? Do its numbers?',
  },
};
