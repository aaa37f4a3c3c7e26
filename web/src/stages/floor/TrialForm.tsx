import { useMemo, useState } from 'react';
import type { Answers } from '@vigilum/core/expect';
import { fieldsOf, floorQuestions, judgeTrial, knobFactsOf } from '@vigilum/core/lesson';
import { toast } from 'sonner';
import { Button } from '../../ui/Button.tsx';
import { sentenceOf } from '../../ui/sentenceOf.ts';
import { outbox } from '../../saving/box.ts';
import { trialAddition } from '../../saving/kinds.ts';
import { useWaiting } from '../../saving/useDoc.ts';
import { Judgements } from '../../run/Judgements.tsx';
import type { StageContext } from '../../workspace/context.ts';
import { knobsOf } from '@vigilum/core/tuning';
import { ChangedField, changeOf, nothingChanged, type WhatChanged } from './ChangedField.tsx';
import { AnswerField, answerOf, notGiven, type Given } from './AnswerField.tsx';

const field = 'flex min-w-0 flex-col gap-0.5';

/** One trial: what ruler, protractor, stopwatch, count and eyes say, judged while it is given. Nothing is answered before somebody did. */
export function TrialForm({ context }: { context: StageContext }) {
  const { path, record, trials, skew, step, known } = context;
  const waiting = useWaiting(trialAddition).filter(
    ({ given }) => given.team === path.id && given.lesson === path.slug,
  );
  const [sending, setSending] = useState(false);
  const { lesson } = record;
  const questions = useMemo(() => floorQuestions(lesson), [lesson]);
  const [given, setGiven] = useState<Record<string, Given>>({});
  const [changed, setChanged] = useState<WhatChanged>(nothingChanged);
  const knobs = useMemo(
    () => knobsOf(record.script?.text ?? '', knobFactsOf(known)),
    [record.script?.text, known],
  );
  const change = changeOf(changed, knobs);
  const [note, setNote] = useState('');
  const [tried, setTried] = useState(false);
  const of = (key: string) => given[key] ?? notGiven;
  const answered = questions.map((question) => [question.key, answerOf(question, of(question.key))] as const);
  const faults = Object.fromEntries(
    answered.flatMap(([key, answer]) =>
      answer !== null && typeof answer === 'object' ? [[key, answer.fault] as const] : [],
    ),
  );
  const answers = Object.fromEntries(
    answered.filter(
      (one): one is [string, number | boolean] => typeof one[1] === 'number' || typeof one[1] === 'boolean',
    ),
  ) satisfies Answers;
  // That it came to rest alone says nothing of where.
  const some = Object.keys(answers).some((key) => key !== 'rested');
  const good = some && Object.keys(faults).length === 0 && change.fault === null;
  const judgements = good ? judgeTrial(lesson, fieldsOf(lesson, answers)) : null;
  const tools = [
    ...new Set(questions.map((question) => (question.kind === 'number' ? question.tool : 'eye'))),
  ];
  const submit = () => {
    setTried(true);
    if (!good) return;
    setSending(true);
    const trial = {
      ...fieldsOf(lesson, answers),
      ...(step?.kind === 'floor' ? { step: step.id } : {}),
      changed: change.says,
      ...(change.knobs ? { knobs: change.knobs } : {}),
      note: note.trim(),
      at: Date.now() + skew,
    };
    outbox.send(trialAddition, { team: path.id, lesson: path.slug, trial }).then(
      (answer) => {
        setSending(false);
        if (!answer) toast('The server does not answer. The trial is kept here and sent when it does.');
        setGiven({});
        setChanged(nothingChanged);
        setNote('');
        setTried(false);
      },
      (error: unknown) => {
        setSending(false);
        toast.error(sentenceOf(error));
      },
    );
  };
  return (
    <form
      noValidate
      className="flex flex-1 flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        submit();
      }}
    >
      <div className="flex flex-col gap-1.5">
        {questions.map((question) => (
          <AnswerField
            key={question.key}
            question={question}
            given={of(question.key)}
            change={(next) => setGiven({ ...given, [question.key]: next })}
            fault={
              faults[question.key] ??
              (tried && !some && question === questions[0] ? 'Measure or tick at least one of these.' : null)
            }
          />
        ))}
      </div>
      <div className="flex flex-col gap-3">
        <ChangedField knobs={knobs} value={changed} change={setChanged} fault={tried ? change.fault : null} />
        <label className={field}>
          <span className="text-ink-2">note</span>
          <input
            className="input w-full"
            maxLength={200}
            autoComplete="off"
            value={note}
            onChange={(event) => setNote(event.target.value)}
          />
        </label>
      </div>
      {judgements ? (
        <Judgements lesson={lesson} judgements={judgements} />
      ) : (
        <p className="text-ink-2">
          {tried && !some ? 'Nothing is measured yet. ' : ''}Answer what you can, by {tools.join(', ')}; what
          is left out is not judged.
        </p>
      )}
      {waiting.length > 0 ? (
        <ul role="status" className="flex flex-col gap-1 border-l-4 border-l-brass bg-brass-soft px-3 py-2">
          {waiting.map(({ key, refused }, i) => (
            <li key={key} className="flex flex-wrap items-center gap-2">
              {refused ? (
                <>
                  <strong className="text-fault">Trial {trials.length + i + 1} was refused:</strong> {refused}
                  <Button onClick={() => outbox.drop(key)}>Drop it</Button>
                </>
              ) : (
                <>
                  <strong>Trial {trials.length + i + 1}</strong> is kept on this tablet and not sent yet.
                </>
              )}
            </li>
          ))}
        </ul>
      ) : null}
      <div className="sticky bottom-0 mt-auto bg-sheet pt-1">
        <Button main type="submit" disabled={sending}>
          Log trial {trials.length + waiting.length + 1}
        </Button>
      </div>
    </form>
  );
}
