import type { Course } from '@vigilum/core/course';
import { courseFromDrawing, type DrawnShape } from '@vigilum/core/formats';

/** Largest file that is looked at, bytes. */
const LIMIT = 300_000;

/** A length of an SVG in mm: “210mm”, “21cm”, “8in”, or a plain number of user units. */
function millimetres(text: string | null): number {
  const found = /^\s*([\d.]+)\s*(mm|cm|in|px)?\s*$/.exec(text ?? '');
  if (!found) return NaN;
  const per = { mm: 1, cm: 10, in: 25.4, px: 25.4 / 96 }[found[2] ?? 'px'] ?? NaN;
  return Number(found[1]) * per;
}

function fromSvg(name: string, text: string): { course: Course; problems: string[] } {
  const page = new DOMParser().parseFromString(text, 'image/svg+xml');
  const svg = page.documentElement;
  if (svg.localName !== 'svg' || page.querySelector('parsererror'))
    throw new Error('This SVG cannot be read: it is not well-formed. Save it again as a plain SVG.');
  const box = (svg.getAttribute('viewBox') ?? '')
    .trim()
    .split(/[\s,]+/)
    .map(Number);
  const [widthMm, heightMm] = [
    millimetres(svg.getAttribute('width')),
    millimetres(svg.getAttribute('height')),
  ];
  if (!(widthMm >= 100 && heightMm >= 100 && widthMm <= 6000 && heightMm <= 6000))
    throw new Error('The SVG must say its width and height in mm, 100 to 6000 each.');
  // One user unit must be one millimetre, or nothing on it would be of its true size.
  if (
    box.length === 4 &&
    (box[0] !== 0 || box[1] !== 0 || Math.abs(box[2]! - widthMm) > 0.5 || Math.abs(box[3]! - heightMm) > 0.5)
  )
    throw new Error(`One unit of the SVG must be 1 mm: its viewBox should be “0 0 ${widthMm} ${heightMm}”.`);
  const shapes = [
    ...svg.querySelectorAll('rect, circle, line, polyline, polygon, ellipse, path, g[data-start]'),
  ]
    .filter((element) => !element.parentElement?.closest('g[data-start]'))
    .map((element): DrawnShape => ({
      name: element.localName,
      attributes: Object.fromEntries([...element.attributes].map(({ name: key, value }) => [key, value])),
    }));
  const title = svg.querySelector('title')?.textContent?.trim();
  return courseFromDrawing((title || name).slice(0, 80), { widthMm, heightMm }, shapes);
}

/** A course from a file: Vigilum's JSON, or a drawing in mm. Throws an Error with one sentence when it is neither. */
export async function readCourseFile(file: File): Promise<{ course: Course; problems: string[] }> {
  if (file.size > LIMIT) throw new Error('A course file has at most 300 kB.');
  const text = await file.text();
  if (/\.svg$/i.test(file.name)) return fromSvg(file.name.replace(/\.svg$/i, ''), text);
  try {
    // What it holds is checked by the server, field by field.
    return { course: JSON.parse(text) as Course, problems: [] };
  } catch {
    throw new Error(`${file.name} is no JSON and no SVG: nothing was imported.`);
  }
}
