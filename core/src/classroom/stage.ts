import type { Stage, StageName, StageState } from './standing.ts';

export const stage = (name: StageName, state: StageState, figure = '', says = '', mend = ''): Stage => ({
  stage: name,
  state,
  figure,
  says,
  mend,
});

/** Longest figure that fits under a stage of the watch strip. */
const FIGURE_LETTERS = 13;

/**
 * Several steps of one kind as one stage: the first that is not settled speaks for all; once all are, the first that is
 * risky does. Their figures stand side by side where they fit.
 */
export function together(name: StageName, parts: readonly Stage[]): Stage {
  const [only] = parts;
  if (!only) return stage(name, 'done');
  if (parts.length === 1) return only;
  const open = parts.find(({ state }) => state !== 'done' && state !== 'risk');
  const speaks = open ?? parts.find(({ state }) => state === 'risk') ?? parts.at(-1)!;
  const figures = parts.map(({ figure }) => figure).filter((figure) => figure !== '');
  const all = figures.join(' | ');
  const begun = parts.some(({ state }) => state !== 'none');
  return {
    ...speaks,
    state: speaks.state === 'none' && begun ? 'now' : speaks.state,
    figure: all.length <= FIGURE_LETTERS ? all : speaks.figure || figures.at(-1)!,
  };
}
