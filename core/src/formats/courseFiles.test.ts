import { describe, expect, it } from '@jest/globals';
import { buildCourse, courseFamilies, familyOf } from '../course/index.ts';
import {
  courseFromDrawing,
  courseSvg,
  guessColumn,
  logHead,
  readRunLog,
  type DrawnShape,
  type LogColumn,
} from './index.ts';

/** The shapes of an SVG that Vigilum wrote, read without a browser. */
const shapesOf = (svg: string): DrawnShape[] =>
  [...svg.matchAll(/<(rect|circle|polyline|polygon|g) ([^>]*?)\/?>/g)].map(([, name, text]) => ({
    name: name!,
    attributes: Object.fromEntries(
      [...text!.matchAll(/([\w-]+)="([^"]*)"/g)].map(([, key, value]) => [key, value]),
    ),
  }));

describe('a course as a drawing', () => {
  it('says its true size, one unit a millimetre, and harms no reader by its names', () => {
    const course = { ...buildCourse(familyOf('channel')), name: 'A & B <script>"' };
    const svg = courseSvg(course);
    expect(svg).toContain(`width="${Number(course.widthMm.toFixed(2))}mm"`);
    expect(svg).toContain(`viewBox="0 0 ${Number(course.widthMm.toFixed(2))}`);
    expect(svg).not.toMatch(/<script>/);
  });

  it.each(courseFamilies.map((family) => [family.name, family] as const))(
    '%s: marks, walls and starts come back',
    (_, family) => {
      const course = buildCourse(family);
      const { course: back } = courseFromDrawing(course.name, course, shapesOf(courseSvg(course)));
      const round = (value: unknown) =>
        JSON.parse(
          JSON.stringify(value, (__, v: unknown) => (typeof v === 'number' ? Math.round(v) : v)),
        ) as unknown;
      expect(round(back.starts)).toEqual(round(course.starts));
      expect(back.marks.map((m) => m.kind)).toEqual(course.marks.map((m) => m.kind));
      expect(round(back.walls ?? [])).toEqual(
        round((course.walls ?? []).map(({ from, to }) => ({ from, to }))),
      );
      expect(back.marks.map((m) => m.surface.reflectance)).toEqual(
        course.marks.map((m) => m.surface.reflectance),
      );
    },
  );

  it('leaves out what it cannot take, each with its reason', () => {
    const { course, problems } = courseFromDrawing('x', { widthMm: 300, heightMm: 200 }, [
      { name: 'path', attributes: { d: 'M0 0' } },
      { name: 'rect', attributes: { width: 'wide', height: '5', fill: '#000000' } },
      { name: 'rect', attributes: { width: '50', height: '5', fill: 'url(#g)' } },
      { name: 'circle', attributes: { cx: '1e99', cy: '0', r: '4', fill: '#000000' } },
      {
        name: 'line',
        attributes: { x1: '0', y1: '0', x2: '100', y2: '0', stroke: '#202020', 'stroke-width': '12' },
      },
    ]);
    expect(problems).toHaveLength(4);
    expect(course.marks).toEqual([
      expect.objectContaining({ kind: 'stripe', widthMm: 12, from: { xMm: 0, yMm: 200 } }),
    ]);
    expect(course.starts).toHaveLength(1);
  });
});

describe('a real robot’s log', () => {
  const sockets = [
    { socket: 'K3', unit: '%' as const },
    { socket: 'K2', unit: 'cm' as const },
  ];
  const mapped = (names: string[]) => names.map((name) => guessColumn(name, sockets));

  it('guesses what columns are, whatever they are called', () => {
    expect(mapped(['time_ms', 't [s]', 'x_mm', 'K3 light', 'K2 (in)', 'heading deg', 'remark'])).toEqual([
      { as: 'time', unit: 'ms' },
      { as: 'time', unit: 's' },
      { as: 'signal', signal: 'x', unit: 'mm', target: 'mm' },
      { as: 'signal', signal: 'K3', unit: '%', target: '%' },
      { as: 'signal', signal: 'K2', unit: 'in', target: 'cm' },
      { as: 'signal', signal: 'turned', unit: 'deg', target: 'deg' },
      { as: 'nothing' },
    ]);
  });

  it('turns units into the signal’s own, times into seconds from the first row, gaps into no reading', () => {
    const text = 'time_ms;K2 (in);K3\n1000;10;75\n1100;;74,5\n1250;8;none\n';
    const read = readRunLog(text, mapped(['time_ms', 'K2 (in)', 'K3']));
    if (!read.ok) throw new Error(read.says);
    expect([...read.value.timesS].map((t) => Math.round(t * 1000))).toEqual([0, 100, 250]);
    expect(read.value.signals.K2!.values[0]).toBeCloseTo(25.4, 4);
    expect(read.value.signals.K2!.values[1]).toBeNaN();
    expect(read.value.signals.K3!.values[1]).toBeCloseTo(74.5, 4);
    expect(read.value.signals.K3!.values[2]).toBeNaN();
  });

  it.each<[string, string, LogColumn[], RegExp]>([
    ['no rows', 't,x\n', mapped(['t', 'x']), /no rows/],
    ['no time', 'a,x\n1,2\n', mapped(['a', 'x']), /No column is the time/],
    ['no signal', 't,b\n1,2\n', mapped(['t', 'b']), /No column is a signal/],
    [
      'a time that goes back',
      't,x\n1,2\n0.5,3\n',
      mapped(['t', 'x']),
      /Line 3: the time does not go forward/,
    ],
    ['a word', 't,x\n1,far\n', mapped(['t', 'x']), /Line 2: “far” is no number/],
    ['one signal twice', 't,x,x\n1,2,3\n', mapped(['t', 'x', 'x']), /Two columns/],
    ['an open quotation mark', 't,x\n1,"2\n', mapped(['t', 'x']), /Line 2/],
  ])('%s: refused with one sentence', (_, text, columns, says) => {
    const read = readRunLog(text, columns);
    expect(read.ok ? '' : read.says).toMatch(says);
  });

  it('is bounded', () => {
    const long = logHead(`t,x\n${'1,2\n'.repeat(20_001)}`);
    expect(long.ok ? '' : long.says).toContain('20000 rows');
  });
});
