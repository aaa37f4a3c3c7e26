import { useQuery } from '@tanstack/react-query';
import type { Course } from '@vigilum/core/course';
import { get } from '../data/api.ts';

/** A course of the teacher's own. */
export interface StoredCourse {
  id: number;
  name: string;
  course: Course;
  family: string | null;
  parameters: Record<string, number> | null;
  at: number;
}

export interface Courses {
  courses: StoredCourse[];
  lessons: { slug: string; title: string; course: Course }[];
}

export const useCourses = () => useQuery({ queryKey: ['courses'], queryFn: () => get<Courses>('/courses') });
