import { CalendarPlus, ListPlus, Sparkles } from 'lucide-react';
import { useState } from 'react';
import { useQueries } from '@tanstack/react-query';
import { countOf } from '@vigilum/core/quantity';
import { seenInClass, skills as shippedSkills, type Plan, type SchoolAsk } from '@vigilum/core/year';
import type { ClassShown, NewSeries, YearPlan } from '@vigilum/contract/types';
import { Labelled } from '../ui/fields.tsx';
import { Button } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { keys } from '../data/keys.ts';
import { CheckBox } from '../ui/CheckBox.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { Panel } from '../ui/Panel.tsx';
import { clockOf, freeOf, useArrange } from './usePlan.ts';
import { usePlanning } from './usePlanning.ts';

const seenBy = (shown: ClassShown | undefined): string[] =>
  shown ? seenInClass([...shippedSkills, ...shown.own], shown.teams, shown.now) : [];

const NOBODY = 0;

interface Props {
  plan: YearPlan;
  keep: (series: NewSeries) => void;
  keeping: boolean;
}

/** Proposes what to teach: aims, meetings, minutes, kits and cupboard in, lessons in an order with their reasons out. */
export function Proposer({ plan, keep, keeping }: Props) {
  const map = [...shippedSkills, ...plan.skills];
  const given = new Set(plan.lessons.flatMap(({ gives }) => gives));
  const [aims, setAims] = useState<ReadonlySet<string>>(new Set());
  const [chosen, setChosen] = useState<ReadonlySet<number>>(
    () => new Set(plan.classes.slice(0, 1).map(({ id }) => id)),
  );
  const [sessions, setSessions] = useState('8');
  const [minutes, setMinutes] = useState('50');
  const [kit, setKit] = useState('');
  const kits = plan.things.filter(({ kind }) => kind === 'robots');
  const { found, progress, going, begin, cancel, clear } = usePlanning();
  const classes = plan.classes.filter(({ id }) => chosen.has(id));
  const shown = useQueries({
    queries: classes.map(({ id }) => ({
      queryKey: keys.classSkills(id),
      queryFn: () => api('GET /classes/:id/skills', { id }),
    })),
  });
  const have = new Map(classes.map(({ id }, i) => [id, seenBy(shown[i]?.data)]));
  const waiting = shown.some(({ isPending }) => isPending);
  const [n, each] = [Number(sessions), Number(minutes)];
  const good = Number.isInteger(n) && n >= 1 && n <= 80 && Number.isInteger(each) && each >= 5 && each <= 480;
  const ask = (): SchoolAsk => ({
    lessons: plan.lessons,
    things: plan.things,
    booked: plan.hours.filter(({ startsAt }) => startsAt >= plan.now),
    classes:
      classes.length > 0
        ? classes.map((klass) => {
            // Lessons that it had, or that are planned for it, are not proposed again.
            const had = new Set(
              plan.hours.filter((hour) => hour.class === klass.id).map(({ lesson }) => lesson.slug),
            );
            const planned = plan.hours
              .filter((hour) => hour.class === klass.id && hour.open)
              .flatMap(({ lesson }) => plan.lessons.find(({ slug }) => slug === lesson.slug)?.gives ?? []);
            return {
              ...klass,
              have: [...new Set([...have.get(klass.id)!, ...planned])],
              aims: [...aims],
              lessons: plan.lessons
                .filter(({ slug, kits }) => !had.has(slug) && klass.kits.every((kit) => kits.includes(kit)))
                .map(({ slug }) => slug),
              meetings: freeOf(plan, klass.id),
            };
          })
        : [
            {
              id: NOBODY,
              name: 'a new class',
              teams: 0,
              robots: [],
              have: [],
              aims: [...aims],
              lessons: plan.lessons
                .filter((lesson) => kit === '' || lesson.kits.includes(kit))
                .map(({ slug }) => slug),
              meetings: Array.from({ length: n }, (_, i) => ({
                startsAt: plan.now + i * 7 * 86_400_000,
                minutes: each,
                room: null,
              })),
            },
          ],
  });
  return (
    <Panel title="Propose a series" aside="from aims, meetings, minutes, kits and the cupboard">
      <div className="flex flex-col gap-3">
        <fieldset>
          <legend className="text-ink-2">What they shall come to</legend>
          <div className="grid grid-cols-1 gap-x-4 sm:grid-cols-2">
            {map.map(({ id, name }) => (
              <CheckBox
                key={id}
                checked={aims.has(id)}
                change={(on) => {
                  clear();
                  setAims((old) => {
                    const next = new Set(old);
                    if (on) next.add(id);
                    else next.delete(id);
                    return next;
                  });
                }}
              >
                <span>
                  {name}
                  {given.has(id) ? null : <span className="text-ink-2"> (no lesson gives it)</span>}
                </span>
              </CheckBox>
            ))}
          </div>
        </fieldset>
        <fieldset>
          <legend className="text-ink-2">For whom</legend>
          <div className="flex flex-wrap gap-x-5">
            {plan.classes.map(({ id, name }) => (
              <CheckBox
                key={id}
                checked={chosen.has(id)}
                change={(on) => {
                  clear();
                  setChosen((old) => {
                    const next = new Set(old);
                    if (on) next.add(id);
                    else next.delete(id);
                    return next;
                  });
                }}
              >
                {name} <span className="text-ink-2">{countOf(freeOf(plan, id).length, 'free meeting')}</span>
              </CheckBox>
            ))}
          </div>
          {classes.length === 0 ? (
            <div className="mt-1 flex flex-wrap items-end gap-3">
              <NumberField
                label="meetings, 1 to 80"
                value={sessions}
                change={setSessions}
                good={good}
                className="w-24"
              />
              <NumberField
                label="minutes each"
                value={minutes}
                change={setMinutes}
                good={good}
                className="w-24"
              />
              <Labelled label="kit">
                <select className="input w-40" value={kit} onChange={(event) => setKit(event.target.value)}>
                  <option value="">any</option>
                  {kits.map(({ id, name }) => (
                    <option key={id} value={id.slice('kit-'.length)}>
                      {name}
                    </option>
                  ))}
                </select>
              </Labelled>
              <span className="pb-2.5 text-ink-2">for a class that is not here yet</span>
            </div>
          ) : null}
        </fieldset>
        <div className="flex flex-wrap items-center gap-3">
          <Button
            main
            icon={Sparkles}
            disabled={aims.size === 0 || going || waiting || !good}
            onClick={() => void begin(ask())}
          >
            Propose
          </Button>
          {going ? (
            <>
              <progress className="progress w-40" value={progress} aria-label="How far the search is" />
              <Button onClick={cancel}>Cancel</Button>
            </>
          ) : aims.size === 0 ? (
            <span className="text-ink-2">Tick what they shall come to.</span>
          ) : waiting ? (
            <span className="text-ink-2">It looks at what the class has shown …</span>
          ) : null}
        </div>
        {found
          ? found.ask.classes.map((klass) => {
              const own = found.plan.plans.get(klass.id);
              return own ? (
                <Proposal
                  key={klass.id}
                  plan={plan}
                  klass={klass.id}
                  name={klass.name}
                  ask={found.ask}
                  found={own}
                  keep={keep}
                  keeping={keeping}
                />
              ) : null;
            })
          : null}
      </div>
    </Panel>
  );
}

function Proposal({
  plan,
  klass,
  name,
  ask,
  found,
  keep,
  keeping,
}: {
  plan: YearPlan;
  klass: number;
  name: string;
  ask: SchoolAsk;
  found: Plan;
  keep: (series: NewSeries) => void;
  keeping: boolean;
}) {
  const { arrange, busy } = useArrange(plan);
  const clock = clockOf(plan.zone);
  const names = new Map([...shippedSkills, ...plan.skills].map((skill) => [skill.id, skill.name]));
  const words = (ids: readonly string[]) => ids.map((id) => names.get(id) ?? id).join(', ');
  const own = ask.classes.find(({ id }) => id === klass)!;
  const title = (slug: string) => plan.lessons.find((one) => one.slug === slug)?.title ?? slug;
  // The meetings that it was made for may have lessons by now, such as its own.
  const free = new Set(freeOf(plan, klass).map(({ startsAt }) => startsAt));
  const open = found.placed.every(({ meetings }) =>
    meetings.every((at) => free.has(own.meetings[at]!.startsAt)),
  );
  const used = found.placed.flatMap(({ meetings }) => meetings).length;
  const left = own.meetings.length - used;
  return (
    <section className="border-t border-line pt-2" aria-label={`Proposed for ${name}`}>
      <h3 className="font-bold">
        {name}: {own.aims.filter((aim) => own.have.includes(aim) || found.reached.includes(aim)).length} of{' '}
        {countOf(own.aims.length, 'aim')} in {countOf(used, 'meeting')}
      </h3>
      <p className="text-ink-2">
        {found.bound <= found.score
          ? 'No plan comes to more in fewer meetings.'
          : `Not proved to be the best: no plan is worth more than ${found.bound} points, this one is worth ${found.score}.`}
        {left > 0 && found.placed.length > 0 ? ` ${countOf(left, 'meeting')} stay free as a reserve.` : ''}
      </p>
      <ol className="mt-1">
        {found.placed.map(({ slug, meetings, first, again, way }) => (
          <li key={slug} className="flex flex-wrap gap-x-3 border-t border-line-soft py-1.5">
            <span className="w-28 shrink-0 text-ink-2">
              {klass === NOBODY
                ? meetings.length === 1
                  ? `meeting ${meetings[0]! + 1}`
                  : `meetings ${meetings[0]! + 1}–${meetings.at(-1)! + 1}`
                : clock.day(own.meetings[meetings[0]!]!.startsAt)}
            </span>
            <span className="min-w-0 flex-1">
              <b>{title(slug)}</b>
              {meetings.length > 1 ? (
                <span className="text-ink-2"> over {meetings.length} meetings</span>
              ) : null}
              <span className="block text-ink-2">
                {[
                  first.length > 0 ? `for ${words(first)}` : '',
                  again.length > 0 ? `again: ${words(again)}, which makes it shown` : '',
                  way.filter((one) => !first.includes(one)).length > 0
                    ? `on the way: ${words(way.filter((one) => !first.includes(one)))}`
                    : '',
                ]
                  .filter((one) => one !== '')
                  .join('; ')}
              </span>
            </span>
          </li>
        ))}
      </ol>
      {found.missed.map(({ skill, says }) =>
        own.have.includes(skill) ? (
          <p key={skill} className="text-done">
            ✓ {names.get(skill) ?? skill}: seen already, or planned.
          </p>
        ) : (
          <p key={skill} className="text-brass">
            △ {names.get(skill) ?? skill}: {says}.
          </p>
        ),
      )}
      {found.placed.length > 0 ? (
        <div className="mt-2 flex flex-wrap gap-2">
          {klass === NOBODY ? null : (
            <Button
              main
              icon={CalendarPlus}
              disabled={busy || !open}
              title={open ? undefined : 'These meetings have lessons by now'}
              onClick={() =>
                arrange(
                  klass,
                  {
                    seen: [],
                    hours: found.placed.flatMap(({ slug, meetings }) =>
                      meetings.map((at) => {
                        const { startsAt } = own.meetings[at]!;
                        const meeting = plan.meetings.find(
                          (one) => one.class === klass && one.startsAt === startsAt,
                        )!;
                        return { what: { lesson: slug }, meeting: meeting.id };
                      }),
                    ),
                  },
                  `${countOf(found.placed.length, 'lesson')} of ${name} are in the calendar.`,
                )
              }
            >
              Into the calendar
            </Button>
          )}
          <Button
            icon={ListPlus}
            disabled={keeping}
            onClick={() =>
              keep({
                name: `To ${words(found.reached.slice(0, 2))}`.slice(0, 80),
                aim: `Comes to: ${words(found.reached)}.`.slice(0, 400),
                lessons: found.placed.map(({ slug }) => slug),
              })
            }
          >
            Keep as a series
          </Button>
        </div>
      ) : null}
    </section>
  );
}
