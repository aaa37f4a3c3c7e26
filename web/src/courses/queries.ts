import { useQuery } from '@tanstack/react-query';
import { api } from '../data/api.ts';
import { keys } from '../data/keys.ts';

/** Courses of the teacher's own, and those of the lessons. */
export const useCourses = () => useQuery({ queryKey: keys.courses, queryFn: () => api('GET /courses') });
