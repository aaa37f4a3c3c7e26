import { expect, it } from '@jest/globals';
import { buildCourse, familyOf } from '@vigilum/core/course';
import { meaningOf } from './meaning.ts';

it('a sentence is shown where it speaks of', () => {
  const channel = buildCourse(familyOf('channel'));
  const along = meaningOf({ kind: 'stays on track', track: 'left', withinMm: 12, share: 1 }, channel);
  expect(along.bands[0]).toMatchObject({ widthMm: 24 });
  // The left edge of a line that begins straight up the mat lies half its width to the left.
  const mark = channel.marks[0]!;
  const first = mark.kind === 'path' ? mark.points[0]! : { xMm: 0, yMm: 0 };
  expect(along.bands[0]!.points[0]!.xMm).toBeCloseTo(first.xMm - 15, 6);
  expect(meaningOf({ kind: 'ends in', zone: 'berth' }, channel).zones).toHaveLength(1);
  expect(meaningOf({ kind: 'stays on track', track: 'nowhere', withinMm: 1, share: 1 }, channel)).toEqual({
    zones: [],
    bands: [],
  });
  const line = buildCourse(familyOf('stop-line'));
  const band = meaningOf({ kind: 'stops past', landmark: 'near-edge', withinMm: 30 }, line).bands[0]!;
  expect(band.points[0]!.yMm).toBeCloseTo(line.landmarks[0]!.yMm + 15, 6);
});
