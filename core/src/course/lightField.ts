import { markBounds, markDistance } from './marks.ts';
import type { Course, Mark, Surface } from './course.ts';

/**
 * Reflectance of a course as a round spot sees it: a raster with one value a millimetre. What the spot sees is worked out tile by
 * tile, when something first looks there: a run sees a small part of its mat.
 */
export interface LightField {
  radiusMm: number;
  /** Values a row, rows, and the mm that stick out beyond the course on each side. */
  columns: number;
  rows: number;
  border: number;
  /** Painted reflectance 0–1 at cell centres, row by row from the bottom. */
  raster: Float32Array;
  /** The same, blurred by the spot, where its tile is done. */
  values: Float32Array;
  done: Uint8Array;
  spot: Spot;
}

/** The cells of a spot, in a fixed order, as steps from its middle. */
interface Spot {
  reach: number;
  cells: { a: number; b: number }[];
  /** Each cell's step along a raster, and its share of the spot. */
  steps: Int32Array;
  shares: Float64Array;
}

/** Cells a tile is wide and high: two to the power of this. */
const TILE_BITS = 6;
const TILE = 1 << TILE_BITS;

/** The spot's cells on a raster with so many columns; its shares sum to 1. */
function spotOf(radius: number, columns: number): Spot {
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
  const cells: Spot['cells'] = [];
  const shares: number[] = [];
  for (let b = -reach; b <= reach; b++) {
    for (let a = -reach; a <= reach; a++) {
      const weight = weights[(b + reach) * side + a + reach]! / total;
      if (weight === 0) continue;
      cells.push({ a, b });
      shares.push(weight);
    }
  }
  return {
    reach,
    cells,
    steps: Int32Array.from(cells, ({ a, b }) => b * columns + a),
    shares: Float64Array.from(shares),
  };
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
  const bounds = pieces.map((piece) => cellsOf(markBounds(piece), grid));
  const [, , j0, j1] = cellsOf(markBounds(mark), grid);
  const covers = new Float32Array(grid.columns);
  for (let j = j0; j <= j1; j++) {
    let [first, last] = [grid.columns, -1];
    pieces.forEach((piece, k) => {
      const [a0, a1, b0, b1] = bounds[k]!;
      if (j < b0 || j > b1) return;
      for (let i = a0; i <= a1; i++) {
        // Antialiased: half a cell either side of the rim shades from outside to inside.
        const away = markDistance(piece, i + 0.5 - grid.border, j + 0.5 - grid.border);
        const cover = 0.5 - away;
        // A mark that is so far off cannot begin sooner, and one that reaches so far round cannot end.
        const same = Math.max(0, Math.floor(Math.abs(away) - 0.51));
        if (cover > 0) {
          const to = Math.min(a1, i + same);
          if (cover > covers[i]!) covers[i] = cover;
          if (to > i) covers.fill(1, i + 1, to + 1);
          if (i < first) first = i;
          if (to > last) last = to;
        }
        i += same;
      }
    });
    for (let i = first; i <= last; i++) {
      const cover = covers[i]!;
      if (cover > 0) put(j * grid.columns + i, cover >= 1 ? 1 : cover);
    }
    covers.fill(0, first, last + 1);
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

/** Works a tile out: its cells whose spot lies on one tone keep their value, the others are averaged over the spot. */
function blurTile({ raster, values, columns, rows, spot }: LightField, tileI: number, tileJ: number): void {
  const { reach, cells, steps, shares } = spot;
  const [i0, j0] = [tileI << TILE_BITS, tileJ << TILE_BITS];
  const [i1, j1] = [Math.min(columns, i0 + TILE), Math.min(rows, j0 + TILE)];
  // Where tones change within the reach of the tile.
  const far = reach + 1;
  const [left, right] = [Math.max(1, i0 - far), Math.min(columns, i1 + far)];
  const [low, high] = [Math.max(1, j0 - far), Math.min(rows, j1 + far)];
  const near = new Uint8Array(TILE * TILE);
  for (let j = low; j < high; j++) {
    for (let i = left; i < right; i++) {
      const at = j * columns + i;
      if (raster[at] === raster[at - 1] && raster[at] === raster[at - columns]) continue;
      const [a, b] = [Math.max(i0, i - far), Math.min(i1, i + far + 1)];
      for (let k = Math.max(j0, j - far); k < Math.min(j1, j + far + 1); k++)
        near.fill(1, (k - j0) * TILE + a - i0, (k - j0) * TILE + b - i0);
    }
  }
  for (let j = j0; j < j1; j++) {
    const whole = j >= reach && j < rows - reach;
    for (let i = i0; i < i1; i++) {
      const at = j * columns + i;
      if (near[(j - j0) * TILE + i - i0] === 0) {
        values[at] = raster[at]!;
        continue;
      }
      let sum = 0;
      if (whole && i >= reach && i < columns - reach)
        for (let k = 0; k < shares.length; k++) sum += shares[k]! * raster[at + steps[k]!]!;
      else
        cells.forEach(({ a, b }, k) => {
          const row = Math.min(rows - 1, Math.max(0, j + b)) * columns;
          sum += shares[k]! * raster[row + Math.min(columns - 1, Math.max(0, i + a))]!;
        });
      values[at] = sum;
    }
  }
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
    const tiles = (((columns - 1) >> TILE_BITS) + 1) * (((rows - 1) >> TILE_BITS) + 1);
    field = {
      radiusMm,
      columns,
      rows,
      border,
      raster: paint(course, { columns, rows, border }),
      values: new Float32Array(columns * rows),
      done: new Uint8Array(tiles),
      spot: spotOf(radiusMm, columns),
    };
    fields.set(radiusMm, field);
  }
  return field;
}

/** Sees to it that the tile of a cell is worked out. */
function ensure(field: LightField, i: number, j: number): void {
  const [tileI, tileJ] = [i >> TILE_BITS, j >> TILE_BITS];
  const tile = tileJ * (((field.columns - 1) >> TILE_BITS) + 1) + tileI;
  if (field.done[tile] !== 0) return;
  field.done[tile] = 1;
  blurTile(field, tileI, tileJ);
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
  ensure(field, i, j);
  // The four cells between which it lies may belong to four tiles.
  const edge = TILE - 1;
  if ((i & edge) === edge || (j & edge) === edge) {
    ensure(field, i + 1, j);
    ensure(field, i, j + 1);
    ensure(field, i + 1, j + 1);
  }
  const at = j * columns + i;
  const below = values[at]! + a * (values[at + 1]! - values[at]!);
  const above = values[at + columns]! + a * (values[at + columns + 1]! - values[at + columns]!);
  return below + b * (above - below);
}
