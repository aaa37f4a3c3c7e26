import { sensorWords } from '../sensing/index.ts';
import type { MethodName } from '../threshold/index.ts';
import { needsOfLesson } from './fit.ts';
import type { Lesson, ReadTask } from './lesson.ts';
import { measureFacts, measuresOf } from './measures.ts';
import { decideWayOf, readWayOf, sensorAt, tasksAt, type ReadWay } from './reading.ts';
import { stepFacts } from './steps.ts';
import { type LessonStep, type StepKind } from './lesson.ts';

/** What a read step and the decision after it say, where that is not the usual. */
export interface ReadWords extends Partial<
  Pick<LessonStep, 'title' | 'text' | 'minutes' | 'expects' | 'hints'>
> {
  /** The sensor; the lesson’s first when not said. */
  socket?: string;
  tasks?: ReadTask[];
  at?: number[];
  /** A decision that follows it: the usual one, or one with words of its own; none when not said. */
  decides?: true | Partial<LessonStep>;
}

/** What only the author of a lesson can say; the rest of its steps follows from what the lesson is made of. */
export interface LessonWords {
  /** The method of threshold that suits it; the one that the readings speak for when not said. */
  method?: MethodName;
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
  /** What is read before programming; what the lesson’s sensors call for when not said. */
  reads?: ReadWords[];
  /** What differs from the usual steps, by their kind. */
  steps?: Partial<Record<StepKind, Partial<Pick<LessonStep, 'title' | 'minutes' | 'expects' | 'hints'>>>>;
}

const list = (lines: readonly string[]): string => lines.map((line) => `- ${line}`).join('\n');

const written = (kind: StepKind, title: string, given: Partial<LessonStep>): LessonStep => ({
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

/** What is read when the author does not say: the lesson’s surfaces, or its first sensor in the way of its kind. */
function readsOf(lesson: Lesson, words: LessonWords): ReadWords[] {
  if (words.reads) return words.reads;
  if (lesson.read.tasks.length > 0) {
    const light = needsOfLesson(lesson).find(({ kind }) => kind === 'light');
    return [{ ...(light && light !== lesson.need ? { socket: light.socket } : {}), decides: true }];
  }
  const way = readWayOf(lesson.need.kind);
  if (way === 'surfaces' || way === null) return [];
  const decides = decideWayOf(lesson.need.kind) !== null && /\bthreshold\b/.test(lesson.modelScript);
  return [decides ? { decides } : {}];
}

/** A read step in the words that its kind of sensor calls for, and the decision that rests on it. */
function readSteps(
  lesson: Lesson,
  words: LessonWords,
  { socket, tasks: own, at, decides, ...said }: ReadWords,
  nth: number,
): LessonStep[] {
  const ids = (kind: StepKind) => (nth === 0 ? kind : `${kind}-${nth + 1}`);
  const sensor = socket === undefined ? {} : { socket };
  const part = { ...sensor, ...(own ? { tasks: own } : {}), ...(at ? { at } : {}) };
  const read = written('read', '', { id: ids('read'), ...(Object.keys(part).length > 0 ? { part } : {}) });
  const need = sensorAt(lesson, read);
  const surfaces = tasksAt(lesson, read).map(({ surface }) => surface);
  const usual: Record<ReadWay, Partial<LessonStep>> = {
    surfaces: {
      title: `Read the ${surfaces.slice(0, 2).join(' and the ')}${surfaces.length > 2 ? ' …' : ''}`,
      text: `Somebody else’s number is no good: your floor, your light and your robot decide. Take ${lesson.read.burst} looks at each.`,
      expects:
        surfaces.length === 2
          ? 'both surfaces are read, and they differ'
          : 'each is read, and no two are mixed up',
      hints: ['Do the numbers jump? Hold the robot still and take the looks again.'],
    },
    ruler: {
      title: 'Read it against the ruler',
      text: 'Hold a flat wall at each distance, measured from the sensor’s face. What does it say, and how far off is it?',
      expects: 'every distance is read, and you know how far off the number is',
      hints: ['No number at all? The wall is too near, too far, or stands at a slant.'],
    },
    turns: {
      title: 'Turn it by hand',
      text: 'Note where it starts, turn the robot along a set square, note what it says. Once each way.',
      expects: 'a known turn each way, and what it reads',
      hints: ['Does the number creep while it stands? Leave it still for five seconds, then zero it.'],
    },
    presses: {
      title: 'Press it and let go',
      text: 'Record, then press and let go three times: once short, once long, once gently. When does the number change?',
      expects: 'three bumps are counted, no more and no fewer',
      minutes: 3,
      hints: ['Too many bumps? The plug is loose, or the contact chatters.'],
    },
  };
  const way = readWayOf(need.kind) ?? 'surfaces';
  const gap = decideWayOf(need.kind) === 'gap';
  return [
    { ...read, ...usual[way], ...said },
    ...(decides
      ? [
          written('decide', gap ? 'Decide where it must stop' : 'Decide on a threshold', {
            id: ids('decide'),
            text: gap
              ? 'Between “near enough” and standing still it travels on. Take the gap that you want, and put that way on top.'
              : `From which number on is it the **${surfaces[0]}**? Choose a way, and see how safe it is.`,
            expects: gap
              ? 'one threshold is in use, and it is more than the gap'
              : 'one threshold is in use, with room on both sides',
            hints: [
              gap
                ? 'Half the speed needs half the way. Which speed will your script have?'
                : 'Add both means, divide by two: that is halfway.',
            ],
            ...(socket !== undefined || (words.method && !gap)
              ? { part: { ...sensor, ...(words.method && !gap ? { method: words.method } : {}) } }
              : {}),
            ...(decides === true ? {} : decides),
          }),
        ]
      : []),
  ];
}

/** The steps that most lessons take, written out for one lesson. They keep within a period of 50 minutes. */
export function usualSteps(lesson: Lesson, words: LessonWords): LessonStep[] {
  const needs = needsOfLesson(lesson);
  const measures = measuresOf(lesson).map((measure) => measureFacts[measure]);
  const step = (kind: StepKind, title: string, given: Partial<LessonStep>): LessonStep =>
    written(kind, title, { ...given, ...words.steps?.[kind] });
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
    ...readsOf(lesson, words).flatMap((read, nth) => readSteps(lesson, words, read, nth)),
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
