import { useState } from 'react';
import { countOf } from '@vigilum/core/quantity';
import type { Term, YearPlan } from '@vigilum/contract/types';
import { Button } from '../ui/Button.tsx';
import { useRemoval } from '../data/removal.ts';
import { Folded } from '../ui/Folded.tsx';
import { Panel } from '../ui/Panel.tsx';
import { CopyForm } from './CopyForm.tsx';
import { DaysOffForm } from './DaysOffForm.tsx';
import { FillForm } from './FillForm.tsx';
import { MeetingsForm } from './MeetingsForm.tsx';
import { TermForm } from './TermForm.tsx';
import { clockOf, planTouched } from './usePlan.ts';
import { ZoneForm } from './ZoneForm.tsx';

/** The term that is looked at: its days, its meetings, what fills it, and the days off. */
export function TermPanel({
  plan,
  term,
  choose,
}: {
  plan: YearPlan;
  term: Term | null;
  choose: (id: number) => void;
}) {
  const clock = clockOf(plan.zone);
  const [klass, setKlass] = useState(plan.classes[0]?.id ?? 0);
  const own = term ? plan.meetings.filter((one) => one.term === term.id) : [];
  const taken = new Set(plan.hours.map(({ meeting }) => meeting));
  const free = own.filter(
    ({ id, lost, startsAt }) => lost === null && startsAt >= plan.now && !taken.has(id),
  ).length;
  const remove = useRemoval('terms', 'The term is removed; its meetings stay.', () => planTouched());
  return (
    <Panel
      className="shrink-0"
      title={term?.name ?? 'No term yet'}
      aside={
        term
          ? `${clock.day(Date.parse(`${term.from}T12:00Z`))} to ${clock.day(Date.parse(`${term.to}T12:00Z`))}`
          : 'the days between two holidays'
      }
    >
      {term ? (
        <p className="mb-1 text-ink-2">
          {countOf(own.length, 'meeting')}, {free} still free.
        </p>
      ) : null}
      {term && plan.classes.length > 0 ? (
        <>
          <Folded
            key={`${term.id} ${own.length > 0}`}
            title="Fill it with a series"
            open={own.length > 0 && free > 0}
          >
            <FillForm plan={plan} term={term} klass={klass} setKlass={setKlass} />
          </Folded>
          <Folded key={term.id} title="When a class meets" open={own.length === 0}>
            <MeetingsForm plan={plan} term={term} klass={klass} setKlass={setKlass} />
          </Folded>
        </>
      ) : null}
      <Folded title="Days off">
        <DaysOffForm plan={plan} />
      </Folded>
      {term && term.classes.length > 0 ? (
        <Folded key={`copy ${term.id}`} title="The same again on other days">
          <CopyForm plan={plan} term={term} made={choose} />
        </Folded>
      ) : null}
      <Folded title="Another term" open={!term}>
        <TermForm made={choose} />
        {term ? (
          <Button className="w-fit" onClick={() => void remove(term.id)}>
            Remove {term.name}
          </Button>
        ) : null}
        <ZoneForm plan={plan} />
      </Folded>
    </Panel>
  );
}
