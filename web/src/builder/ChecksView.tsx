import { Plus } from 'lucide-react';
import { useEffect } from 'react';
import { Link, useLocation, useNavigate } from 'react-router';
import type { Lesson, TypicalFault } from '@vigilum/core/lesson';
import { Labelled } from '../ui/fields.tsx';
import { Button } from '../ui/Button.tsx';
import { Panel } from '../ui/Panel.tsx';
import { RemoveButton } from '../ui/RemoveButton.tsx';
import { without } from '../ui/without.ts';
import { useBuilder } from './BuilderLayout.tsx';
import { ScriptBox } from './ScriptBox.tsx';

/** What a finding of Fairness or Strength brings along: an answer to keep, or a break that is right as well. */
export interface Decided {
  keep?: TypicalFault;
  accept?: string;
}

/** A lesson with one more answer that is right, or one more break that is; the same where it has it already. */
export function withDecided(lesson: Lesson, { keep, accept }: Decided): Lesson {
  const right = lesson.rightToo ?? [];
  const accepts = lesson.accepts ?? [];
  if (keep && !right.some(({ script }) => script === keep.script))
    return { ...lesson, rightToo: [...right, keep] };
  if (accept && !accepts.includes(accept)) return { ...lesson, accepts: [...accepts, accept] };
  return lesson;
}

/** Scripts with a sentence each: the answers that must pass, or those that must not. */
function Scripts({
  of,
  label,
  placeholder,
}: {
  of: 'rightToo' | 'faults';
  label: string;
  placeholder: string;
}) {
  const { lesson, change } = useBuilder();
  const list = lesson[of] ?? [];
  const put = (next: TypicalFault[], field = '') =>
    change(next.length === 0 ? without(lesson, of) : { ...lesson, [of]: next }, field);
  const edit = (i: number, part: Partial<TypicalFault>) =>
    put(
      list.map((one, j) => (j === i ? { ...one, ...part } : one)),
      `${of} ${i} ${Object.keys(part).join()}`,
    );
  return (
    <>
      <ol className="flex flex-col gap-4">
        {list.map(({ name, script }, i) => (
          <li key={i} className="flex flex-col gap-2 border-l-4 border-l-line pl-3">
            <div className="flex items-end gap-2">
              <Labelled
                label={
                  <>
                    {label} {i + 1}
                  </>
                }
                className="min-w-0 flex-1"
              >
                <input
                  className="input h-11 w-full"
                  maxLength={120}
                  placeholder={placeholder}
                  value={name}
                  onChange={(event) => edit(i, { name: event.target.value })}
                />
              </Labelled>
              <RemoveButton
                title={`Take ${label} ${i + 1} out`}
                onClick={() => put(list.filter((_, j) => j !== i))}
              />
            </div>
            <ScriptBox
              label={`its script, ${label} ${i + 1}`}
              lesson={lesson}
              text={script}
              change={(text) => edit(i, { script: text })}
            />
          </li>
        ))}
      </ol>
      <Button
        icon={Plus}
        className="mt-3 w-fit"
        disabled={list.length >= 40}
        onClick={() => put([...list, { name: placeholder, script: lesson.modelScript }])}
      >
        Add one, from the model answer
      </Button>
    </>
  );
}

/** What the checks must let pass, and what they must not: other right answers, accepted breaks, typical faults. */
export default function ChecksView() {
  const { lesson, change } = useBuilder();
  const { state, pathname } = useLocation() as { state: Decided | null; pathname: string };
  const navigate = useNavigate();
  // What was decided on another page is put down here once; going back and forth adds nothing.
  useEffect(() => {
    if (!state) return;
    const next = withDecided(lesson, state);
    if (next !== lesson) change(next);
    void navigate(pathname, { replace: true, state: null });
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once for what was brought along
  }, [state]);
  const accepts = lesson.accepts ?? [];
  const put = (next: string[]) =>
    change(next.length === 0 ? without(lesson, 'accepts') : { ...lesson, accepts: next });
  return (
    <div className="grid min-h-0 flex-1 gap-4 lg:grid-cols-[minmax(0,1fr)_minmax(0,1fr)] lg:grid-rows-[minmax(0,1fr)]">
      <Panel
        title="Right as well"
        aside={
          <Link
            className="inline-block min-h-11 content-center text-sea underline"
            to={`/lessons/${lesson.slug}/fairness`}
          >
            judge them all in Fairness
          </Link>
        }
      >
        <p className="mb-3 text-ink-2">
          Other answers that do the task, each with what it does and why that is right. The checks should let
          every one pass.
        </p>
        <Scripts of="rightToo" label="answer" placeholder="turns the other way: both are right" />
        {accepts.length > 0 ? (
          <section className="mt-5">
            <h3 className="mb-1 font-bold">Breaks of the model answer that are right as well</h3>
            <ul className="flex flex-col gap-1">
              {accepts.map((name) => (
                <li key={name} className="flex items-center gap-2">
                  <span className="min-w-0 flex-1 font-mono">{name}</span>
                  <RemoveButton
                    title={`No longer accept ${name}`}
                    onClick={() => put(accepts.filter((one) => one !== name))}
                  />
                </li>
              ))}
            </ul>
          </section>
        ) : null}
      </Panel>
      <Panel
        title="Wrong in the usual ways"
        aside={
          <Link
            className="inline-block min-h-11 content-center text-sea underline"
            to={`/lessons/${lesson.slug}/strength`}
          >
            break the answer in Strength
          </Link>
        }
      >
        <p className="mb-3 text-ink-2">
          What teams of earlier years wrote, and what is wrong with it. The checks must catch every one.
        </p>
        <Scripts of="faults" label="fault" placeholder="forgets to stop" />
      </Panel>
    </div>
  );
}
