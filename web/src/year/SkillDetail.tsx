import { PencilLine, Undo2 } from 'lucide-react';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import {
  skillsAsked,
  standings,
  type Shown,
  type Skill,
  type Standing,
  type Weight,
} from '@vigilum/core/year';
import { Labelled } from '../ui/fields.tsx';
import { Button } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { useChange, useLessons } from '../data/queries.ts';
import { whenOf } from '../hours/when.ts';
import { VerdictMark, type Tone } from '../ui/verdict.tsx';
import { standingSigns } from './standingWords.ts';

const toneOf: Record<Weight, Tone> = { tried: 'none', once: 'risk', firm: 'done', unkind: 'done' };
const words: Record<Weight, string> = {
  tried: 'tried',
  once: 'seen',
  firm: 'shown',
  unkind: 'shown, on the floor too',
};

/** What one team’s standing in one skill rests on, and the teacher’s word against it. */
export function SkillDetail({
  klass,
  team,
  skill,
  shown,
}: {
  klass: number;
  team: number;
  skill: Skill;
  shown: Shown;
}) {
  const [open, setOpen] = useState(false);
  const [standing, setStanding] = useState<Standing>(shown.standing);
  const [reason, setReason] = useState('');
  const [tried, setTried] = useState(false);
  const told = () => [{ what: 'class' as const, class: klass, part: 'skills' as const }];
  const say = useChange(
    () =>
      api('PUT /teams/:id/skills/:skill', {
        id: team,
        skill: skill.id,
        body: { standing, reason: reason.trim() },
      }),
    told,
  );
  const withdraw = useChange(
    () => api('DELETE /teams/:id/skills/:skill', { id: team, skill: skill.id }),
    told,
  );
  const lessons = useLessons();
  const asking = useMemo(
    () =>
      (lessons.data?.lessons ?? []).filter(
        (lesson) => skill.lessons?.includes(lesson.slug) ?? skillsAsked(lesson).includes(skill.id),
      ),
    [lessons.data, skill],
  );
  const { overruled, rests, longAgo, computed, lastAt } = shown;
  return (
    <div className="flex flex-col gap-3">
      <p>
        <strong className="text-lg">{shown.standing}</strong>
        {longAgo && lastAt !== null ? (
          <span className="text-ink-2"> · long ago: last on {whenOf(lastAt)}</span>
        ) : null}
        <span className="block text-ink-2">Shown by: {skill.shows}.</span>
      </p>
      {overruled ? (
        <div className="border-l-4 border-l-brass bg-brass-soft py-2 pr-2 pl-3">
          <p>
            <strong>
              {overruled.by} says “{overruled.standing}”:
            </strong>{' '}
            {overruled.reason}
          </p>
          <p className="text-ink-2">
            {whenOf(overruled.at)}. Computed: {computed}.
          </p>
          <Button
            icon={Undo2}
            className="mt-2"
            disabled={withdraw.isPending}
            onClick={() => withdraw.mutate(undefined)}
          >
            Take that back
          </Button>
        </div>
      ) : null}
      {rests.length === 0 ? (
        <p className="text-ink-2">Nothing tells: no lesson of this team has asked for it yet.</p>
      ) : (
        <ul className="flex flex-col gap-2" aria-label="What it rests on">
          {rests.map(({ weight, at, says, lesson, hour }, i) => (
            <li key={i} className="border-t border-line-soft pt-2">
              <span className="inline-flex items-center gap-1.5 font-semibold">
                <VerdictMark tone={toneOf[weight]} /> {words[weight]}
              </span>
              <span className="text-ink-2"> · {at > 0 ? whenOf(at) : 'no date'}</span>
              <p>{says}</p>
              {hour === null ? (
                <span className="text-ink-2">{lesson.title}</span>
              ) : (
                <Link
                  className="inline-flex min-h-11 items-center text-sea underline"
                  to={`/hours/${hour}/teams/${team}`}
                >
                  {lesson.title}
                </Link>
              )}
            </li>
          ))}
        </ul>
      )}
      {asking.length > 0 ? (
        <p className="border-t border-line-soft pt-2">
          <span className="text-ink-2">Lessons that let a team show it: </span>
          {asking.map(({ slug, title }, i) => (
            <span key={slug}>
              {i > 0 ? ', ' : ''}
              <Link
                className="inline-flex min-h-11 items-center text-sea underline"
                to={`/lessons/${slug}/about`}
              >
                {title}
              </Link>
            </span>
          ))}
        </p>
      ) : null}
      {open ? (
        <form
          noValidate
          className="flex flex-col gap-2 border-t border-line-soft pt-2"
          onSubmit={(event) => {
            event.preventDefault();
            setTried(true);
            if (reason.trim() === '') return;
            say.mutate(undefined, { onSuccess: () => setOpen(false) });
          }}
        >
          <Labelled label="what they have shown">
            <select
              className="input h-11"
              value={standing}
              onChange={(event) => setStanding(event.target.value as Standing)}
            >
              {standings.map((one) => (
                <option key={one} value={one}>
                  {standingSigns[one].word}
                </option>
              ))}
            </select>
          </Labelled>
          <Labelled label="why; it stays to be read">
            <input
              className="input"
              maxLength={300}
              autoComplete="off"
              aria-invalid={tried && reason.trim() === ''}
              value={reason}
              onChange={(event) => setReason(event.target.value)}
            />
          </Labelled>
          {tried && reason.trim() === '' ? (
            <p role="alert" className="text-fault">
              Say why: whoever reads the record later must know.
            </p>
          ) : null}
          <div className="flex gap-2">
            <Button main type="submit" disabled={say.isPending}>
              Say so
            </Button>
            <Button onClick={() => setOpen(false)}>Leave it</Button>
          </div>
        </form>
      ) : (
        <Button icon={PencilLine} className="w-fit" onClick={() => setOpen(true)}>
          Say otherwise
        </Button>
      )}
    </div>
  );
}
