import { knobsOf, type Knob, type KnobFacts, type KnobValues } from './knobs.ts';
import { withSaid } from './said.ts';
import type { TrialKnob } from './walk.ts';

/** Most numbers that are kept of one trial: longer scripts have more, and nobody tunes those. */
export const MOST_KNOBS = 40;

/** Knobs as a trial keeps them. */
export const kept = (knobs: readonly Knob[]): TrialKnob[] =>
  knobs.slice(0, MOST_KNOBS).map(({ name, value, unit }) => ({ name, value, unit }));

/** The numbers of a script, with those that were changed for one trial. */
export const trialKnobs = (text: string, facts: KnobFacts | null, changed: KnobValues = {}): TrialKnob[] =>
  kept(knobsOf(text, facts)).map((knob) => ({ ...knob, value: changed[knob.name] ?? knob.value }));

/**
 * The numbers of a trial on the floor. What was changed on the robot itself stays for the next trial of the same script: `before` are
 * the numbers of the one before, null for the first. `said` is what the team wrote about it.
 */
export function floorKnobs(
  text: string,
  facts: KnobFacts | null,
  before: readonly TrialKnob[] | null,
  changed: KnobValues,
  said: string,
): TrialKnob[] {
  const stays = new Map((before ?? []).map(({ name, value }) => [name, value]));
  const own = trialKnobs(text, facts).map((knob) => ({
    ...knob,
    value: changed[knob.name] ?? stays.get(knob.name) ?? knob.value,
  }));
  const onlySaid = (before ?? []).filter(({ name }) => !own.some((knob) => knob.name === name));
  return withSaid([...own, ...onlySaid], said).slice(0, MOST_KNOBS);
}

/** What is wrong with numbers that were changed: a name that the script has no number of. Null when nothing is. */
export function knobFault(text: string, facts: KnobFacts | null, changed: KnobValues): string | null {
  const names = new Set(knobsOf(text, facts).map(({ name }) => name));
  const unknown = Object.keys(changed).find((name) => !names.has(name));
  return unknown === undefined ? null : `The script has no number that is called “${unknown}”.`;
}
