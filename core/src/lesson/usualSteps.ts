import { sensorWords } from '../sensing/index.ts';
import type { WayName } from '../threshold/index.ts';
import { needsOfLesson } from './fit.ts';
import type { Lesson } from './lesson.ts';
import { measureFacts, measuresOf } from './measures.ts';
import { stepFacts, type LessonStep, type StepKind } from './steps.ts';

/** What only the author of a lesson can say; the rest of its steps follows from what the lesson is made of. */
export interface LessonWords {
  /** The school of threshold that suits it; the one that the readings speak for when not said. */
  school?: WayName;
  /** What it is about, and why; Markdown. */
  brief: string;
  /** What is asked before the first run. */
  predict: string;
  /** What the script must do, action by action; Markdown. */
  script: string;
  /** Opened one at a time. */
  scriptHints: string[];
  /** What to watch while it runs. */
  watch: string;
  reflect: string;
  extend: string;
  homework: string;
}

const list = (lines: readonly string[]): string => lines.map((line) => `- ${line}`).join('\n');

/** The steps that most lessons take, written out for one lesson. They keep within a period of 50 minutes. */
export function usualSteps(lesson: Lesson, words: LessonWords): LessonStep[] {
  const needs = needsOfLesson(lesson);
  const { tasks, burst } = lesson.read;
  const measures = measuresOf(lesson).map((measure) => measureFacts[measure]);
  const step = (kind: StepKind, title: string, given: Partial<LessonStep>): LessonStep => ({
    id: kind,
    kind,
    title,
    text: '',
    minutes: stepFacts[kind].minutes,
    expects: '',
    hints: [],
    cautions: [],
    ...given,
  });
  const surfaces = tasks.map(({ surface }) => surface);
  return [
    step('brief', 'What it is about', {
      text: `${lesson.aim}\n\n${words.brief}`,
      expects: 'everybody can say what the robot is to do',
      cautions: lesson.cautions,
    }),
    step('wire', needs.length === 1 ? 'Fit the sensor' : 'Fit the sensors', {
      text: `Push each plug home and look at its number here **before** you write anything.\n\n${list(
        needs.map(({ name, kind, socket }) => `**${socket}**: ${sensorWords[kind]}, called “${name}”`),
      )}`,
      expects: 'the number changes when you make it change',
      hints: [
        'Nothing changes? Pull the plug, push it home, look again.',
        'Is it the right sensor, set to the right mode?',
      ],
    }),
    ...(tasks.length > 0
      ? [
          step('read', `Read the ${surfaces.join(' and the ')}`, {
            text: `Somebody else’s number is no good: your floor, your light and your robot decide. Take ${burst} looks at each.`,
            expects: `${tasks.length === 1 ? 'the surface is' : 'both surfaces are'} read, and they differ`,
            hints: ['Do the numbers jump? Hold the robot still and take the looks again.'],
          }),
          step('decide', 'Decide where the one ends', {
            text: `From which number on is it the **${surfaces[0]}**? Choose a way, and see how safe it is.`,
            expects: 'one threshold is in use, with room on both sides',
            hints: ['Add both means, divide by two: that is halfway.'],
            ...(words.school ? { part: { school: words.school } } : {}),
          }),
        ]
      : []),
    step('script', 'Write it step by step', {
      text: words.script,
      expects: 'nothing speaks against running it',
      hints: words.scriptHints,
    }),
    step('predict', 'Say it first', {
      text: words.predict,
      expects: 'a number is written down before the first run',
    }),
    step('try', 'Try it', {
      text: `${words.watch}\n\nChange **one** thing, then run again.`,
      expects: 'a run does what was meant, and you know why',
      hints: ['Stop the time bar where it goes wrong: which step is running, what does the sensor say?'],
    }),
    step('prove', 'Prove it', {
      text: 'Passing once is not working. It has to hold from other starts, in other light, on another day.',
      expects: 'it is proved, or you can say what breaks it',
      hints: ['Replay the worst run first: it shows the most.'],
    }),
    ...(lesson.floor.trials > 0
      ? [
          step('floor', 'On the floor', {
            text: `${lesson.floor.trials} trials with the real robot. ${
              measures.length > 0
                ? `Measure by ${[...new Set(measures.map(({ tool }) => tool))].join(' and ')}, write every one down, the bad ones too.`
                : 'Take the time, write every one down, the bad ones too.'
            }`,
            expects: `${lesson.floor.trials} trials are logged`,
            hints: [
              'Is it another number than in the simulator? Read the surfaces again before you change the script.',
            ],
          }),
        ]
      : []),
    step('reflect', 'What did you find out?', {
      text: words.reflect,
      expects: 'one sentence in your own words',
    }),
    step('extend', 'Done early?', { text: words.extend, minutes: 0 }),
    step('homework', 'At home', { text: words.homework }),
  ];
}
