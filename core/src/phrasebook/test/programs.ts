import type { Phrasebook } from '../phrases.ts';

const declares = [
  'sensor floor is light on K3',
  'sensor nose is touch on K1',
  'sensor front is distance on K2',
  'sensor gyro is heading on K5',
];

/** Two vocabularies, invented for these tests: what a kit's text language may look like. */
export const pebble: Phrasebook = {
  name: 'Pebble',
  syntax: 'python',
  declares,
  phrases: [
    { pattern: 'roll($speed)', says: 'drive $speed %' },
    { pattern: 'roll_for($speed, $far)', says: 'drive $speed % for $far cm' },
    { pattern: 'lean($amount, $speed)', says: 'steer $amount at $speed %' },
    { pattern: 'spin_right($angle)', says: 'turn right $angle deg' },
    { pattern: 'halt()', says: 'stop' },
    { pattern: 'nap($t)', says: 'wait $t s' },
    { pattern: 'shade()', says: 'floor' },
    { pattern: 'room()', says: 'front' },
    { pattern: 'bumped()', says: 'nose is pressed' },
    { pattern: 'say($what)', says: 'show $what' },
    { pattern: 'hum($pitch, $t)', says: 'beep $pitch Hz for $t s' },
  ],
};
export const brook: Phrasebook = {
  name: 'Brook',
  syntax: 'c',
  declares,
  phrases: [
    { pattern: 'bot.run($speed)', says: 'drive $speed %' },
    { pattern: 'bot.runFor($speed, $t)', says: 'drive $speed % for $t s' },
    { pattern: 'bot.bend($amount, $speed)', says: 'steer $amount at $speed %' },
    { pattern: 'bot.turn($angle)', says: 'turn right $angle deg' },
    { pattern: 'bot.rest()', says: 'stop' },
    { pattern: 'hold($t)', says: 'wait $t ms' },
    { pattern: 'eye.dark()', says: 'floor' },
    { pattern: 'ear.gap()', says: 'front' },
    { pattern: 'horn.hit()', says: 'nose is pressed' },
    { pattern: 'screen.put($what)', says: 'show $what' },
    { pattern: 'note($pitch, $t)', says: 'beep $pitch Hz for $t ms' },
  ],
};

/** A program as it is pasted. */
export interface Pasted {
  what: string;
  book: Phrasebook;
  text: string;
}

export const programs: Pasted[] = [
  {
    what: 'constants take their units from their uses',
    book: pebble,
    text: `SPEED = 30
FAR = 15
PAUSE = 0.5
while True:
    roll(SPEED)
    if room() < FAR:
        halt()
        nap(PAUSE)
        roll_for(-SPEED, FAR)
        spin_right(90)
`,
  },
  {
    what: 'a flag, not, and a global',
    book: pebble,
    text: `found = False
def look():
    global found
    if shade() < 40:
        found = True
while not found:
    roll(25)
    look()
halt()
`,
  },
  {
    what: 'a function with a value, a default and an early return',
    book: pebble,
    text: `def steady(looks=4):
    total = 0
    for i in range(looks):
        if bumped():
            return 0
        total += shade()
        nap(0.1)
    return total / looks

level = steady()
if steady(9) < level:
    hum(600, 0.2)
`,
  },
  {
    what: 'counting loops of every kind',
    book: pebble,
    text: `for i in range(1, 5):
    say(i)
for j in range(0, 10, 2):
    hum(200 + 40 * j, 0.1)
for k in range(5, 0, -1):
    say(k)
for _ in range(3):
    halt()
`,
  },
  {
    what: 'formatted strings and joined ones',
    book: pebble,
    text: `lanes = 0
lanes += 1
say(f"Lanes: {lanes} of {lanes + 1}")
say("room " + str(room()))
print("done", lanes)
`,
  },
  {
    what: 'one of two values',
    book: pebble,
    text: `side = 1 if shade() < 50 else -1
lean(30 * side, 20)
def pick(a, b):
    return a if a > b else b
far = pick(3, 4)
`,
  },
  {
    what: 'a list of readings',
    book: pebble,
    text: `from random import randint
seen = []
for i in range(5):
    seen.append(shade())
    nap(0.1)
say(sum(seen) / len(seen))
if max(seen) - min(seen) > 10:
    say(seen[0])
nap(randint(1, 3))
`,
  },
  {
    what: 'what is not known stands in its place, with all its lines',
    book: pebble,
    text: `roll(30)
for s in sensors:
    s.start()
    nap(1)
try:
    fly(3)
except Crash:
    halt()
class Crab:
    def walk(self):
        roll(20)
x, y = 1, 2
halt()
`,
  },
  {
    what: 'a remainder and whole parts',
    book: pebble,
    text: `n = 0
while n < 10:
    n += 1
    if n % 2 == 0:
        hum(500, 0.1)
    elif n // 3 == 2 and not bumped():
        say("two thirds")
`,
  },
  {
    what: 'a loop that is gone round early, and one with an else',
    book: pebble,
    text: `while True:
    if bumped():
        break
    if shade() < 40:
        continue
    roll(20)
while room() > 20:
    roll(30)
else:
    halt()
`,
  },
  {
    what: 'defines and a main',
    book: brook,
    text: `#include "bot.h"
#define SPEED 35
#define NEAR 12
#define BEAT 250
int main() {
  while (ear.gap() > NEAR) {
    bot.run(SPEED);
    hold(BEAT);
  }
  bot.rest();
  return 0;
}
`,
  },
  {
    what: 'counting from one, by two, and down',
    book: brook,
    text: `void main() {
  for (int i = 1; i <= 4; i++) { screen.put(i); }
  for (int i = 0; i < 9; i += 2) bot.turn(10 * i);
  for (int k = 5; k > 0; k--) { note(300, 100); }
}
`,
  },
  {
    what: 'a numeric flag and a do-while',
    book: brook,
    text: `int found = 0;
int main() {
  do {
    bot.run(20);
    if (eye.dark() < 40) found = 1;
  } while (!found);
  bot.rest();
}
`,
  },
  {
    what: 'a bool function in a question',
    book: brook,
    text: `bool near(int limit) {
  if (ear.gap() < limit) return true;
  return false;
}
int main() {
  if (near(20)) bot.rest();
  else bot.run(30);
  while (!horn.hit()) hold(50);
}
`,
  },
  {
    what: 'a function in the test of a loop has no place',
    book: brook,
    text: `bool near() { return ear.gap() < 20; }
int main() {
  bot.run(30);
  while (!near()) { hold(50); }
  bot.rest();
}
`,
  },
  {
    what: 'a ternary and a default argument',
    book: brook,
    text: `void hop(int fast, int t = 500) { bot.runFor(fast, t); }
int main() {
  int side = eye.dark() > 50 ? 40 : -40;
  int speed;
  speed = ear.gap() > 30 ? 50 : 20;
  bot.bend(side, speed);
  hop(30);
  hop(30, 2);
}
`,
  },
  {
    what: 'every line of a switch, a try and a class',
    book: brook,
    text: `class Crab { void walk() { bot.run(20); } };
int main() {
  switch (mode) {
    case 1: bot.rest(); break;
  }
  try {
    bot.run(20);
  } catch (Crash c) {
    bot.rest();
  }
  goto end;
}
`,
  },
  {
    what: 'a loop that counts in no known way keeps its body',
    book: brook,
    text: `int main() {
  for (int i = 1; i < 100; i *= 2) {
    bot.turn(i);
    bot.rest();
  }
  for (;;) { bot.run(20); if (horn.hit()) break; }
}
`,
  },
  {
    what: 'a follower',
    book: brook,
    text: `float gain = 0.6;
int target = 48;
int main() {
  while (!horn.hit()) {
    float error = eye.dark() - target;
    bot.bend(gain * error, 25);
  }
  bot.rest();
}
`,
  },
  {
    what: 'remarks, blocks in blocks and a remainder',
    book: brook,
    text: `// squares
int n = 0;
int main() {
  /* four
     sides */
  while (n < 4) {
    { bot.runFor(30, 900); bot.turn(90); }
    n++;
    if (n % 2) note(400, 80);
  }
}
`,
  },
];
