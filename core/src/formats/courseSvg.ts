import { cornersOf, middleLine, type Course, type Mark, type Point, type Surface } from '../course/index.ts';

const escape = (text: string): string => text.replace(/[&<>"']/g, (sign) => `&#${sign.charCodeAt(0)};`);
const n = (value: number): string => String(Number(value.toFixed(2)));

/** A surface as a colour: its own, or a grey that sends back as much light. */
export function surfaceHex({ colour, reflectance }: Surface): string {
  const grey = reflectance <= 0.0031308 ? 12.92 * reflectance : 1.055 * reflectance ** (1 / 2.4) - 0.055;
  const channels = colour ?? [grey, grey, grey];
  return `#${channels
    .map((channel) =>
      Math.round(255 * Math.min(1, Math.max(0, channel)))
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`;
}

/** What is printed of a mark: one SVG element in mm, y downwards. */
function markSvg(mark: Mark, up: (p: Point) => [number, number]): string {
  const fill = surfaceHex(mark.surface);
  const about = `data-surface="${escape(mark.surface.name)}" data-reflectance="${n(mark.surface.reflectance)}"`;
  const line = middleLine(mark);
  if (line && 'widthMm' in mark) {
    const points = line.map((p) => up(p).map(n).join(',')).join(' ');
    const cap = mark.kind === 'stripe' ? 'butt' : 'round';
    return `<polyline ${about} points="${points}" fill="none" stroke="${fill}" stroke-width="${n(mark.widthMm)}" stroke-linecap="${cap}" stroke-linejoin="round"/>`;
  }
  if (mark.kind === 'rectangle') {
    const [x, y] = up({ xMm: mark.corner.xMm, yMm: mark.corner.yMm + mark.heightMm });
    return `<rect ${about} x="${n(x)}" y="${n(y)}" width="${n(mark.widthMm)}" height="${n(mark.heightMm)}" fill="${fill}"/>`;
  }
  if (mark.kind !== 'disc') return '';
  const [cx, cy] = up(mark.centre);
  return `<circle ${about} cx="${n(cx)}" cy="${n(cy)}" r="${n(mark.radiusMm)}" fill="${fill}"/>`;
}

/** What lies on a course as SVG elements, one user unit a millimetre, y downwards; without the sheet around it. */
export function courseShapes(course: Course): string {
  const up = ({ xMm, yMm }: Point): [number, number] => [xMm, course.heightMm - yMm];
  const points = (list: readonly Point[]) => list.map((p) => up(p).map(n).join(',')).join(' ');
  const parts = course.marks.map((mark) => markSvg(mark, up));
  for (const { from, to } of course.walls ?? [])
    parts.push(
      `<polyline data-wall="1" points="${points([from, to])}" fill="none" stroke="#17232d" stroke-width="3"/>`,
    );
  for (const box of course.boxes ?? []) {
    const [x, y] = up(box);
    parts.push(
      box.round
        ? `<circle data-box="${escape(box.name)}" cx="${n(x)}" cy="${n(y)}" r="${n(box.widthMm / 2)}" fill="none" stroke="#17232d" stroke-width="1"/>`
        : `<polygon data-box="${escape(box.name)}" points="${points(cornersOf(box))}" fill="none" stroke="#17232d" stroke-width="1"/>`,
    );
  }
  for (const start of course.starts) {
    const [x, y] = up(start);
    parts.push(
      `<g data-start="${escape(start.name)}" transform="translate(${n(x)} ${n(y)}) rotate(${n(start.bearingDeg)})"><path d="M0 6V-14M-5 -8L0 -14L5 -8" fill="none" stroke="#0d5560" stroke-width="1.5"/><text x="8" y="4" font-size="12" fill="#0d5560">${escape(start.name)}</text></g>`,
    );
  }
  return parts.filter(Boolean).join('\n');
}

/** A course as an SVG of its true size: one user unit is one millimetre (SVG 1.1, sections 7.7 to 7.10). */
export function courseSvg(course: Course): string {
  const [w, h] = [n(course.widthMm), n(course.heightMm)];
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${w}mm" height="${h}mm" viewBox="0 0 ${w} ${h}">
<title>${escape(course.name)}</title>
<rect data-base="${escape(course.base.name)}" data-reflectance="${n(course.base.reflectance)}" width="${w}" height="${h}" fill="${surfaceHex(course.base)}"/>
${courseShapes(course)}
</svg>
`;
}

/** An element of a drawing as read: its name and its attributes. */
export interface DrawnShape {
  name: string;
  attributes: Readonly<Record<string, string>>;
}

/** Most shapes taken from a drawing. */
const MOST_SHAPES = 200;

/** A colour in hex as channels 0–1; null for what is none. */
function channelsOf(colour: string | undefined): [number, number, number] | null {
  const hex = /^#([0-9a-f]{6})$/i.exec(colour?.trim() ?? '')?.[1];
  if (!hex) return null;
  return [0, 2, 4].map((i) => parseInt(hex.slice(i, i + 2), 16) / 255) as [number, number, number];
}

/** How much light a look sends back: its luminance (IEC 61966-2-1). */
function reflectanceOf(look: readonly [number, number, number]): number {
  const linear = look.map((v) => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4));
  return Number((0.2126 * linear[0]! + 0.7152 * linear[1]! + 0.0722 * linear[2]!).toFixed(3));
}

/**
 * A course from a drawing in mm: rectangles, circles, lines and polylines become marks (or walls, where Vigilum wrote
 * them), start places come back. `problems` names what was left out. Sizes must be finite and lie on the sheet.
 */
export function courseFromDrawing(
  name: string,
  size: { widthMm: number; heightMm: number },
  shapes: readonly DrawnShape[],
): { course: Course; problems: string[] } {
  const { widthMm, heightMm } = size;
  const problems: string[] = [];
  const course: Course = {
    name,
    widthMm,
    heightMm,
    base: { name: 'sheet', reflectance: 0.8 },
    marks: [],
    starts: [],
    landmarks: [],
  };
  const number = (text: string | undefined): number =>
    text === undefined || text.trim() === '' ? NaN : Number(text.replace(/mm$/, ''));
  const down = (x: number, y: number): Point => ({ xMm: x, yMm: heightMm - y });
  const surfaceOf = ({ attributes }: DrawnShape, paint: string | undefined): Surface | null => {
    const look = channelsOf(paint);
    if (!look) return null;
    const own = number(attributes['data-reflectance']);
    const grey = look[0] === look[1] && look[1] === look[2];
    const reflectance = own >= 0 && own <= 1 ? own : reflectanceOf(look);
    return {
      name: (attributes['data-surface'] ?? attributes['data-base'] ?? 'mark').slice(0, 60) || 'mark',
      reflectance,
      ...(grey ? {} : { colour: look }),
    };
  };
  const pointsOf = (text: string | undefined): Point[] => {
    const numbers = (text ?? '')
      .trim()
      .split(/[\s,]+/)
      .map(Number);
    const points: Point[] = [];
    for (let i = 0; i + 1 < numbers.length; i += 2) points.push(down(numbers[i]!, numbers[i + 1]!));
    return points.slice(0, 500);
  };
  const fine = (...values: number[]) => values.every((v) => Number.isFinite(v) && Math.abs(v) <= 10_000);
  shapes.slice(0, MOST_SHAPES).forEach((shape, i) => {
    const a = shape.attributes;
    const skip = (why: string) => problems.push(`Shape ${i + 1} (${shape.name}) was left out: ${why}.`);
    if (a['data-start'] !== undefined) {
      const put = /translate\(\s*([-\d.]+)[ ,]+([-\d.]+)\s*\)\s*rotate\(\s*([-\d.]+)/.exec(a.transform ?? '');
      const [x, y, deg] = (put?.slice(1) ?? []).map(Number);
      if (x === undefined || y === undefined || deg === undefined || !fine(x, y, deg))
        return skip('its place cannot be read');
      course.starts.push({ name: a['data-start'].slice(0, 16) || 'A', ...down(x, y), bearingDeg: deg });
      return;
    }
    if (a['data-box'] !== undefined) return skip('boxes are added by hand');
    if (a['data-base'] !== undefined) {
      const base = surfaceOf(shape, a.fill);
      if (base) course.base = base;
      return;
    }
    switch (shape.name) {
      case 'rect': {
        const [x, y, w, h] = [number(a.x ?? '0'), number(a.y ?? '0'), number(a.width), number(a.height)];
        const surface = surfaceOf(shape, a.fill);
        if (!fine(x, y, w, h) || w < 1 || h < 1) return skip('its size cannot be read');
        if (!surface) return skip('it has no plain colour such as #202020');
        course.marks.push({ kind: 'rectangle', surface, corner: down(x, y + h), widthMm: w, heightMm: h });
        return;
      }
      case 'circle': {
        const [x, y, r] = [number(a.cx ?? '0'), number(a.cy ?? '0'), number(a.r)];
        const surface = surfaceOf(shape, a.fill);
        if (!fine(x, y, r) || r < 1) return skip('its size cannot be read');
        if (!surface) return skip('it has no plain colour such as #202020');
        course.marks.push({ kind: 'disc', surface, centre: down(x, y), radiusMm: r });
        return;
      }
      case 'line':
      case 'polyline': {
        const points =
          shape.name === 'line'
            ? [down(number(a.x1), number(a.y1)), down(number(a.x2), number(a.y2))]
            : pointsOf(a.points);
        if (points.length < 2 || !points.every((p) => fine(p.xMm, p.yMm)))
          return skip('its points cannot be read');
        if (a['data-wall'] !== undefined) {
          course.walls = [...(course.walls ?? []), { from: points[0]!, to: points[1]! }];
          return;
        }
        const width = number(a['stroke-width'] ?? '1');
        const surface = surfaceOf(shape, a.stroke);
        if (!fine(width) || width < 1) return skip('its stroke is thinner than 1 mm');
        if (!surface) return skip('it has no plain colour such as #202020');
        course.marks.push(
          points.length === 2 && a['stroke-linecap'] !== 'round'
            ? { kind: 'stripe', surface, from: points[0]!, to: points[1]!, widthMm: width }
            : { kind: 'path', surface, points, widthMm: width },
        );
        return;
      }
      default:
        skip('only rectangles, circles, lines and polylines are read');
    }
  });
  if (shapes.length > MOST_SHAPES)
    problems.push(`Only the first ${MOST_SHAPES} of ${shapes.length} shapes were read.`);
  if (course.starts.length === 0)
    course.starts.push({ name: 'A', xMm: widthMm / 2, yMm: Math.min(150, heightMm / 2), bearingDeg: 0 });
  return { course, problems };
}
