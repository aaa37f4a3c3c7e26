import { useState } from 'react';
import type { Lesson } from '@vigilum/core/lesson';

/** What a second robot on the course does in a try. */
export interface SecondChoice {
  runs: 'nothing' | 'the same' | 'its own';
  /** Its own script. */
  text: string;
  /** Where it starts; the next start of the course when that is where the first one stands. */
  start: string;
}

const kept = (lesson: Lesson) => `second robot ${lesson.slug}`;

function remembered(lesson: Lesson): SecondChoice {
  const usual: SecondChoice = { runs: 'nothing', text: '', start: lesson.course.starts.at(-1)!.name };
  try {
    const { text, start } = JSON.parse(localStorage.getItem(kept(lesson)) ?? '{}') as Partial<SecondChoice>;
    const known = lesson.course.starts.some(({ name }) => name === start);
    return {
      ...usual,
      ...(typeof text === 'string' ? { text } : {}),
      ...(known && start ? { start } : {}),
    };
  } catch {
    return usual;
  }
}

/** The second robot of a try: none to begin with; its own script is remembered on this machine. */
export function useSecondRobot(lesson: Lesson) {
  const [choice, setChoice] = useState(() => remembered(lesson));
  const change = (next: Partial<SecondChoice>) => {
    const now = { ...choice, ...next };
    setChoice(now);
    try {
      localStorage.setItem(kept(lesson), JSON.stringify({ text: now.text, start: now.start }));
    } catch {
      // A full or forbidden store only means that it is not remembered.
    }
  };
  /** Where it starts when the first one starts there. */
  const startBeside = (first: string) => {
    const { starts } = lesson.course;
    if (choice.start !== first) return choice.start;
    return starts.find(({ name }) => name !== first)?.name ?? choice.start;
  };
  return {
    choice,
    change,
    startBeside,
    of: (text: string, first: string) =>
      choice.runs === 'nothing'
        ? null
        : { text: choice.runs === 'the same' ? text : choice.text, start: startBeside(first) },
  };
}

export type SecondRobotState = ReturnType<typeof useSecondRobot>;
