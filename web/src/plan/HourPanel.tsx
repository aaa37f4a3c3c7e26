import { ArrowLeft, ArrowRight, CloudOff, RotateCcw } from 'lucide-react';
import { useState } from 'react';
import { countOf } from '@vigilum/core/quantity';
import {
  arrangementTo,
  type Occupant,
  insertLesson,
  loseSlot,
  moveLesson,
  regainSlot,
  type Reordered,
  type Slot,
} from '@vigilum/core/year';
import type { MeetingEntry, PlanHour, YearPlan } from '@vigilum/contract/types';
import { Button, LinkButton } from '../ui/Button.tsx';
import { useRemoval } from '../data/removal.ts';
import { Labelled, SelectField } from '../ui/fields.tsx';
import { Panel } from '../ui/Panel.tsx';
import { CheckBox } from '../ui/CheckBox.tsx';
import { clockOf, planTouched, slotsOf, useArrange, type Derived } from './usePlan.ts';
import type { Pick } from './entries.ts';

interface Props {
  plan: YearPlan;
  derived: Derived;
  pick: Pick;
  choose: (pick: Pick | null) => void;
}

/** What an hour takes from the cupboard, in words. */
function Takes({ plan, hour }: { plan: YearPlan; hour: PlanHour }) {
  const things = new Map(plan.things.map((thing) => [thing.id, thing]));
  const lines = hour.takes.flatMap(({ thing: id, count }) => {
    const thing = things.get(id);
    return thing ? [thing.kind === 'room' ? thing.name : `${count} × ${thing.name}`] : [];
  });
  return lines.length > 0 ? <p className="text-ink-2">Takes {lines.join(', ')}.</p> : null;
}

const openAround = (slots: readonly Slot[], id: number) => {
  const opens = slots.filter(({ fixed, lost }) => !fixed && !lost);
  const at = opens.findIndex((slot) => slot.id === id);
  return { before: opens[at - 1]?.id ?? null, after: at < 0 ? null : (opens[at + 1]?.id ?? null) };
};

/** One meeting of a class: its lesson moved, put in, taken off; the hour lost, or taking place after all. */
export function HourPanel({ plan, derived, pick, choose }: Props) {
  const hour = pick.hour === null ? null : (derived.hourById.get(pick.hour) ?? null);
  const meeting = pick.meeting === null ? null : (derived.meetingById.get(pick.meeting) ?? null);
  const klass = plan.classes.find(({ id }) => id === (meeting?.class ?? hour?.class));
  const clock = clockOf(plan.zone);
  if (!klass || (!hour && !meeting)) return null;
  const startsAt = meeting?.startsAt ?? hour!.startsAt;
  return (
    <Panel
      className="shrink-0"
      title={hour?.lesson.title ?? (meeting?.lost ? 'Does not take place' : 'No lesson yet')}
      aside={`${klass.name}, ${clock.when(startsAt)}, ${meeting?.minutes ?? hour!.minutes} min`}
      footer={<Button onClick={() => choose(null)}>Close</Button>}
    >
      <div className="flex flex-col gap-2.5">
        {hour ? <Takes plan={plan} hour={hour} /> : null}
        {hour && !hour.open ? (
          <LinkButton className="w-fit" to={`/hours/${hour.id}`}>
            Open the hour
          </LinkButton>
        ) : null}
        {meeting ? (
          <MeetingActions
            key={`${meeting.id} ${hour?.id}`}
            plan={plan}
            meeting={meeting}
            hour={hour}
            choose={choose}
          />
        ) : hour?.open ? (
          <p className="text-ink-2">It was planned for itself, outside the meetings of its class.</p>
        ) : null}
      </div>
    </Panel>
  );
}

function MeetingActions({
  plan,
  meeting,
  hour,
  choose,
}: {
  plan: YearPlan;
  meeting: MeetingEntry;
  hour: PlanHour | null;
  choose: (pick: Pick | null) => void;
}) {
  const { arrange, busy } = useArrange(plan);
  const clock = clockOf(plan.zone);
  const slots = slotsOf(plan, meeting.class);
  const [reason, setReason] = useState('no lesson that day');
  const remove = useRemoval('meetings', 'The meeting is removed.', () => planTouched(meeting.class));
  const titleOf = (what: Occupant): string =>
    'hour' in what
      ? (plan.hours.find(({ id }) => id === what.hour)?.lesson.title ?? 'an hour')
      : (plan.lessons.find(({ slug }) => slug === what.lesson)?.title ?? what.lesson);
  // What is chosen follows once the server has taken a change: refused, the panel stays as it was.
  const go = (after: Reordered | null, says: string, next: Pick | null, why = '') => {
    if (!after) return;
    const over = after.over.map(titleOf);
    arrange(
      meeting.class,
      arrangementTo(slots, after, why),
      over.length > 0 ? `${says} No meeting is left for ${over.join(', ')}.` : says,
      () => choose(next),
    );
  };
  const moveTo = (id: number) => {
    const to = plan.meetings.find((one) => one.id === id)!;
    go(
      moveLesson(slots, meeting.id, id),
      `Moved to ${clock.day(to.startsAt)}; what lies between has followed.`,
      { meeting: id, hour: hour?.id ?? null },
    );
  };
  if (meeting.lost !== null)
    return (
      <>
        <p className="text-ink-2">{meeting.lost}</p>
        <Button
          icon={RotateCcw}
          className="w-fit"
          disabled={busy}
          onClick={() =>
            go(regainSlot(slots, meeting.id), 'It takes place; what came after has moved up.', null)
          }
        >
          It takes place after all
        </Button>
      </>
    );
  if (hour && !hour.open) return null;
  const { before, after } = openAround(slots, meeting.id);
  const open = slots.filter(({ id, fixed, lost }) => !fixed && !lost && id !== meeting.id);
  return (
    <>
      {hour ? (
        <>
          <div className="flex flex-wrap items-center gap-2">
            <Button icon={ArrowLeft} disabled={busy || before === null} onClick={() => moveTo(before!)}>
              Earlier
            </Button>
            <Button after={ArrowRight} disabled={busy || after === null} onClick={() => moveTo(after!)}>
              Later
            </Button>
          </div>
          <SelectField
            label="move to"
            value=""
            none="another meeting …"
            disabled={busy || open.length === 0}
            choose={moveTo}
            options={open.map(({ id, holds }) => {
              const { startsAt } = plan.meetings.find((one) => one.id === id)!;
              const title = holds === null ? 'free' : titleOf(holds);
              return { id, name: `${clock.when(startsAt)} · ${title}` };
            })}
          />
          <CheckBox
            checked={hour.shared}
            change={(shared) =>
              arrange(
                meeting.class,
                {
                  seen: [{ hour: hour.id, meeting: meeting.id }],
                  hours: [{ what: { hour: hour.id }, meeting: meeting.id, shared }],
                },
                shared ? 'Two teams share a robot in this hour.' : 'Every team has its robot in this hour.',
              )
            }
          >
            two teams share a robot
          </CheckBox>
          <Button
            className="w-fit"
            disabled={busy}
            onClick={() =>
              arrange(
                meeting.class,
                {
                  seen: [{ hour: hour.id, meeting: meeting.id }],
                  hours: [{ what: { hour: hour.id }, meeting: null }],
                },
                `${hour.lesson.title} is off the plan.`,
                () => choose({ meeting: meeting.id, hour: null }),
              )
            }
          >
            Take the lesson off
          </Button>
        </>
      ) : null}
      <SelectField
        label={hour ? 'put another lesson before it' : 'lesson'}
        value=""
        none="choose …"
        disabled={busy}
        choose={(slug) => {
          const { title } = plan.lessons.find((one) => one.slug === slug)!;
          go(insertLesson(slots, meeting.id, { lesson: slug }), `${title} is planned.`, null);
        }}
        options={plan.lessons.map(({ slug, title, minutes }) => ({
          id: slug,
          name: `${title}, ${minutes} min`,
        }))}
      />
      <div className="flex flex-wrap items-end gap-2 border-t border-line-soft pt-2">
        <Labelled label="the hour is lost, because" className="min-w-0 flex-1">
          <input
            className="input w-full"
            maxLength={120}
            value={reason}
            onChange={(event) => setReason(event.target.value)}
          />
        </Labelled>
        <Button
          icon={CloudOff}
          disabled={busy || reason.trim() === ''}
          onClick={() =>
            go(
              loseSlot(slots, meeting.id),
              'The hour is lost; its lesson and the rest have moved on.',
              null,
              reason.trim(),
            )
          }
        >
          Lose it
        </Button>
      </div>
      {hour ? null : (
        <Button
          className="w-fit"
          onClick={() => void remove(meeting.id).then((gone) => (gone ? choose(null) : undefined))}
        >
          Remove this meeting
        </Button>
      )}
      <p className="sr-only">{countOf(open.length, 'open meeting')}</p>
    </>
  );
}
