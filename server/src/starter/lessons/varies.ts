import type { Twist } from '@vigilum/core/lesson';
import { card, number } from './parameters.ts';
import { harbourTwists } from './twists.ts';

/** What differs from team to team differs from run to run as well. */
const asTwisted = (slug: string): Twist => harbourTwists[slug]!.twist;

/** What differs from run to run of a proof, by lesson: a typed answer, or a way known by heart, fits one run and not the next. */
export const harbourVaries: Record<string, Twist> = {
  'first-watch': {
    parameters: [
      number('first', 'first press', 's', 1.5, 2.5, 0.1, 2),
      number('second', 'held the second time', 's', 0.5, 1.5, 0.1, 1),
      number('third', 'held the third time', 's', 0.5, 1.5, 0.1, 1),
    ],
    constraints: [],
    bindings: [
      { at: '/course/presses/0/fromS', value: 'first' },
      { at: '/course/presses/0/toS', value: 'first + 0.4' },
      { at: '/course/presses/1/toS', value: '5 + second' },
      { at: '/course/presses/2/toS', value: '8 + third' },
      { at: '/expectations/0/seconds', value: 'first + 0.1' },
    ],
  },
  'bump-and-turn': asTwisted('bump-and-turn'),
  'stop-short': {
    parameters: [number('way', 'way up to the quay', 'cm', 80, 120, 5, 100)],
    constraints: [],
    family: { id: 'quay', values: { distanceMm: '10 * way' } },
    bindings: [],
  },
  'back-off-five': {
    // Where it begins near the quay it stops elsewhere: whoever backs off to a place is found out.
    parameters: [
      number('way', 'way up to the quay', 'cm', 70, 110, 5, 80),
      number('near', 'begins near the quay (0 or 1)', '', 0, 1, 1, 0),
    ],
    constraints: [],
    family: { id: 'quay', values: { distanceMm: '10 * way * (1 - near) + 180 * near' } },
    bindings: [],
  },
  'count-the-lanes': {
    parameters: [
      number('lanes', 'dark lanes', '', 3, 7, 1, 5),
      number('yachts', 'coloured lanes', '', 1, 3, 1, 2),
      number('apart', 'from lane to lane', 'mm', 100, 140, 10, 110),
    ],
    constraints: ['yachts < lanes'],
    family: { id: 'lanes', values: { lines: 'lanes', rivals: 'yachts', apartMm: 'apart' } },
    bindings: [
      { at: '/expectations/0/count', value: 'lanes' },
      { at: '/timeLimitS', value: '20 + 3 * (lanes + yachts)' },
    ],
  },
  'follow-the-channel': asTwisted('follow-the-channel'),
  'piers-edge': {
    parameters: [number('long', 'length of the pier', 'cm', 130, 150, 5, 150)],
    constraints: [],
    family: { id: 'pier', values: { lengthMm: '10 * long' } },
    bindings: [],
  },
  'look-both-ways': {
    parameters: [
      number('short', 'short way', 'cm', 36, 66, 2, 42),
      number('long', 'long way', 'cm', 56, 130, 2, 105),
    ],
    constraints: ['long > short + 14'],
    family: { id: 'fork', values: { shortMm: '10 * short', longMm: '10 * long' } },
    bindings: [],
  },
  'through-the-basin': asTwisted('through-the-basin'),
  'harbour-rules': {
    parameters: [
      number('place', 'ferry: 1 halfway, 2 at the green card', '', 1, 2, 1, 1),
      number('leaves', 'ferry leaves after', 's', 8, 10, 0.5, 9),
    ],
    constraints: [],
    family: {
      id: 'fairway',
      values: {
        ferryMm: '620 + 483 * (place - 1)',
        comesS: '1',
        leavesS: 'leaves + 8 * (place - 1)',
      },
    },
    bindings: [],
  },
  'round-the-buoy': asTwisted('round-the-buoy'),
  'guard-the-island': {
    parameters: [number('pace', 'speed of the other robot, mm a second', '', 0, 10, 5, 5)],
    constraints: [],
    family: { id: 'island', values: { speedMm: 'pace' } },
    bindings: [],
  },
  'find-the-beacon': asTwisted('find-the-beacon'),
  'colours-of-the-cargo': {
    parameters: [card('one', 'red'), card('two', 'green'), card('three', 'blue')],
    constraints: ['one <> two', 'two <> three', 'one <> three'],
    family: { id: 'cargo', values: { apartMm: '150', first: 'one', second: 'two', third: 'three' } },
    bindings: [
      { at: '/expectations/0/texts/0', value: 'one' },
      { at: '/expectations/0/texts/1', value: 'two' },
      { at: '/expectations/0/texts/2', value: 'three' },
      { at: '/expectations/1/text', value: 'three' },
    ],
  },
};
