import type { LessonWords, Twist } from '@vigilum/core/lesson';
import { card, number } from './parameters.ts';

interface Twisted {
  /** The aim with the parameter in it. */
  aim?: string;
  brief?: [from: string, to: string];
  /** Other words that name the parameter. */
  words?: Partial<Pick<LessonWords, 'predict' | 'script' | 'watch'>>;
  /** What the parameter takes the place of in model answer, expectations and typical faults. */
  replace?: [from: string, to: string][];
  twist: Twist;
}

/** What differs from team to team, by lesson. */
export const harbourTwists: Record<string, Twisted> = {
  'stop-short': {
    aim: 'The tug drives up to the quay and stops {gap} cm short of it.',
    brief: ['**15 cm** short', '**{gap} cm** short'],
    twist: {
      parameters: [
        number('gap', 'gap to the quay', 'cm', 10, 24, 1, 15),
        number('way', 'way up to the quay', 'cm', 80, 120, 5, 100),
      ],
      constraints: ['way > 4 * gap'],
      family: { id: 'quay', values: { distanceMm: '10 * way' } },
      bindings: [
        { at: '/expectations/0/gapMm', value: '10 * gap' },
        { at: '/robot/thresholds/K2', value: 'gap + 3' },
      ],
      levels: [
        { says: 'much room', ranges: { gap: { from: 18, to: 24 } } },
        { says: 'less room', ranges: { gap: { from: 13, to: 17 } } },
        { says: 'little room', ranges: { gap: { from: 10, to: 12 } } },
      ],
    },
  },
  'back-off-five': {
    aim: 'The tug stops short of the quay and then backs off by {back} inches, wherever it stopped.',
    brief: ['“Back off by five inches.”', '“Back off by {back} inches.”'],
    replace: [['rises by 5 in', 'rises by {back} in']],
    twist: {
      parameters: [number('back', 'way back', 'in', 3, 7, 1, 5)],
      constraints: [],
      bindings: [{ at: '/expectations/0/byMm', value: 'round(25.4 * back + 3)' }],
    },
  },
  'count-the-lanes': {
    twist: {
      parameters: [
        number('lanes', 'dark lanes', '', 3, 7, 1, 5),
        number('yachts', 'coloured lanes', '', 1, 3, 1, 2),
      ],
      constraints: ['lanes + yachts < 10', 'yachts < lanes'],
      family: { id: 'lanes', values: { lines: 'lanes', rivals: 'yachts' } },
      bindings: [
        { at: '/expectations/0/count', value: 'lanes' },
        { at: '/timeLimitS', value: '20 + 3 * (lanes + yachts)' },
      ],
    },
  },
  'bump-and-turn': {
    twist: {
      parameters: [number('wide', 'width of the boathouse', 'cm', 130, 180, 10, 150)],
      constraints: [],
      family: { id: 'boathouse', values: { widthMm: '10 * wide' } },
      bindings: [],
    },
  },
  'tide-line': {
    twist: {
      parameters: [
        number('wide', 'width of the line', 'mm', 20, 28, 2, 24),
        number('way', 'way up to the line', 'cm', 36, 60, 3, 42),
      ],
      constraints: ['way > 10 + wide'],
      bindings: [
        { at: '/expectations/0/withinMm', value: 'wide' },
        { at: '/course/marks/0/widthMm', value: 'wide' },
        { at: '/course/marks/0/from/yMm', value: '150 + 10 * way + wide / 2' },
        { at: '/course/marks/0/to/yMm', value: '150 + 10 * way + wide / 2' },
        { at: '/course/landmarks/0/yMm', value: '150 + 10 * way' },
        { at: '/course/heightMm', value: '500 + 10 * way + wide' },
      ],
    },
  },
  'follow-the-channel': {
    twist: {
      parameters: [
        number('gentle', 'radius of the gentle bend', 'cm', 34, 50, 2, 40),
        number('straight', 'first straight', 'cm', 30, 60, 5, 45),
      ],
      constraints: [],
      family: { id: 'channel', values: { gentleMm: '10 * gentle', straightMm: '10 * straight' } },
      bindings: [],
    },
  },
  'hold-a-bearing': {
    aim: 'The tug turns by {angle}° to the right without overshooting and then holds that bearing.',
    replace: [
      ['88', '{angle - 2}'],
      ['90', '{angle}'],
      ['95', '{angle + 5}'],
      ['85', '{angle - 5}'],
      ['turned > 80', 'turned > {angle - 10}'],
      ['turned 80°', 'turned {angle - 10}°'],
    ],
    twist: {
      parameters: [number('angle', 'bearing', 'deg', 60, 120, 5, 90)],
      constraints: [],
      bindings: [{ at: '/expectations/0/deg', value: 'angle' }],
    },
  },
  'look-both-ways': {
    twist: {
      parameters: [
        number('short', 'short way', 'cm', 36, 50, 2, 42),
        number('long', 'long way', 'cm', 90, 130, 5, 105),
      ],
      constraints: ['long > 2 * short'],
      family: { id: 'fork', values: { shortMm: '10 * short', longMm: '10 * long' } },
      bindings: [],
    },
  },
  'through-the-basin': {
    twist: {
      parameters: [
        number('mirrored', 'mirrored (0 or 1)', '', 0, 1, 1, 0),
        number('cell', 'width of the way', 'mm', 410, 440, 10, 420),
      ],
      constraints: [],
      family: { id: 'basin', values: { mirrored: 'mirrored', cellMm: 'cell' } },
      bindings: [],
    },
  },
  'harbour-rules': {
    twist: {
      parameters: [
        number('comes', 'ferry comes', 's', 0.5, 1, 0.1, 1),
        number('leaves', 'ferry leaves', 's', 8, 9.5, 0.5, 9),
      ],
      constraints: ['leaves > comes + 6'],
      family: { id: 'fairway', values: { comesS: 'comes', leavesS: 'leaves' } },
      bindings: [],
    },
  },
  'guard-the-island': {
    twist: {
      parameters: [number('pace', 'speed of the other robot, mm a second', '', 20, 35, 5, 30)],
      constraints: [],
      family: { id: 'island', values: { speedMm: 'pace' } },
      bindings: [],
    },
  },
  'find-the-beacon': {
    twist: {
      parameters: [
        number('far', 'beacon, ahead', 'cm', 90, 130, 5, 115),
        number('aside', 'beacon, to the right', 'cm', 20, 60, 5, 50),
      ],
      constraints: ['aside < far'],
      family: { id: 'beacon', values: { distanceMm: '10 * far', asideMm: '10 * aside' } },
      bindings: [],
    },
  },
  'first-watch': {
    words: {
      predict:
        'The button is pressed at 5 s and held for {hold} s. What does the tug do at 5.5 s, and at {6 + hold} s?',
    },
    twist: {
      parameters: [
        number('first', 'first press', 's', 1.5, 2.5, 0.1, 2),
        number('hold', 'held for', 's', 0.7, 1.5, 0.1, 1),
      ],
      constraints: [],
      bindings: [
        { at: '/course/presses/0/fromS', value: 'first' },
        { at: '/course/presses/0/toS', value: 'first + 0.4' },
        ...[5, 8, 11].map((at, i) => ({ at: `/course/presses/${i + 1}/toS`, value: `${at} + hold` })),
        { at: '/expectations/0/seconds', value: 'first + 0.1' },
      ],
    },
  },
  'round-the-buoy': {
    twist: {
      parameters: [number('at', 'buoy, from the start', 'cm', 56, 74, 2, 62)],
      constraints: [],
      family: { id: 'buoy', values: { buoyAtMm: '10 * at' } },
      bindings: [],
    },
  },
  'colours-of-the-cargo': {
    twist: {
      parameters: [card('first', 'red'), card('second', 'green'), card('third', 'blue')],
      constraints: ['first <> second', 'second <> third', 'first <> third'],
      family: { id: 'cargo', values: { apartMm: '150', first: 'first', second: 'second', third: 'third' } },
      bindings: [],
    },
  },
  'piers-edge': {
    twist: {
      parameters: [number('long', 'length of the pier', 'cm', 140, 170, 5, 150)],
      constraints: [],
      family: { id: 'pier', values: { lengthMm: '10 * long' } },
      bindings: [],
    },
  },
};
