import type { Course } from './course.ts';

/** Paper that mats are printed on, mm (ISO 216; ANSI Y14.1). */
export const papers = {
  A4: { widthMm: 210, heightMm: 297 },
  Letter: { widthMm: 215.9, heightMm: 279.4 },
} as const;
export type Paper = keyof typeof papers;

/** White rim that printers leave, and how far neighbouring sheets show the same, mm. */
export const MARGIN_MM = 12;
export const OVERLAP_MM = 8;

/** One sheet: which part of the course it shows, in mm from the course's upper left corner. */
export interface Tile {
  row: number;
  column: number;
  xMm: number;
  yMm: number;
  widthMm: number;
  heightMm: number;
}

/** The sheets that a course is printed on at its true size, row by row from its upper left corner. */
export function tilesOf(
  { widthMm, heightMm }: Pick<Course, 'widthMm' | 'heightMm'>,
  paper: Paper,
  sideways: boolean,
): { columns: number; rows: number; tiles: Tile[] } {
  const sheet = papers[paper];
  const [w, h] = sideways ? [sheet.heightMm, sheet.widthMm] : [sheet.widthMm, sheet.heightMm];
  const [wide, high] = [w - 2 * MARGIN_MM, h - 2 * MARGIN_MM];
  const needed = (length: number, one: number) =>
    Math.max(1, Math.ceil((length - OVERLAP_MM) / (one - OVERLAP_MM)));
  const [columns, rows] = [needed(widthMm, wide), needed(heightMm, high)];
  const tiles: Tile[] = [];
  for (let row = 0; row < rows; row++) {
    for (let column = 0; column < columns; column++) {
      const [xMm, yMm] = [column * (wide - OVERLAP_MM), row * (high - OVERLAP_MM)];
      tiles.push({
        row,
        column,
        xMm,
        yMm,
        widthMm: Math.min(wide, widthMm - xMm),
        heightMm: Math.min(high, heightMm - yMm),
      });
    }
  }
  return { columns, rows, tiles };
}
