import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { LESSON_FILE_LIMIT } from '@vigilum/core/formats';
import { stepsOf, variantOf, type Lesson } from '@vigilum/core/lesson';
import { Button } from '../ui/Button.tsx';
import { api, ApiProblem } from '../data/api.ts';
import { sentenceOf } from '../ui/sentenceOf.ts';
import { MatDrawing } from '../run/MatDrawing.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { FileButton } from '../ui/FileButton.tsx';

const faultsOf = (error: unknown): { field: string; says: string }[] =>
  error instanceof ApiProblem && Array.isArray(error.body.fields)
    ? (error.body.fields as { field: string; says: string }[])
    : [];

/** A lesson from a file: looked at first, added only when somebody says so. */
export function ImportLesson() {
  const navigate = useNavigate();
  const [open, setOpen] = useState(false);
  const [name, setName] = useState('');
  const look = useMutation({
    mutationFn: async (file: File) => {
      if (file.size > LESSON_FILE_LIMIT)
        throw new ApiProblem(
          413,
          'Too large',
          `${file.name} is ${(file.size / 1e6).toFixed(1)} MB long; a lesson has at most ${LESSON_FILE_LIMIT / 1e6} MB. Nothing was changed.`,
        );
      return api('POST /lessons/imports', { body: { text: await file.text() } });
    },
  });
  const add = useMutation({
    mutationFn: (lesson: Lesson) => api('POST /lessons', { body: { lesson } }),
    onSuccess: ({ lesson }) => void navigate(`/lessons/${lesson.slug}/build/steps`),
  });
  const error = look.error ?? add.error;
  const faults = faultsOf(error);
  const { lesson, missing } = look.data ?? {};
  const usual = lesson && variantOf(lesson);
  return (
    <>
      <FileButton
        label="Lesson file"
        accept=".json,.md,.markdown,application/json,text/markdown"
        take={(file) => {
          setName(file.name);
          add.reset();
          look.mutate(file);
          setOpen(true);
        }}
      >
        Import a lesson
      </FileButton>
      {open ? (
        <Dialog title={`Import ${name}`} width="w-[46rem]" close={() => setOpen(false)}>
          {look.isPending ? <p>Being read …</p> : null}
          {error ? (
            <div role="alert" className="border-l-4 border-l-fault pl-3">
              <p className="font-bold">{sentenceOf(error)}</p>
              {faults.length > 0 ? (
                <ul className="mt-2 flex flex-col gap-1">
                  {faults.map(({ field, says }, i) => (
                    <li key={i}>
                      <code className="font-mono text-ink-2">{field}</code> {says}
                    </li>
                  ))}
                </ul>
              ) : null}
            </div>
          ) : null}
          {lesson && usual && missing ? (
            <div className="flex flex-col gap-3">
              <div className="grid gap-4 sm:grid-cols-2">
                <MatDrawing
                  className="max-h-60 w-full"
                  course={usual.course}
                  plain
                  label={`The course ${usual.course.name}.`}
                />
                <div>
                  <h3 className="text-lg font-bold">{usual.title}</h3>
                  <p>{usual.aim}</p>
                  <ol className="mt-2 text-ink-2">
                    {stepsOf(usual).map((step, i) => (
                      <li key={step.id}>
                        {i + 1}. {step.title}
                      </li>
                    ))}
                  </ol>
                </div>
              </div>
              {missing.length > 0 ? (
                <ul className="flex flex-col gap-1 text-ink-2">
                  {missing.slice(0, 6).map(({ says }) => (
                    <li key={says}>{says}</li>
                  ))}
                </ul>
              ) : null}
              <Button main className="w-fit" disabled={add.isPending} onClick={() => add.mutate(lesson)}>
                Add this lesson
              </Button>
            </div>
          ) : null}
        </Dialog>
      ) : null}
    </>
  );
}
