import { markBounds, markDistance } from './marks.ts';
import type { Course, Mark, Surface } from './course.ts';

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

/** Cells that a mark may touch. */
function cellsOf(
  [left, bottom, right, top]: readonly number[],
  grid: Grid,
): [number, number, number, number] {
  const { columns, rows, border } = grid;
  return [
    Math.max(0, Math.floor(left! + border) - 1),
    Math.min(columns - 1, Math.ceil(right! + border) + 1),
    Math.max(0, Math.floor(bottom! + border) - 1),
    Math.min(rows - 1, Math.ceil(top! + border) + 1),
  ];
}

interface Grid {
  columns: number;
  rows: number;
  border: number;
}

/** Hands each cell that a mark covers, at least by half a cell, to `put` with its cover above 0. */
function coverCells(mark: Mark, grid: Grid, put: (at: number, cover: number) => void): void {
  // A long path is covered piece by piece, so that each cell asks only the pieces near it.
  const pieces: Mark[] =
    mark.kind === 'path'
      ? mark.points.slice(1).map((to, i) => ({ ...mark, points: [mark.points[i]!, to] }))
      : [mark];
  const [i0, i1, j0, j1] = cellsOf(markBounds(mark), grid);
  const width = i1 - i0 + 1;
  if (width <= 0 || j1 < j0) return;
  const covers = new Float32Array(width * (j1 - j0 + 1));
  for (const piece of pieces) {
    const [a0, a1, b0, b1] = cellsOf(markBounds(piece), grid);
    for (let j = b0; j <= b1; j++) {
      for (let i = a0; i <= a1; i++) {
        // Antialiased: half a cell either side of the rim shades from outside to inside.
        const cover = 0.5 - markDistance(piece, i + 0.5 - grid.border, j + 0.5 - grid.border);
        const at = (j - j0) * width + (i - i0);
        if (cover > covers[at]!) covers[at] = cover;
      }
    }
  }
  for (let j = j0; j <= j1; j++) {
    for (let i = i0; i <= i1; i++) {
      const cover = covers[(j - j0) * width + (i - i0)]!;
      if (cover > 0) put(j * grid.columns + i, cover >= 1 ? 1 : cover);
    }
  }
}

function paint(course: Course, grid: Grid): Float32Array {
  const { columns, rows, border } = grid;
  const raster = new Float32Array(columns * rows).fill(course.base.reflectance);
  for (const mark of course.marks) {
    const { reflectance } = mark.surface;
    coverCells(mark, grid, (at, c) => {
      raster[at] = raster[at]! + c * (reflectance - raster[at]!);
    });
  }
  // Beyond a drop there is nothing near enough to send light back.
  if (course.rim === 'drop') {
    for (let j = 0; j < rows; j++) {
      for (let i = 0; i < columns; i++) {
        const out = i < border || j < border || i >= columns - border || j >= rows - border;
        if (out) raster[j * columns + i] = 0;
      }
    }
  }
  return raster;
}

/** Which surface lies under each square millimetre: 0 is the base, n the n-th mark's, 255 nothing at all. */
export interface SurfaceMap extends Grid {
  cells: Uint8Array;
  surfaces: Surface[];
}

const maps = new WeakMap<Course, SurfaceMap>();

/** The surface map of a course, made once; at most 254 marks are told apart. */
export function surfaceMap(course: Course): SurfaceMap {
  let map = maps.get(course);
  if (!map) {
    const grid = { columns: Math.ceil(course.widthMm), rows: Math.ceil(course.heightMm), border: 0 };
    const cells = new Uint8Array(grid.columns * grid.rows);
    const marks = course.marks.slice(0, 254);
    marks.forEach((mark, k) =>
      coverCells(mark, grid, (at, cover) => {
        if (cover >= 0.5) cells[at] = k + 1;
      }),
    );
    map = { ...grid, cells, surfaces: [course.base, ...marks.map(({ surface }) => surface)] };
    maps.set(course, map);
  }
  return map;
}

/** Index of the surface at a point of a map; 255 beyond the mat when its rim is a drop, else the base. */
export function surfaceIndexAt(map: SurfaceMap, x: number, y: number, drop: boolean): number {
  const [i, j] = [Math.floor(x), Math.floor(y)];
  if (i < 0 || j < 0 || i >= map.columns || j >= map.rows) return drop ? 255 : 0;
  return map.cells[j * map.columns + i]!;
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
  // The spot's cells in their order, as steps from its middle where the whole spot lies on the raster.
  const cells: { a: number; b: number; weight: number }[] = [];
  for (let b = -reach; b <= reach; b++) {
    for (let a = -reach; a <= reach; a++) {
      const weight = weights[(b + reach) * side + a + reach]!;
      if (weight !== 0) cells.push({ a, b, weight });
    }
  }
  const steps = Int32Array.from(cells, ({ a, b }) => b * columns + a);
  const shares = Float64Array.from(cells, ({ weight }) => weight);
  const clamped = (i: number, j: number) => {
    let sum = 0;
    for (const { a, b, weight } of cells) {
      const row = Math.min(rows - 1, Math.max(0, j + b)) * columns;
      sum += weight * raster[row + Math.min(columns - 1, Math.max(0, i + a))]!;
    }
    return sum;
  };
  for (let j = 0; j < rows; j++) {
    const whole = j >= reach && j < rows - reach;
    for (let i = 0; i < columns; i++) {
      const at = j * columns + i;
      if (near[at] === 0) continue;
      if (!whole || i < reach || i >= columns - reach) {
        out[at] = clamped(i, j);
        continue;
      }
      let sum = 0;
      for (let k = 0; k < shares.length; k++) sum += shares[k]! * raster[at + steps[k]!]!;
      out[at] = sum;
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
  if (!fields) known.set(course, (fields = new Map<number, LightField>()));
  let field = fields.get(radiusMm);
  if (!field) {
    const border = Math.ceil(radiusMm) + 2;
    const columns = Math.ceil(course.widthMm) + 2 * border;
    const rows = Math.ceil(course.heightMm) + 2 * border;
    const raster = paint(course, { columns, rows, border });
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
