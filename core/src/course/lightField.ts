import { markBounds, markDistance } from './marks.ts';
import type { Course } from './course.ts';

/** Reflectance of a course as a round spot sees it: a raster with one value a millimetre, ready to look up. */
export interface LightField {
  radiusMm: number;
  /** Values a row, rows, and the mm that stick out beyond the course on each side. */
  columns: number;
  rows: number;
  border: number;
  /** Blurred reflectance 0–1 at cell centres, row by row from the bottom. */
  values: Float32Array;
}

/** The spot as runs of cells: for each row offset, weights of the cells it covers, summing to 1 in all. */
function spotWeights(radius: number): { reach: number; weights: Float64Array } {
  const reach = Math.ceil(radius);
  const side = 2 * reach + 1;
  const weights = new Float64Array(side * side);
  const fine = 8;
  let total = 0;
  for (let j = 0; j < side; j++) {
    for (let i = 0; i < side; i++) {
      let inside = 0;
      for (let b = 0; b < fine; b++) {
        for (let a = 0; a < fine; a++) {
          const x = i - reach + (a + 0.5) / fine - 0.5;
          const y = j - reach + (b + 0.5) / fine - 0.5;
          if (x * x + y * y <= radius * radius) inside++;
        }
      }
      weights[j * side + i] = inside;
      total += inside;
    }
  }
  for (let k = 0; k < weights.length; k++) weights[k]! /= total;
  return { reach, weights };
}

function paint(course: Course, columns: number, rows: number, border: number): Float32Array {
  const raster = new Float32Array(columns * rows).fill(course.base.reflectance);
  for (const mark of course.marks) {
    const [left, bottom, right, top] = markBounds(mark);
    const i0 = Math.max(0, Math.floor(left + border) - 1);
    const i1 = Math.min(columns - 1, Math.ceil(right + border) + 1);
    const j0 = Math.max(0, Math.floor(bottom + border) - 1);
    const j1 = Math.min(rows - 1, Math.ceil(top + border) + 1);
    for (let j = j0; j <= j1; j++) {
      for (let i = i0; i <= i1; i++) {
        // Antialiased: half a cell either side of the rim shades from outside to inside.
        const cover = 0.5 - markDistance(mark, i + 0.5 - border, j + 0.5 - border);
        if (cover <= 0) continue;
        const at = j * columns + i;
        const c = cover >= 1 ? 1 : cover;
        raster[at] = raster[at]! + c * (mark.surface.reflectance - raster[at]!);
      }
    }
  }
  return raster;
}

function blur(raster: Float32Array, columns: number, rows: number, radius: number): Float32Array {
  const out = new Float32Array(raster);
  const { reach, weights } = spotWeights(radius);
  const side = 2 * reach + 1;
  // A cell far from any rim keeps its value: ask first whether the window is of one tone.
  const edgy = new Uint8Array(columns * rows);
  for (let j = 1; j < rows; j++) {
    for (let i = 1; i < columns; i++) {
      const at = j * columns + i;
      if (raster[at] !== raster[at - 1] || raster[at] !== raster[at - columns]) edgy[at] = 1;
    }
  }
  const near = new Uint8Array(columns * rows);
  for (let j = 0; j < rows; j++) {
    for (let i = 0; i < columns; i++) {
      if (edgy[j * columns + i] === 0) continue;
      for (let b = Math.max(0, j - reach - 1); b <= Math.min(rows - 1, j + reach + 1); b++) {
        near.fill(
          1,
          b * columns + Math.max(0, i - reach - 1),
          b * columns + Math.min(columns, i + reach + 2),
        );
      }
    }
  }
  for (let j = 0; j < rows; j++) {
    for (let i = 0; i < columns; i++) {
      if (near[j * columns + i] === 0) continue;
      let sum = 0;
      for (let b = -reach; b <= reach; b++) {
        const row = Math.min(rows - 1, Math.max(0, j + b)) * columns;
        const w = (b + reach) * side + reach;
        for (let a = -reach; a <= reach; a++) {
          const weight = weights[w + a]!;
          if (weight !== 0) sum += weight * raster[row + Math.min(columns - 1, Math.max(0, i + a))]!;
        }
      }
      out[j * columns + i] = sum;
    }
  }
  return out;
}

const known = new WeakMap<Course, Map<number, LightField>>();

/**
 * The light field of a course for a spot of `radiusMm`. Built once per course object and radius and kept:
 * the course must not be changed afterwards. Values beyond the mat are those of its base.
 */
export function lightField(course: Course, radiusMm: number): LightField {
  let fields = known.get(course);
  if (!fields) known.set(course, (fields = new Map()));
  let field = fields.get(radiusMm);
  if (!field) {
    const border = Math.ceil(radiusMm) + 2;
    const columns = Math.ceil(course.widthMm) + 2 * border;
    const rows = Math.ceil(course.heightMm) + 2 * border;
    const raster = paint(course, columns, rows, border);
    field = { radiusMm, columns, rows, border, values: blur(raster, columns, rows, radiusMm) };
    fields.set(radiusMm, field);
  }
  return field;
}

/** Reflectance 0–1 that the spot sees when its centre is at (x, y) in mm; bilinear between cells, clamped at the rim. */
export function lightAt(field: LightField, x: number, y: number): number {
  const { columns, rows, border, values } = field;
  let u = x + border - 0.5;
  let v = y + border - 0.5;
  u = u < 0 ? 0 : u > columns - 1.001 ? columns - 1.001 : u;
  v = v < 0 ? 0 : v > rows - 1.001 ? rows - 1.001 : v;
  const i = u | 0;
  const j = v | 0;
  const a = u - i;
  const b = v - j;
  const at = j * columns + i;
  const below = values[at]! + a * (values[at + 1]! - values[at]!);
  const above = values[at + columns]! + a * (values[at + columns + 1]! - values[at + columns]!);
  return below + b * (above - below);
}
