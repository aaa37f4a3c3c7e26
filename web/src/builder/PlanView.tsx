import { useState } from 'react';
import {
  kitFit,
  materialsFor,
  proposedCautions,
  stepFacts,
  timePlan,
  variantOf,
  type Lesson,
  type TimePlan,
} from '@vigilum/core/lesson';
import { Labelled } from '../ui/fields.tsx';
import { Button } from '../ui/Button.tsx';
import { Panel } from '../ui/Panel.tsx';
import { VerdictMark } from '../ui/verdict.tsx';
import { useBuilder } from './BuilderLayout.tsx';
import { needsBefore, skills, skillsAsked } from '@vigilum/core/year';
import { CheckBox } from '../ui/CheckBox.tsx';
import { Lines } from './Lines.tsx';

const tones = { fits: 'done', 'with a substitute': 'risk', missing: 'fault' } as const;

/** The minutes of the steps along the period, with the slack. */
function TimeBar({ plan }: { plan: TimePlan }) {
  const whole = Math.max(plan.period, plan.used, 1);
  const percent = (minutes: number) => `${(100 * minutes) / whole}%`;
  return (
    <div>
      <div
        className="relative flex h-12 w-full overflow-hidden rounded-lg border border-line bg-sheet"
        role="img"
        aria-label={plan.says}
      >
        {plan.steps
          .filter(({ fromMin, toMin }) => toMin > fromMin)
          .map(({ step, fromMin, toMin }, i) => (
            <div
              key={step.id}
              className={`flex h-full min-w-0 items-center justify-center border-r border-sheet px-1 ${i % 2 === 0 ? 'bg-sea-soft' : 'bg-line-soft'}`}
              style={{ width: percent(toMin - fromMin) }}
              title={`${step.title || stepFacts[step.kind].word}: ${fromMin}–${toMin} min`}
            >
              <span className="truncate">{toMin - fromMin >= 4 ? toMin - fromMin : ''}</span>
            </div>
          ))}
        <div
          aria-hidden="true"
          className="absolute top-0 h-full border-r-3 border-signal"
          style={{ left: `calc(${percent(plan.period)} - 3px)` }}
        />
      </div>
      <p className={`mt-1 ${plan.slack < 0 ? 'font-bold text-fault' : ''}`}>
        {plan.says}
        {plan.homework > 0 ? ` At home: ${plan.homework} min.` : ''}
      </p>
    </div>
  );
}

/** What the lesson is for, whether it fits the period and the kits, and what to lay out. */
export default function PlanView() {
  const { lesson, change, draft } = useBuilder();
  const [teams, setTeams] = useState(8);
  const usual = variantOf(lesson);
  const plan = timePlan(usual);
  const proposals = proposedCautions(usual).filter(({ says }) => !lesson.cautions.includes(says));
  return (
    <div className="grid min-h-0 flex-1 gap-4 lg:grid-cols-[minmax(0,1fr)_minmax(0,1fr)] lg:grid-rows-[minmax(0,1fr)]">
      <Panel title="Aim and time">
        <div className="flex flex-col gap-3">
          <div className="flex flex-wrap gap-3">
            <Labelled label="title" className="min-w-56 flex-1">
              <input
                className="input w-full"
                maxLength={120}
                value={lesson.title}
                onChange={(event) => change({ ...lesson, title: event.target.value }, 'title')}
              />
            </Labelled>
            <Labelled label="period, min">
              <input
                className="input w-24 font-mono"
                inputMode="numeric"
                defaultValue={lesson.minutes}
                onChange={(event) => {
                  const minutes = Number(event.target.value);
                  if (Number.isInteger(minutes) && minutes >= 5 && minutes <= 480)
                    change({ ...lesson, minutes }, 'minutes');
                }}
              />
            </Labelled>
          </div>
          <Labelled label="aim: what the robot does in the end">
            <textarea
              className="input h-auto w-full py-2 leading-6 whitespace-pre-wrap"
              rows={2}
              maxLength={300}
              value={lesson.aim}
              onChange={(event) => change({ ...lesson, aim: event.target.value }, 'aim')}
            />
          </Labelled>
          <TimeBar plan={plan} />
          <Lines
            label="skills that a team shows"
            one="skill"
            most={20}
            lines={lesson.skills ?? []}
            change={(skills, field) => change({ ...lesson, skills }, field)}
          />
          <SkillsOfLesson lesson={lesson} change={change} />
          <Lines
            label="cautions of the whole lesson"
            one="caution"
            most={20}
            lines={lesson.cautions}
            change={(cautions, field) => change({ ...lesson, cautions }, field)}
          />
          {proposals.length > 0 ? (
            <div>
              <h3 className="font-bold">What this lesson does calls for</h3>
              <ul className="flex flex-col gap-1">
                {proposals.map(({ says, because }) => (
                  <li key={says} className="flex items-center gap-2">
                    <Button onClick={() => change({ ...lesson, cautions: [...lesson.cautions, says] })}>
                      Add
                    </Button>
                    <span>
                      {says} <span className="text-ink-2">({because})</span>
                    </span>
                  </li>
                ))}
              </ul>
            </div>
          ) : null}
        </div>
      </Panel>
      <Panel title="Kits and materials">
        <div className="flex flex-col gap-4">
          {draft.kits.map((kit) => {
            const fit = kitFit(usual, kit);
            return (
              <section key={kit.slug}>
                <h3 className="flex items-center gap-2 font-bold">
                  <VerdictMark tone={tones[fit.grade]} /> {fit.says}
                </h3>
                <ul className="mt-1 flex flex-col gap-0.5 pl-8">
                  {fit.sensors.map(({ need, says }) => (
                    <li key={need.socket} className="text-ink-2">
                      {says}
                    </li>
                  ))}
                </ul>
              </section>
            );
          })}
          <div className="flex items-end gap-3">
            <Labelled label="materials for so many teams">
              <input
                className="input w-24 font-mono"
                type="number"
                min={1}
                max={20}
                value={teams}
                onChange={(event) => setTeams(Math.min(20, Math.max(1, Number(event.target.value) || 1)))}
              />
            </Labelled>
          </div>
          <table className="w-full">
            <tbody>
              {materialsFor(usual, teams).map(({ name, count, note }) => (
                <tr key={name} className="border-t border-line-soft">
                  <td className="w-12 py-1.5 pr-3 text-right font-mono">{count}</td>
                  <th scope="row" className="py-1.5 pr-3 text-left font-bold whitespace-nowrap">
                    {name}
                  </th>
                  <td className="py-1.5 text-ink-2">{note}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      </Panel>
    </div>
  );
}

/** What the lesson lets a team show, as it is found in it, and what should have been seen before: plans keep that order. */
function SkillsOfLesson({
  lesson,
  change,
}: {
  lesson: Lesson;
  change: (lesson: Lesson, field: string) => void;
}) {
  const gives = skillsAsked(lesson);
  const needs = needsBefore(lesson, gives);
  const names = (ids: readonly string[]) =>
    skills.filter(({ id }) => ids.includes(id)).map(({ name }) => name);
  return (
    <details>
      <summary className="flex min-h-11 cursor-pointer items-center">
        <span>
          <span className="text-ink-2">in plans it comes after: </span>
          {needs.length === 0 ? 'nothing' : names(needs).join(', ')}
        </span>
      </summary>
      <p className="text-ink-2">
        It lets a team show:{' '}
        {gives.length === 0 ? 'nothing that Vigilum can see yet' : names(gives).join(', ')}.
      </p>
      <div className="grid grid-cols-1 gap-x-4 sm:grid-cols-2">
        {skills.map(({ id, name }) => (
          <CheckBox
            key={id}
            checked={needs.includes(id)}
            change={(on) =>
              change({ ...lesson, needs: on ? [...needs, id] : needs.filter((need) => need !== id) }, 'needs')
            }
          >
            {name}
          </CheckBox>
        ))}
      </div>
    </details>
  );
}
