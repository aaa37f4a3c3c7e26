import { useState } from 'react';
import { countOf } from '@vigilum/core/quantity';
import { arrangementTo, fillFrom, outOfOrder } from '@vigilum/core/year';
import { Button } from '../ui/Button.tsx';
import { SelectField } from '../ui/fields.tsx';
import type { ClassFormProps } from './MeetingsForm.tsx';
import { clockOf, freeOf, slotsOf, useArrange } from './usePlan.ts';

/** Puts what a class has not had of a series into its free meetings of a term. */
export function FillForm({ plan, term, klass, setKlass }: ClassFormProps) {
  const { arrange, busy } = useArrange(plan);
  const clock = clockOf(plan.zone);
  const [series, setSeries] = useState(plan.series[0]?.id ?? 0);
  const chosen = plan.series.find(({ id }) => id === series);
  const slots = slotsOf(plan, klass);
  // Only what is in the term is filled: what is free after it is another term's.
  const free = freeOf(plan, klass).filter(({ startsAt }) => {
    const day = clock.iso(startsAt);
    return term.from <= day && day <= term.to;
  });
  const first = free[0];
  const mine = new Set(free.map(({ id }) => id));
  const had = plan.hours.filter((hour) => hour.class === klass).map(({ lesson }) => lesson.slug);
  const gives = (slug: string) => plan.lessons.find((one) => one.slug === slug)?.gives ?? [];
  // What the class has had, or has in its plan, is not planned a second time.
  const fresh = (chosen?.lessons ?? []).filter((slug) => !had.includes(slug));
  const again = (chosen?.lessons.length ?? 0) - fresh.length;
  const lacks = outOfOrder(
    fresh.map((slug) => ({ lesson: { slug, title: slug } })),
    plan.lessons,
    had.flatMap(gives),
  );
  return (
    <>
      <div className="flex flex-wrap gap-2">
        <SelectField
          className="min-w-0 flex-1"
          label="class"
          value={klass}
          choose={setKlass}
          options={plan.classes}
        />
        <SelectField
          className="min-w-0 flex-1"
          label="series"
          value={series}
          choose={setSeries}
          options={plan.series}
        />
      </div>
      {chosen ? (
        <p className="text-ink-2">
          {countOf(fresh.length, 'lesson')} for {countOf(free.length, 'free meeting')} of {term.name}
          {first ? `, from ${clock.day(first.startsAt)} on` : ''}.
          {again > 0 ? ` ${again} of the series it has had, or has in its plan.` : ''}
        </p>
      ) : null}
      {chosen && lacks.length > 0 ? (
        <p className="text-brass">
          △ {plan.lessons.find((one) => one.slug === fresh[lacks[0]!.at])?.title} comes after skills that this
          class has not had by then.
        </p>
      ) : null}
      <Button
        main
        className="w-fit"
        disabled={fresh.length === 0 || !first || busy}
        onClick={() => {
          const { slots: filled, over } = fillFrom(slots, first!.id, fresh, ({ id }) => mine.has(id));
          const titles = over.flatMap((what) =>
            'lesson' in what
              ? [plan.lessons.find(({ slug }) => slug === what.lesson)?.title ?? what.lesson]
              : [],
          );
          arrange(
            klass,
            arrangementTo(slots, { slots: filled, over }, ''),
            over.length === 0
              ? `${chosen!.name} is planned.`
              : `Planned as far as there are meetings. No room for ${titles.join(', ')}.`,
          );
        }}
      >
        Fill the term
      </Button>
    </>
  );
}
