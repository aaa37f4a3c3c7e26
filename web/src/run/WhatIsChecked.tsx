import { sentence } from '@vigilum/core/expect';
import { expectationVaries, variesInWords, type Lesson } from '@vigilum/core/lesson';

/** Every limit that judges a run, told before it: what is expected, and what will be another in each run of a proof. */
export function WhatIsChecked({ lesson }: { lesson: Lesson }) {
  const varies = variesInWords(lesson);
  return (
    <section aria-label="What will be checked" className="flex flex-col gap-1.5">
      <h3 className="font-bold">What will be checked</h3>
      <ul className="flex flex-col gap-1">
        {lesson.expectations.map((expectation, i) => (
          <li key={i} className="border-l-4 border-l-signal pl-3">
            {sentence(expectation, lesson.course)}
            {expectationVaries(lesson, i) ? (
              <span className="text-ink-2"> (here; it changes from run to run)</span>
            ) : null}
          </li>
        ))}
      </ul>
      {varies.length > 0 ? (
        <p className="text-ink-2">
          A proof changes from run to run: {varies.map(({ says, range }) => `${says} ${range}`).join('; ')}.
          What is expected changes with it.
        </p>
      ) : null}
    </section>
  );
}
