import { Flag, Hand, MessageSquare } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { Link, useLocation, useNavigate } from 'react-router';
import { hourLeft, hourSpent, hourState } from '@vigilum/core/classroom';
import type { TeamHour } from '@vigilum/contract/types';
import { Button, LinkButton } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { useChange } from '../data/queries.ts';
import { useOwnHour } from '../data/teamHour.ts';
import { Dialog } from '../ui/Dialog.tsx';
import { clock as minutesAndSeconds, useNow } from '../ui/time.ts';
import { timeOf } from './useLive.ts';

/** What teams are stuck on when it is nothing that Vigilum has found. */
const usual = [
  'We do not know what to do now.',
  'The robot does something else than we wrote.',
  'Something on the robot is loose or broken.',
];

const nth = (place: number): string =>
  place === 1 ? 'next' : place === 2 ? '2nd' : place === 3 ? '3rd' : `${place}th`;

function useTells(team: number, hour: TeamHour) {
  const tells = () =>
    hour.hour ? [{ what: 'hour' as const, class: hour.hour.class.id, period: hour.hour.id, team }] : [];
  return {
    call: useChange((about: string) => api('PUT /teams/:id/hour/call', { id: team, body: { about } }), tells),
    takeBack: useChange(() => api('DELETE /teams/:id/hour/call', { id: team }), tells),
    seen: useChange((note: number) => api('PUT /teams/:id/hour/notes/:note/seen', { id: team, note }), tells),
    tick: useChange((turn: number) => api('PUT /teams/:id/hour/turns/:turn/tick', { id: team, turn }), tells),
  };
}
type Tells = ReturnType<typeof useTells>;

/** Everybody stops: nothing else can be touched until the teacher lets them go on. */
function Stopped({ says }: { says: string }) {
  const sheet = useRef<HTMLDialogElement>(null);
  useEffect(() => {
    const shown = sheet.current;
    if (shown && !shown.open) shown.showModal();
    return () => shown?.close();
  }, []);
  return (
    <dialog
      ref={sheet}
      aria-label="Everybody stops"
      onCancel={(event) => event.preventDefault()}
      className="m-0 grid h-dvh max-h-none w-dvw max-w-none place-items-center bg-[#0f161c] p-8 text-center text-[#fcfaf5]"
    >
      <div>
        <Hand size={72} className="mx-auto mb-6" aria-hidden="true" />
        <p className="text-4xl leading-tight font-bold">{says}</p>
        <p className="mt-6 text-lg opacity-80">You go on when your teacher lets you. Nothing is lost.</p>
      </div>
    </dialog>
  );
}

/** What a team is stuck on: what Vigilum found, a usual reason, or its own words. */
function StuckDialog({
  finding,
  send,
  close,
}: {
  finding: string | null;
  send: (about: string) => void;
  close: () => void;
}) {
  const [own, setOwn] = useState('');
  const choose = (about: string) => {
    send(about);
    close();
  };
  return (
    <Dialog title="What are you stuck on?" width="w-[34rem]" close={close}>
      <ul className="flex flex-col gap-2">
        {[...(finding ? [finding] : []), ...usual].map((about) => (
          <li key={about}>
            <Button
              className="h-auto min-h-12 w-full justify-start py-2 text-left text-lg"
              onClick={() => choose(about)}
            >
              {about}
            </Button>
          </li>
        ))}
      </ul>
      <form
        className="mt-3 flex flex-wrap gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          if (own.trim() !== '') choose(own.trim());
        }}
      >
        <input
          className="input h-12 min-w-48 flex-1"
          aria-label="in our own words"
          placeholder="in our own words"
          maxLength={300}
          value={own}
          onChange={(event) => setOwn(event.target.value)}
        />
        <Button main type="submit" disabled={own.trim() === ''}>
          Call the teacher
        </Button>
      </form>
    </Dialog>
  );
}

/** The team's turn: how long it has the mat, what to mind first, and the way to Floor. */
function OnMat({ hour, team, tells, now }: { hour: TeamHour; team: number; tells: Tells; now: number }) {
  const { pathname } = useLocation();
  const navigate = useNavigate();
  if (hour.mat?.is !== 'on' || !hour.hour || !hour.run) return null;
  const { mat, beganMin, ticked, cautions, step, turn } = hour.mat;
  const left = hour.run.turnMin - (hourSpent(hour.hour, now) - beganMin);
  const to = `/teams/${team}/lessons/${hour.hour.lesson.slug}/${step}`;
  const start = () => tells.tick.mutate(turn, { onSuccess: () => void navigate(to) });
  return (
    <section aria-label="Your turn" className="bg-signal-soft px-6 py-3 max-sm:px-3">
      <p className="flex flex-wrap items-center gap-x-4 gap-y-1 text-2xl font-bold">
        <Flag size={26} className="text-signal" aria-hidden="true" /> You are on mat {mat}
        <span className={`font-mono ${left < 0 ? 'text-fault' : ''}`}>
          {left < 0 ? 'time is up' : `${minutesAndSeconds(left * 60_000)} left`}
        </span>
        {pathname === to ? null : (
          <LinkButton main className="text-lg" to={to}>
            Go to Floor
          </LinkButton>
        )}
      </p>
      {ticked ? null : (
        <div className="mt-2 rounded-lg border border-brass bg-sheet p-3">
          <p className="font-bold">Before the robot moves</p>
          <ul className="my-1 list-disc pl-5">
            {cautions.map((caution) => (
              <li key={caution}>{caution}</li>
            ))}
          </ul>
          <Button main onClick={start}>
            {hour.run.asksTick ? 'All of this is so: we start' : 'We start'}
          </Button>
        </div>
      )}
    </section>
  );
}

function Bar({ hour, team, receivedAt }: { hour: TeamHour; team: number; receivedAt: number }) {
  const skew = hour.now - receivedAt;
  const now = useNow() + skew;
  const { pathname } = useLocation();
  const [asking, setAsking] = useState(false);
  const [hidden, setHidden] = useState(0);
  const tells = useTells(team, hour);
  const times = hour.hour;
  if (!times || !hour.run) return null;
  const { stopped, told } = hour.run;
  const spent = hourSpent(times, now);
  const state = hourState(times, now);
  const step = hour.steps.find(({ id }) => id === hour.at?.step);
  const stepLeft = step && step.minutes > 0 ? step.minutes - (spent - hour.at!.sinceMin) : null;
  const to = step ? `/teams/${team}/lessons/${times.lesson.slug}/${step.id}` : null;
  const note = hour.notes.find(({ seenAt }) => seenAt === null);
  return (
    <>
      {stopped === null ? null : <Stopped says={stopped} />}
      <div
        role="region"
        aria-label="Our hour"
        className="flex flex-wrap items-center gap-x-5 gap-y-1 border-b border-line bg-sheet px-6 py-1.5 max-sm:px-3"
      >
        <span>
          <span className="text-ink-2">now </span>
          {step && to ? (
            pathname === to ? (
              <strong>{step.word}</strong>
            ) : !pathname.startsWith(`/teams/${team}/lessons/${times.lesson.slug}`) ? (
              <LinkButton main to={to}>
                To {times.lesson.title}
              </LinkButton>
            ) : (
              <Link to={to} className="inline-flex min-h-11 items-center font-bold text-sea underline">
                {step.word}
              </Link>
            )
          ) : (
            <strong>all done</strong>
          )}
          {stepLeft === null ? null : stepLeft >= 0 ? (
            <span className="text-ink-2"> {Math.ceil(stepLeft)} min left for it</span>
          ) : (
            <span className="text-brass"> {Math.ceil(-stepLeft)} min over the plan</span>
          )}
        </span>
        {hour.mat?.is === 'waiting' ? (
          <span>
            <span className="text-ink-2">mat </span>
            <strong>{nth(hour.mat.place)}</strong>
            <span className="text-ink-2">
              {' '}
              of {hour.mat.of}, about {timeOf(now + 60_000 * Math.max(0, hour.mat.fromMin - spent))}
            </span>
          </span>
        ) : null}
        <span className="ml-auto">
          {state === 'over' ? (
            <strong className="text-brass">time is up</strong>
          ) : (
            <>
              <strong className="font-mono text-lg">{minutesAndSeconds(hourLeft(times, now))}</strong>
              <span className="text-ink-2"> {state === 'paused' ? 'paused' : 'left'}</span>
            </>
          )}
        </span>
        {hour.call ? (
          <span role="status" className="flex flex-wrap items-center gap-2">
            <span className="font-bold text-brass">Your teacher knows: “{hour.call.about}”</span>
            <Button onClick={() => tells.takeBack.mutate(undefined)}>Take it back</Button>
          </span>
        ) : (
          <Button icon={Hand} onClick={() => setAsking(true)}>
            We are stuck
          </Button>
        )}
      </div>
      {told !== null && told.at !== hidden ? (
        <p
          role="status"
          className="flex flex-wrap items-center gap-3 bg-sea-soft px-6 py-2 text-lg font-bold text-sea max-sm:px-3"
        >
          {told.says}
          <Button className="ml-auto" onClick={() => setHidden(told.at)}>
            Read
          </Button>
        </p>
      ) : null}
      {note ? (
        <p role="status" className="flex flex-wrap items-center gap-3 bg-brass-soft px-6 py-2 max-sm:px-3">
          <MessageSquare size={20} className="text-brass" aria-hidden="true" />
          <span>
            <span className="text-ink-2">from your teacher: </span>
            <strong>{note.says}</strong>
          </span>
          <Button className="ml-auto" onClick={() => tells.seen.mutate(note.id)}>
            Seen
          </Button>
        </p>
      ) : null}
      <OnMat hour={hour} team={team} tells={tells} now={now} />
      {asking ? (
        <StuckDialog
          finding={hour.finding}
          send={(about) => tells.call.mutate(about)}
          close={() => setAsking(false)}
        />
      ) : null}
    </>
  );
}

/** What a team's tablet shows above every page of its lesson while an hour goes on. */
export function TeamBar({ team }: { team: number }) {
  const { data, dataUpdatedAt } = useOwnHour();
  const bar = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const shown = bar.current;
    if (!shown) return;
    // The lesson below fills what the bar leaves of the screen.
    const root = document.documentElement;
    const observer = new ResizeObserver(() => root.style.setProperty('--bar', `${shown.offsetHeight}px`));
    observer.observe(shown);
    return () => {
      observer.disconnect();
      root.style.removeProperty('--bar');
    };
  }, []);
  return (
    <div ref={bar}>{data?.hour ? <Bar hour={data} team={team} receivedAt={dataUpdatedAt} /> : null}</div>
  );
}
