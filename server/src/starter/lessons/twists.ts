import type { Twist } from '@vigilum/core/lesson';

interface Twisted {
  /** The aim with the parameter in it. */
  aim?: string;
  brief?: [from: string, to: string];
  /** What the parameter takes the place of in the model answer. */
  script?: [from: string, to: string];
  twist: Twist;
}

/** What differs from team to team, by lesson. */
export const harbourTwists: Record<string, Twisted> = {
  'stop-short': {
    aim: 'The tug drives up to the quay and stops {gap} cm short of it.',
    brief: ['**15 cm** short', '**{gap} cm** short'],
    twist: {
      parameters: [
        {
          is: 'number',
          name: 'gap',
          says: 'gap to the quay',
          unit: 'cm',
          from: 10,
          to: 24,
          step: 1,
          usual: 15,
        },
        {
          is: 'number',
          name: 'way',
          says: 'way up to the quay',
          unit: 'cm',
          from: 80,
          to: 120,
          step: 5,
          usual: 100,
        },
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
    script: ['rises by 5 in', 'rises by {back} in'],
    twist: {
      parameters: [
        { is: 'number', name: 'back', says: 'way back', unit: 'in', from: 3, to: 7, step: 1, usual: 5 },
      ],
      constraints: [],
      bindings: [{ at: '/expectations/0/byMm', value: 'round(25.4 * back + 3)' }],
    },
  },
  'count-the-lanes': {
    twist: {
      parameters: [
        { is: 'number', name: 'lanes', says: 'dark lanes', unit: '', from: 3, to: 7, step: 1, usual: 5 },
        { is: 'number', name: 'yachts', says: 'coloured lanes', unit: '', from: 1, to: 3, step: 1, usual: 2 },
      ],
      constraints: ['lanes + yachts < 10', 'yachts < lanes'],
      family: { id: 'lanes', values: { lines: 'lanes', rivals: 'yachts' } },
      bindings: [
        { at: '/expectations/0/count', value: 'lanes' },
        { at: '/timeLimitS', value: '11 + 2 * (lanes + yachts)' },
        { at: '/expectations/6/seconds', value: '6 + 2 * (lanes + yachts)' },
      ],
    },
  },
};
