import type { Course, Point, Start, Surface } from '../course.ts';

/** One number that shapes a course of a family. Lengths in mm. */
export interface CourseParameter {
  id: string;
  name: string;
  unit: 'mm' | 'deg' | 's' | '';
  from: number;
  to: number;
  usual: number;
}

/** Courses of one kind, made from a few numbers. */
export interface CourseFamily {
  id: string;
  name: string;
  /** What it is for, in one sentence. */
  says: string;
  parameters: readonly CourseParameter[];
  build: (values: Readonly<Record<string, number>>) => Course;
}

export const length = (
  id: string,
  name: string,
  from: number,
  to: number,
  usual: number,
): CourseParameter => ({
  id,
  name,
  unit: 'mm',
  from,
  to,
  usual,
});
export const count = (
  id: string,
  name: string,
  from: number,
  to: number,
  usual: number,
): CourseParameter => ({
  id,
  name,
  unit: '',
  from,
  to,
  usual,
});

/** A course of a family: what is not given is as usual, what is out of range is brought to its end. */
export function buildCourse(family: CourseFamily, given: Readonly<Record<string, number>> = {}): Course {
  const values = Object.fromEntries(
    family.parameters.map(({ id, unit, from, to, usual }) => {
      const value = given[id];
      const kept =
        value !== undefined && Number.isFinite(value) ? Math.min(to, Math.max(from, value)) : usual;
      return [id, unit === '' ? Math.round(kept) : kept];
    }),
  );
  return family.build(values);
}

/** Surfaces of the harbour year; looks as sRGB 0–1. */
export const boards: Surface = { name: 'quay boards', reflectance: 0.76 };
export const darkTape: Surface = { name: 'dark tape', reflectance: 0.2 };
export const redCard: Surface = { name: 'red card', reflectance: 0.42, colour: [0.7, 0.17, 0.16] };
export const greenCard: Surface = { name: 'green card', reflectance: 0.34, colour: [0.16, 0.48, 0.25] };
export const blueCard: Surface = { name: 'blue card', reflectance: 0.3, colour: [0.13, 0.29, 0.6] };
export const yellowCard: Surface = { name: 'yellow card', reflectance: 0.71, colour: [0.92, 0.78, 0.22] };
export const orangeCard: Surface = { name: 'orange card', reflectance: 0.55, colour: [0.88, 0.47, 0.15] };

export const at = (xMm: number, yMm: number): Point => ({ xMm, yMm });
export const start = (name: string, xMm: number, yMm: number, bearingDeg = 0): Start => ({
  name,
  xMm,
  yMm,
  bearingDeg,
});

/** A course with nothing on it yet. */
export const bare = (name: string, widthMm: number, heightMm: number, starts: Start[]): Course => ({
  name,
  widthMm,
  heightMm,
  base: boards,
  marks: [],
  starts,
  landmarks: [],
});
