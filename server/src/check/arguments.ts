import { parseArgs } from 'node:util';

/** What the check was asked to do. */
export interface CheckArguments {
  /** A file, or the name of a shipped lesson. */
  lesson: string;
  /** Files and folders with scripts; none: the lesson's own model answer. */
  scripts: string[];
  runs: number | null;
  seed: number | null;
  json: boolean;
  /** Also break the model answer in the usual ways. */
  strength: boolean;
}

export const USAGE = `npm run check -- --lesson <file or name> --script <file or folder> [--runs n] [--seed n] [--json] [--strength]
  --lesson    a lesson as a JSON file, or the name of a shipped one (tide-line, count-the-lanes, …)
  --script    a step script, or a folder of them: every .txt and .script file in it is judged; without it the
              lesson's own model answer is judged
  --runs      10 to 500 runs; the lesson's own number when not said
  --seed      a whole number; the lesson's own when not said
  --json      the result as JSON
  --strength  also break the model answer in the usual ways and tell which faults the expectations catch
Exit status: 0 all proved, 1 not all, 2 could not judge.`;

/** A slip in what was typed: told in one sentence, exit status 2. */
export class CannotJudge extends Error {}

function whole(text: string | undefined, name: string, from: number, to: number): number | null {
  if (text === undefined) return null;
  const value = Number(text);
  if (!Number.isInteger(value) || value < from || value > to)
    throw new CannotJudge(`--${name} ${text}: give a whole number from ${from} to ${to}.`);
  return value;
}

/** Reads the command line; throws CannotJudge with one sentence. */
export function readArguments(args: string[]): CheckArguments {
  let given;
  try {
    given = parseArgs({
      args,
      options: {
        lesson: { type: 'string' },
        script: { type: 'string', multiple: true },
        runs: { type: 'string' },
        seed: { type: 'string' },
        json: { type: 'boolean' },
        strength: { type: 'boolean' },
      },
    }).values;
  } catch (error) {
    throw new CannotJudge(`${(error as Error).message}\n${USAGE}`);
  }
  if (!given.lesson) throw new CannotJudge(`Which lesson? Give --lesson.\n${USAGE}`);
  return {
    lesson: given.lesson,
    scripts: given.script ?? [],
    runs: whole(given.runs, 'runs', 10, 500),
    seed: whole(given.seed, 'seed', -(2 ** 31), 2 ** 31 - 1),
    json: given.json ?? false,
    strength: given.strength ?? false,
  };
}
