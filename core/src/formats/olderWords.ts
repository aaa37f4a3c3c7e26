const isRecord = (value: unknown): value is Record<string, unknown> =>
  value !== null && typeof value === 'object' && !Array.isArray(value);

function partInTodaysWords(part: unknown): unknown {
  if (!isRecord(part) || !Object.hasOwn(part, 'school') || Object.hasOwn(part, 'method')) return part;
  const { school, ...rest } = part;
  return { ...rest, method: school };
}

/** A lesson from a file, not yet validated, with fields that were called otherwise when it was written named as today. */
export function inTodaysWords(lesson: unknown): unknown {
  if (!isRecord(lesson) || !Array.isArray(lesson.steps)) return lesson;
  return {
    ...lesson,
    steps: lesson.steps.map((step: unknown) =>
      isRecord(step) && 'part' in step ? { ...step, part: partInTodaysWords(step.part) } : step,
    ),
  };
}
