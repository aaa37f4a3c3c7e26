import { Noise } from '../../sim/index.ts';
import { adviseNext, knobsOf, withKnobs, type Goal, type Knob, type Results, type Trial } from '../index.ts';

/** A team that tunes: its script, what its robot does with the numbers, and what the lesson wants. */
export interface SyntheticTeam {
  text: string;
  goals: Goal[];
  source: 'try' | 'floor';
  /** What comes out of these numbers: the law that nobody in the test tells the team. */
  law: (value: (name: string) => number, noise: Noise) => { results: Results; kept: boolean };
}

const trialOf = (team: SyntheticTeam, text: string, nth: number, noise: Noise): Trial => {
  const knobs = knobsOf(text);
  const value = (name: string) => knobs.find((knob) => knob.name === name)!.value;
  return {
    id: String(nth),
    at: nth * 60_000,
    source: team.source,
    version: 1,
    knobs: knobs.map(({ name, value: now, unit }) => ({ name, value: now, unit })),
    shape: 0,
    runs: 1,
    said: '',
    ...team.law(value, noise),
  };
};

/** How many trials a team needs that does what it is told, until it is told that it is done; null when it never is. */
export function byAdvice(team: SyntheticTeam, seed: number, most = 60): { trials: Trial[]; done: boolean } {
  const noise = new Noise(seed);
  let { text } = team;
  const trials: Trial[] = [];
  while (trials.length < most) {
    trials.push(trialOf(team, text, trials.length, noise));
    const advice = adviseNext({ trials, goals: team.goals, knobs: knobsOf(text), source: team.source });
    if (advice.what === 'done') return { trials, done: true };
    if (advice.what === 'repeat') continue;
    if (advice.knob === null || advice.value === null) return { trials, done: false };
    text = withKnobs(text, { [advice.knob]: advice.value });
  }
  return { trials, done: false };
}

/** The same team that takes any value of its sliders, one number after the other in turn, until one trial is right. */
export function byChance(
  team: SyntheticTeam,
  seed: number,
  tuned: readonly string[],
  most = 60,
): { trials: Trial[]; done: boolean } {
  const noise = new Noise(seed);
  const dice = new Noise(seed + 1);
  let { text } = team;
  const trials: Trial[] = [];
  const slider = (knob: Knob) => Math.round(dice.between(knob.low, knob.high) / knob.step) * knob.step;
  while (trials.length < most) {
    const trial = trialOf(team, text, trials.length, noise);
    trials.push(trial);
    if (trial.kept) return { trials, done: true };
    const name = tuned[trials.length % tuned.length]!;
    // The sliders are those of the first script: nobody’s range grows with what was tried.
    const knob = knobsOf(team.text).find((one) => one.name === name)!;
    text = withKnobs(text, { [name]: slider(knob) });
  }
  return { trials, done: false };
}
