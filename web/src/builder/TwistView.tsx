import { useMemo, type ReactNode } from 'react';
import { useSearchParams } from 'react-router';
import {
  loneNumbers,
  textsFollow,
  twistFaults,
  variantOf,
  WORLDS,
  worldOf,
  type Twist,
} from '@vigilum/core/lesson';
import { Button } from '../ui/Button.tsx';
import { MatDrawing } from '../run/MatDrawing.tsx';
import { Choice } from '../ui/Choice.tsx';
import { Panel } from '../ui/Panel.tsx';
import { without } from '../ui/without.ts';
import { useBuilder } from './BuilderLayout.tsx';
import { HandOut } from './HandOut.tsx';
import { Levels } from './Levels.tsx';
import { isEmpty, noTwist, TwistEditor } from './TwistEditor.tsx';

/** One of the lesson's two twists, and how it is changed; an empty one is left out. */
function useTwist(of: 'twist' | 'varies'): [Twist, (next: Twist, field?: string) => void] {
  const { lesson, change } = useBuilder();
  return [
    lesson[of] ?? noTwist,
    (next, field = '') => change(isEmpty(next) ? without(lesson, of) : { ...lesson, [of]: next }, field),
  ];
}

/** What differs from team to team: parameters, what follows them, and every team's own variant. */
function FromTeamToTeam({ choice }: { choice: ReactNode }) {
  const { lesson, change } = useBuilder();
  const [twist, put] = useTwist('twist');
  const faults = useMemo(() => twistFaults(lesson), [lesson]);
  const lone = useMemo(() => loneNumbers(lesson), [lesson]);
  const usual = useMemo(() => variantOf(lesson), [lesson]);
  return (
    <>
      <Panel title="What differs" aside={choice}>
        <TwistEditor
          twist={twist}
          usual={usual}
          each="team"
          faults={faults}
          put={put}
          empty="A twist gives each team its own numbers. Add one, then write its name in braces, {name}, where it stands in a text or script."
        >
          {twist.parameters.some(({ is }) => is === 'number') ? <Levels twist={twist} put={put} /> : null}
          {lone.map(({ parameter, says, places: where }) => (
            <div
              key={parameter}
              className="flex flex-wrap items-center gap-x-3 gap-y-2 border-l-4 border-l-brass pl-3"
            >
              <span>
                <strong>
                  “{says}” still stands in {where.join(', ')}.
                </strong>{' '}
                <span className="text-ink-2">Every team would read the usual number there.</span>
              </span>
              <Button onClick={() => change(textsFollow(lesson), 'texts follow')}>
                Write {`{${parameter}}`} there
              </Button>
            </div>
          ))}
        </TwistEditor>
      </Panel>
      <Panel scrolls title="Every team its own">
        <HandOut ready={twist.parameters.length > 0 && faults.length === 0} />
      </Panel>
    </>
  );
}

/** What differs from run to run of a proof, so that an answer that was only learnt does not pass. */
function FromRunToRun({ choice }: { choice: ReactNode }) {
  const { lesson } = useBuilder();
  const [varies, put] = useTwist('varies');
  const faults = useMemo(
    () => (lesson.varies ? twistFaults({ ...lesson, twist: lesson.varies }) : []),
    [lesson],
  );
  const usual = useMemo(() => without(lesson, 'twist'), [lesson]);
  const drawn = useMemo(
    () =>
      varies.parameters.length > 0 && faults.length === 0
        ? Array.from({ length: WORLDS }, (_, seed) => worldOf(lesson, seed))
        : [],
    [lesson, varies, faults],
  );
  return (
    <>
      <Panel title="What differs" aside={choice}>
        <TwistEditor
          twist={varies}
          usual={usual}
          each="run"
          faults={faults}
          put={put}
          empty="Let the task differ from run to run: how many lines, which way, how long. A number that was typed because it happened to fit then fails. Teams are told what will differ, and between which values."
        />
      </Panel>
      <Panel
        scrolls
        title="The tasks that a proof draws"
        aside={drawn.length > 0 ? `${drawn.length} of them` : undefined}
      >
        {drawn.length === 0 ? (
          <p className="text-ink-2">Every run has the same task; only the room and the robot differ.</p>
        ) : (
          <ol className="grid grid-cols-2 gap-3">
            {drawn.map(({ lesson: task, says }, i) => (
              <li key={i} className="flex min-w-0 flex-col gap-1">
                <MatDrawing
                  plain
                  className="h-28 w-full"
                  course={task.course}
                  label={`Task ${i + 1}: ${says}`}
                />
                <span>
                  <span className="font-mono text-ink-2">{i + 1}</span> {says}
                </span>
              </li>
            ))}
          </ol>
        )}
      </Panel>
    </>
  );
}

/** What differs: from team to team, or from run to run. */
export default function TwistView() {
  const [search, setSearch] = useSearchParams();
  const of = search.get('of') === 'run' ? 'run' : 'team';
  const choice = (
    <Choice
      label="What differs"
      options={['team', 'run']}
      words={{ team: 'from team to team', run: 'from run to run' }}
      value={of}
      choose={(next) => setSearch(next === 'run' ? { of: next } : {}, { replace: true })}
    />
  );
  return (
    <div className="grid min-h-0 flex-1 gap-4 lg:grid-cols-[minmax(0,1.15fr)_minmax(0,1fr)] lg:grid-rows-[minmax(0,1fr)]">
      {of === 'run' ? <FromRunToRun choice={choice} /> : <FromTeamToTeam choice={choice} />}
    </div>
  );
}
