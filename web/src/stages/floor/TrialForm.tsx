import { useMemo, useState } from 'react';
import { evidenceOfMeasured, judge } from '@vigilum/core/expect';
import { measureFacts, measuresOf, type FloorMeasure } from '@vigilum/core/lesson';
import { typedNumber } from '@vigilum/core/quantity';
import { toast } from 'sonner';
import { sentenceOf } from '../../ui/sentenceOf.ts';
import { outbox } from '../../saving/box.ts';
import { trialAddition } from '../../saving/kinds.ts';
import { useWaiting } from '../../saving/useDoc.ts';
import { Judgements } from '../../run/Judgements.tsx';
import type { StageContext } from '../../workspace/context.ts';

const limits: Record<FloorMeasure, [number, number]> = {
  past: [0, 10_000],
  gap: [0, 2000],
  turn: [0, 3600],
  count: [0, 10_000],
};
const labels: Record<FloorMeasure, string> = {
  past: 'from the near edge, mm',
  gap: 'gap to what is ahead, cm',
  turn: 'turned by, degrees',
  count: 'count',
};
/** Measures that go two ways, and what the two are called. */
const ways: Partial<Record<FloorMeasure, { legend: string; plus: string; minus: string }>> = {
  past: { legend: 'the sensor stands', plus: 'past it', minus: 'short' },
  turn: { legend: 'turned to the', plus: 'right', minus: 'left' },
};

interface Typed {
  text: string;
  minus: boolean;
}

const blank: Typed = { text: '', minus: false };
const field = 'flex min-w-0 flex-col gap-0.5';

/** One trial: what ruler, protractor, stopwatch or count say, judged while it is typed. */
export function TrialForm({ context }: { context: StageContext }) {
  const { path, record, trials, skew } = context;
  const waiting = useWaiting(trialAddition).filter(
    ({ given }) => given.team === path.id && given.lesson === path.slug,
  );
  const [sending, setSending] = useState(false);
  const { lesson } = record;
  const measures = measuresOf(lesson);
  const [typed, setTyped] = useState<Partial<Record<FloorMeasure, Typed>>>({});
  const [rested, setRested] = useState(true);
  const [took, setTook] = useState('');
  const [changed, setChanged] = useState('');
  const [note, setNote] = useState('');
  const [tried, setTried] = useState(false);
  const of = (measure: FloorMeasure) => typed[measure] ?? blank;
  const valueFor = (measure: FloorMeasure): number | null => {
    const { text, minus } = of(measure);
    const value = text.trim() === '' ? NaN : typedNumber(text);
    const [least, most] = limits[measure];
    if (!(value >= least && value <= most)) return null;
    return (minus ? -1 : 1) * value * measureFacts[measure].perUnit;
  };
  const wrong = (measure: FloorMeasure) => of(measure).text.trim() !== '' && valueFor(measure) === null;
  const seconds = took.trim() === '' ? null : typedNumber(took);
  const tookWrong = seconds !== null && !(seconds >= 0 && seconds <= 3600);
  const values = measures.map((measure) => [measure, valueFor(measure)] as const);
  const some = values.some(([, value]) => value !== null) || (measures.length === 0 && seconds !== null);
  const good = some && !measures.some(wrong) && !tookWrong;
  const body = useMemo(() => {
    const at = Object.fromEntries(values) as Partial<Record<FloorMeasure, number | null>>;
    return {
      pastMm: at.past ?? null,
      gapMm: at.gap ?? null,
      turnedDeg: at.turn ?? null,
      counted: at.count ?? null,
      rested,
      tookS: seconds,
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the numbers, not the list that holds them
  }, [JSON.stringify(values), rested, seconds]);
  const judgements = useMemo(() => {
    if (!good) return null;
    const evidence = evidenceOfMeasured({
      ...(body.pastMm === null ? {} : { landmark: lesson.floor.landmark, pastMm: body.pastMm }),
      ...(body.gapMm === null ? {} : { gapMm: body.gapMm }),
      ...(body.turnedDeg === null ? {} : { turnedDeg: body.turnedDeg }),
      ...(body.counted === null ? {} : { count: body.counted }),
      rested: body.rested,
      tookS: body.tookS,
    });
    return lesson.expectations.map((e) => judge(e, evidence));
  }, [good, body, lesson]);
  const submit = () => {
    setTried(true);
    if (!good) return;
    setSending(true);
    const trial = { ...body, changed: changed.trim(), note: note.trim(), at: Date.now() + skew };
    outbox.send(trialAddition, { team: path.id, lesson: path.slug, trial }).then(
      (answer) => {
        setSending(false);
        if (!answer) toast('The server does not answer. The trial is kept here and sent when it does.');
        setTyped({});
        setTook('');
        setChanged('');
        setNote('');
        setRested(true);
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
      <div className="grid grid-cols-2 gap-3">
        {measures.map((measure) => {
          const way = ways[measure];
          const bad = wrong(measure) || (tried && !some);
          const [least, most] = limits[measure];
          return (
            <div key={measure} className="contents">
              <label className={`${field} ${way ? '' : 'col-span-2'}`}>
                <span className="text-ink-2">{labels[measure]}</span>
                <input
                  className="input w-full font-mono text-xl"
                  inputMode="decimal"
                  autoComplete="off"
                  aria-invalid={bad}
                  value={of(measure).text}
                  onChange={(event) =>
                    setTyped({ ...typed, [measure]: { ...of(measure), text: event.target.value } })
                  }
                />
                {bad ? (
                  <span className="text-fault">
                    {measure === 'past'
                      ? 'Millimetres by ruler, 0 to 10000.'
                      : `A number by ${measureFacts[measure].tool}, ${least} to ${most}.`}
                  </span>
                ) : null}
              </label>
              {way ? (
                <fieldset className={field}>
                  <legend className="mb-0.5 text-ink-2">{way.legend}</legend>
                  <div className="flex min-h-11 items-center gap-4">
                    {([false, true] as const).map((minus) => (
                      <label key={String(minus)} className="flex min-h-11 items-center gap-2">
                        <input
                          type="radio"
                          name={measure}
                          className="size-5 accent-(--sea)"
                          checked={of(measure).minus === minus}
                          onChange={() => setTyped({ ...typed, [measure]: { ...of(measure), minus } })}
                        />{' '}
                        {minus ? way.minus : way.plus}
                      </label>
                    ))}
                  </div>
                </fieldset>
              ) : null}
            </div>
          );
        })}
        <fieldset className={field}>
          <legend className="mb-0.5 text-ink-2">came to rest by itself</legend>
          <div className="flex min-h-11 items-center gap-4">
            {([true, false] as const).map((yes) => (
              <label key={String(yes)} className="flex min-h-11 items-center gap-2">
                <input
                  type="radio"
                  name="rested"
                  className="size-5 accent-(--sea)"
                  checked={rested === yes}
                  onChange={() => setRested(yes)}
                />{' '}
                {yes ? 'yes' : 'no'}
              </label>
            ))}
          </div>
        </fieldset>
        <label className={field}>
          <span className="text-ink-2">stopwatch, s (if taken)</span>
          <input
            className="input w-full font-mono"
            inputMode="decimal"
            autoComplete="off"
            aria-invalid={tookWrong}
            value={took}
            onChange={(event) => setTook(event.target.value)}
          />
          {tookWrong ? <span className="text-fault">Seconds, 0 to 3600.</span> : null}
        </label>
        <label className={field}>
          <span className="text-ink-2">changed before it</span>
          <input
            className="input w-full"
            maxLength={120}
            autoComplete="off"
            placeholder="threshold 20"
            value={changed}
            onChange={(event) => setChanged(event.target.value)}
          />
        </label>
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
          {measures.includes('past')
            ? 'Measure from the near edge of the line to the spot under the sensor.'
            : `Measure by ${[...measures.map((measure) => measureFacts[measure].tool), 'stopwatch'].join(', ')}.`}
        </p>
      )}
      {waiting.length > 0 ? (
        <ul role="status" className="flex flex-col gap-1 border-l-4 border-l-brass bg-brass-soft px-3 py-2">
          {waiting.map(({ key, refused }, i) => (
            <li key={key} className="flex flex-wrap items-center gap-2">
              {refused ? (
                <>
                  <strong className="text-fault">Trial {trials.length + i + 1} was refused:</strong> {refused}
                  <button type="button" className="btn btn-plain" onClick={() => outbox.drop(key)}>
                    Drop it
                  </button>
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
      <div>
        <button type="submit" className="btn btn-primary" disabled={sending}>
          Log trial {trials.length + waiting.length + 1}
        </button>
      </div>
    </form>
  );
}
