import { countOf } from '../quantity/index.ts';
import { learnFrom, type Learnt } from './learn.ts';
import { forecastPace, type PaceForecast, type PaceGiven } from './pace.ts';
import { mayBeAtHome, mayBeLeftOut, milestonesOf, type HourPlan, type HourStep } from './plan.ts';
import { matNotices, queueOf, type MatNotice, type Place, type Turn } from './queue.ts';
import { standingIn, tookOf, waitingIn, type Standing, type TeamOnSheet, type Took } from './visits.ts';

/** All that an outlook is made from. Minutes are those of the hour. */
export interface HourGiven {
  steps: readonly HourStep[];
  teams: readonly (TeamOnSheet & { name: string })[];
  turns: readonly { team: number; mat: number; beganMin: number; endedMin: number | null }[];
  before: readonly Took[];
  mats: number;
  turnMin: number;
  nowMin: number;
  endMin: number;
}
/** What would change the outlook, one press each. */
export interface Cut {
  id: string;
  says: string;
  change: { plan: HourPlan } | { moreMin: number };
  /** Teams that are through with everything by the end, in the middle of the forecast: as it is, and with it. */
  from: number;
  to: number;
}
/** How a class is against its plan at a step that something hangs on. */
export interface MilestoneState {
  word: string;
  byMin: number;
  done: number;
  of: number;
  /** Its time is over and not all are through. */
  late: boolean;
}
export interface Outlook {
  standings: Map<number, Standing>;
  learnt: Learnt;
  forecast: PaceForecast;
  milestones: MilestoneState[];
  queue: Place[];
  notices: MatNotice[];
}

const running = (turns: HourGiven['turns']): Turn[] => turns.filter(({ endedMin }) => endedMin === null);

/** A team is behind when it is done with its step later than planned and the hour in all likelihood ends before it is through. */
export const UNLIKELY = 0.2;

function paceOf(given: HourGiven, learnt: Learnt, standings: Outlook['standings']): PaceGiven {
  const { steps, teams, turns, nowMin, endMin, mats } = given;
  return {
    steps,
    learnt,
    nowMin,
    endMin,
    mats,
    turns: running(turns),
    teams: teams.map(({ id }) => ({
      id,
      ...standings.get(id)!,
      turns: turns.filter(({ team }) => team === id).length,
    })),
  };
}

const learn = ({ steps, teams, before }: HourGiven, standings: Outlook['standings']): Learnt =>
  learnFrom(steps, [
    // Teams of other hours are others, whatever their numbers.
    ...before.map((took) => ({ ...took, team: -took.team })),
    ...teams.flatMap((team) => tookOf(team.id, steps, team.visits, standings.get(team.id)!)),
  ]);

/** Where a class is, how it will go on, who is next on the mats. */
export function outlookOf(given: HourGiven): Outlook {
  const { steps, teams, turns, mats, turnMin, nowMin, endMin } = given;
  const standings = new Map(teams.map((team) => [team.id, standingIn(steps, team.strip, team.visits)]));
  const learnt = learn(given, standings);
  const queue = queueOf(waitingIn(steps, teams, turns));
  return {
    standings,
    learnt,
    forecast: forecastPace(paceOf(given, learnt, standings)),
    queue,
    notices:
      mats === 0 ? [] : matNotices(queue, { mats, turnMin, now: nowMin, endMin, turns: running(turns) }),
    milestones: milestonesOf(steps).map(({ step, word, byMin }) => {
      const index = steps.findIndex(({ id }) => id === step);
      const done = [...standings.values()].filter(({ at }) => at > index).length;
      return { word, byMin, done, of: teams.length, late: nowMin > byMin && done < teams.length };
    }),
  };
}

/** The last step that everybody ought to have done; -1 where there is none. */
const keyStep = (steps: readonly HourStep[]): number => {
  const proved = steps.findLastIndex(({ kind }) => kind === 'prove');
  return proved >= 0 ? proved : steps.findLastIndex(({ minutes }) => minutes > 0);
};

const list = (names: readonly string[]): string =>
  names.length < 2 ? (names[0] ?? '') : `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`;

/** The outlook in sentences: how many will be how far by the end, and who will not get to the mats. `clock` says a minute of the hour as a time of day. */
export function outlookSays(given: HourGiven, outlook: Outlook, clock: (minute: number) => string): string[] {
  const { steps, teams, endMin } = given;
  const { forecast, standings } = outlook;
  const key = keyStep(steps);
  if (key < 0 || teams.length === 0) return [];
  const { low, mid, high } = forecast.reached[key]!;
  const range = low === high ? '' : ` (${low} to ${high})`;
  const step = steps[key]!;
  const done = step.kind === 'prove' ? 'will have proved' : `will be done with ${step.word}`;
  const first = `${mid} of ${countOf(teams.length, 'team')}${range} ${done} by ${clock(endMin)}.`;
  const floor = steps.findIndex(({ onMat }) => onMat);
  const before = floor > 0 ? floor - 1 : -1;
  const late = forecast.teams.filter(
    ({ id, steps: own }) => before >= 0 && standings.get(id)!.at <= before && own[before]!.byEnd < UNLIKELY,
  );
  const names = late.map(({ id }) => teams.find((team) => team.id === id)!.name);
  return [
    first,
    ...(names.length === 0
      ? []
      : [`${list(names)} will hardly reach ${steps[floor]!.word}: less than one chance in five.`]),
  ];
}

/** Minutes that one press adds to an hour. */
export const MORE_MIN = 5;
/** Fewest trials that a cut leaves: one alone says nothing. */
const FEWEST_TRIALS = 2;

const withPlan = (steps: readonly HourStep[], plan: HourPlan): HourStep[] => {
  let used = 0;
  return steps
    .filter(({ id }) => !plan.skipped?.includes(id) && !plan.atHome?.includes(id))
    .map((step) => {
      const minutes = plan.minutes?.[step.id] ?? step.minutes;
      const fromMin = used;
      used += minutes;
      return { ...step, minutes, trials: plan.trials?.[step.id] ?? step.trials, fromMin, toMin: used };
    });
};
/** Where a team is when some steps are no more. */
const inSteps = (old: readonly HourStep[], now: readonly HourStep[], standing: Standing): Standing => {
  const next = old.slice(standing.at).find(({ id }) => now.some((step) => step.id === id));
  return { ...standing, at: next ? now.findIndex(({ id }) => id === next.id) : now.length };
};

/** What could be cut or stretched, with what it would change by the forecast; what changes nothing is left out. `plan` is what was changed already. */
export function cutsOf(given: HourGiven, outlook: Outlook, plan: HourPlan): Cut[] {
  const { steps } = given;
  const { learnt, standings } = outlook;
  const open = steps.filter((_, i) => [...standings.values()].some(({ at }) => at <= i));
  const through = (changed: readonly HourStep[], endMin: number): number => {
    const moved = new Map([...standings].map(([id, one]) => [id, inSteps(steps, changed, one)]));
    const pace = paceOf({ ...given, steps: changed, endMin }, learnt, moved);
    return forecastPace(pace).reached.at(-1)?.mid ?? 0;
  };
  const from = through(steps, given.endMin);
  const more = (change: HourPlan): HourPlan => ({
    ...plan,
    ...change,
    minutes: { ...plan.minutes, ...change.minutes },
    trials: { ...plan.trials, ...change.trials },
    atHome: [...new Set([...(plan.atHome ?? []), ...(change.atHome ?? [])])],
    skipped: [...new Set([...(plan.skipped ?? []), ...(change.skipped ?? [])])],
  });
  const cuts: (Omit<Cut, 'from' | 'to'> & { steps: HourStep[]; endMin: number })[] = [];
  const add = (id: string, says: string, change: HourPlan) =>
    cuts.push({
      id,
      says,
      change: { plan: more(change) },
      steps: withPlan(steps, change),
      endMin: given.endMin,
    });
  for (const step of open) {
    if (step.onMat && step.trials !== null && step.trials > FEWEST_TRIALS)
      add(`trials ${step.id}`, `${step.word} down to ${FEWEST_TRIALS} trials`, {
        trials: { [step.id]: FEWEST_TRIALS },
        minutes: { [step.id]: Math.max(1, Math.round((step.minutes * FEWEST_TRIALS) / step.trials)) },
      });
    if (step.minutes <= 0) continue;
    if (mayBeAtHome(step)) add(`home ${step.id}`, `${step.word} as homework`, { atHome: [step.id] });
    else if (mayBeLeftOut(step)) add(`skip ${step.id}`, `leave out ${step.word}`, { skipped: [step.id] });
  }
  cuts.push({
    id: 'more',
    says: `${MORE_MIN} min more`,
    change: { moreMin: MORE_MIN },
    steps: [...steps],
    endMin: given.endMin + MORE_MIN,
  });
  return cuts
    .map(({ steps: changed, endMin, ...cut }) => ({ ...cut, from, to: through(changed, endMin) }))
    .filter(({ to }) => to > from)
    .sort((a, b) => b.to - a.to);
}
