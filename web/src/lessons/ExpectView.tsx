import { useMemo, useState } from 'react';
import { formulaOf, formulaText, sentence, type Expectation } from '@vigilum/core/expect';
import { Link } from 'react-router';
import { countOf } from '@vigilum/core/quantity';
import { toast } from 'sonner';
import { Button } from '../ui/Button.tsx';
import { expectationsKind } from '../saving/kinds.ts';
import { Sides } from '../saving/Sides.tsx';
import { DocTrouble } from '../saving/Trouble.tsx';
import { saveNow, useDoc } from '../saving/useDoc.ts';
import type { LessonBench } from '@vigilum/contract/types';
import { MatDrawing } from '../run/MatDrawing.tsx';
import { Panel } from '../ui/Panel.tsx';
import { VerdictMark } from '../ui/verdict.tsx';
import { ExpectationFields, ExpectationList, unreadFormulas } from '../expect/ExpectationList.tsx';
import { meaningOf } from '../expect/meaning.ts';
import { usePreview } from '../expect/usePreview.ts';
import { useBench } from './LessonLayout.tsx';

const tones = { holds: 'done', broken: 'fault', 'cannot tell': 'now' } as const;

/** What one sentence means: as a formula, on the course, and to the model answer and the typical faults. */
function Preview({ bench, expectation }: { bench: LessonBench; expectation: Expectation }) {
  const { lesson, kit } = bench;
  const rows = usePreview(lesson, kit, expectation);
  const meaning = useMemo(() => meaningOf(expectation, lesson.course), [expectation, lesson.course]);
  const formula = formulaOf(expectation);
  return (
    <div className="flex flex-col gap-3">
      <MatDrawing
        className="max-h-60 w-full shrink-0"
        course={lesson.course}
        shades={meaning}
        label={`What “${sentence(expectation, lesson.course)}” means on the course.`}
      />
      <p className="text-ink-2">
        As a formula:{' '}
        <code className="font-mono break-words text-ink">
          {formula ? formulaText(formula) : 'cannot be read yet'}
        </code>
      </p>
      <h3 className="font-bold">What it says of one run each, from start {lesson.course.starts[0]!.name}</h3>
      <ul className="flex flex-col gap-1">
        {rows.map(({ name, judgement }) => (
          <li key={name} className="flex items-start gap-2">
            <span className="pt-0.5">
              <VerdictMark tone={tones[judgement.verdict]} />
            </span>
            <span>
              <strong>{name}</strong>{' '}
              <span className="text-ink-2">
                {judgement.verdict === 'cannot tell' ? 'cannot tell: ' : ''}
                {judgement.says}
              </span>
            </span>
          </li>
        ))}
      </ul>
    </div>
  );
}

/** The lesson's expectations, written as sentences, each with what it means. */
export default function ExpectView() {
  const bench = useBench();
  const { lesson } = bench;
  const [list, setList] = useState<Expectation[]>(lesson.expectations);
  const [at, setAt] = useState(0);
  const doc = useDoc(
    expectationsKind,
    { slug: lesson.slug },
    { revision: bench.revision, value: lesson.expectations },
  );
  const save = async () => {
    if (!(await saveNow(doc, list))) return;
    const freed = doc.answer?.freed ?? 0;
    if (freed > 0) toast.info(`${countOf(freed, 'number')} of the twist is the same for every team now.`);
  };
  const changed = JSON.stringify(list) !== JSON.stringify(lesson.expectations);
  const current = list[at];
  const put = (next: Expectation) => setList(list.map((one, i) => (i === at ? next : one)));
  const unread = unreadFormulas(list);
  const sockets = (lesson.robot?.build.fittings ?? []).map(({ socket }) => socket);
  return (
    <div className="grid min-h-0 flex-1 grid-cols-1 gap-4 lg:grid-cols-[minmax(0,1fr)_minmax(0,1fr)] lg:grid-rows-[minmax(0,1fr)]">
      <Panel
        title="The robot is expected to"
        aside={changed ? 'not saved yet' : 'saved'}
        footer={
          <>
            <Button
              main
              disabled={!changed || unread.length > 0 || doc.state.phase === 'saving' || list.length === 0}
              onClick={() => void save()}
            >
              Save for this lesson
            </Button>
            {changed ? (
              <Button
                onClick={() => {
                  setList(lesson.expectations);
                  setAt(0);
                }}
              >
                Undo all changes
              </Button>
            ) : null}
          </>
        }
      >
        <DocTrouble
          doc={doc}
          chosen={(value) => setList(value)}
          what="what this lesson expects"
          sides={(mine, theirs) => (
            <Sides
              mine={mine.map((one) => sentence(one, lesson.course))}
              theirs={theirs.map((one) => sentence(one, lesson.course))}
            />
          )}
        />
        <ExpectationList list={list} at={at} choose={setAt} change={setList} course={lesson.course} />
        {bench.twisted ? (
          <p className="mt-3 border-l-4 border-l-brass pl-3">
            Shown with its usual numbers; some follow the{' '}
            <Link
              className="inline-flex min-h-11 items-center text-sea underline"
              to={`/lessons/${lesson.slug}/build/twist`}
            >
              twist
            </Link>
            . A number that you change here becomes the same for every team.
          </p>
        ) : null}
        {list.length === 0 ? <p className="mt-2 text-fault">A lesson expects at least one thing.</p> : null}
      </Panel>
      <Panel title={current ? sentence(current, lesson.course) : 'Choose a sentence'}>
        {current ? (
          <div className="flex flex-col gap-4">
            <ExpectationFields
              key={`${at} ${current.kind}`}
              expectation={current}
              put={put}
              course={lesson.course}
              sockets={sockets}
            />
            {unread.map((says) => (
              <p key={says} className="text-fault">
                {says}
              </p>
            ))}
            <Preview bench={bench} expectation={current} />
          </div>
        ) : (
          <p className="text-ink-2">Choose a sentence on the left, or add one.</p>
        )}
      </Panel>
    </div>
  );
}
