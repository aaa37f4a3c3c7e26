import type { NewSeries } from '@vigilum/contract/types';

/** Skills that a shipped lesson comes after, where its own do not say so. */
export const harbourNeeds: Readonly<Record<string, readonly string[]>> = {
  'first-watch': [],
  'bump-and-turn': ['loops'],
  'stop-short': ['loops'],
  'back-off-five': ['stops'],
  'hold-a-bearing': ['loops'],
  'tide-line': ['loops'],
  'count-the-lanes': ['decides'],
  'follow-the-channel': ['decides'],
  'piers-edge': ['decides'],
  'round-the-buoy': ['follows'],
  'colours-of-the-cargo': ['reads-first'],
  'look-both-ways': ['stops'],
  'through-the-basin': ['compares'],
  'harbour-rules': ['follows'],
  'find-the-beacon': ['loops'],
  'guard-the-island': ['decides', 'stops'],
};

/** The sixteen lessons of the harbour year in three series; each has what its lessons need from itself or from the one before. */
export const harbourSeries: readonly (NewSeries & { shipped: string })[] = [
  {
    shipped: 'first-steps',
    name: 'First steps',
    aim: 'Touch, distance and heading: wait for something, stop in time, turn by a sensor.',
    lessons: ['first-watch', 'bump-and-turn', 'stop-short', 'back-off-five', 'hold-a-bearing'],
  },
  {
    shipped: 'lines-and-edges',
    name: 'Lines and edges',
    aim: 'Light: read before programming, decide with margin, count, follow, keep on the table.',
    lessons: ['tide-line', 'count-the-lanes', 'follow-the-channel', 'piers-edge', 'round-the-buoy'],
  },
  {
    shipped: 'deciding-together',
    name: 'Deciding and together',
    aim: 'Colours, comparing, several rules in one loop, two robots on one mat.',
    lessons: [
      'colours-of-the-cargo',
      'look-both-ways',
      'through-the-basin',
      'harbour-rules',
      'find-the-beacon',
      'guard-the-island',
    ],
  },
];
