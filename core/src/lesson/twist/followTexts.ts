import { formatNumber } from '../../quantity/index.ts';
import type { Lesson } from '../lesson.ts';
import type { LessonStep } from '../lesson.ts';
import type { NumberParameter } from './twist.ts';

/** A usual value that a text still names in figures, where every team has its own. */
export interface LoneNumber {
  parameter: string;
  /** “15 cm” as it stands in the texts. */
  says: string;
  /** Where it stands: “the aim”, titles of steps. */
  places: string[];
}

/** How a value is written with its unit. Inches need a stop after them, for “5 in a row” are none. */
function patternOf({ usual, unit }: NumberParameter): RegExp | null {
  if (unit === '') return null;
  const figure = formatNumber(usual, 6).replaceAll('.', '\\.');
  const end = unit === 'in' ? '(?=[.,;:)*`]|$)' : '(?![A-Za-z²])';
  const written = unit === 'deg' ? ' ?(?:deg|°)' : ` ?${unit}`;
  return new RegExp(`(?<![\\w.,{])${figure}(${written})${end}`, 'g');
}

const numbersOfTwist = (lesson: Lesson): NumberParameter[] =>
  (lesson.twist?.parameters ?? []).filter((parameter) => parameter.is === 'number');

/** A text with every usual value written as its parameter: “{gap} cm”. */
function following(text: string, parameters: readonly NumberParameter[]): string {
  return parameters.reduce((told, parameter) => {
    const pattern = patternOf(parameter);
    return pattern ? told.replace(pattern, `{${parameter.name}}$1`) : told;
  }, text);
}

const textsOf = ({ title, text, expects, hints }: LessonStep): string[] => [title, text, expects, ...hints];

/** The usual values that the aim or a step still names in figures: a team with a twist would read the wrong one. */
export function loneNumbers(lesson: Lesson): LoneNumber[] {
  return numbersOfTwist(lesson).flatMap((parameter) => {
    const pattern = patternOf(parameter);
    if (!pattern) return [];
    const stands = (texts: readonly string[]) => texts.some((text) => text.search(pattern) >= 0);
    const places = [
      ...(stands([lesson.aim]) ? ['the aim'] : []),
      ...(lesson.steps ?? []).flatMap((step) => (stands(textsOf(step)) ? [step.title || step.kind] : [])),
    ];
    const says = `${formatNumber(parameter.usual, 6)} ${parameter.unit}`;
    return places.length > 0 ? [{ parameter: parameter.name, says, places }] : [];
  });
}

/** The lesson with its aim and steps naming parameters where they named usual values in figures. */
export function textsFollow(lesson: Lesson): Lesson {
  const parameters = numbersOfTwist(lesson);
  const told = (text: string) => following(text, parameters);
  return {
    ...lesson,
    aim: told(lesson.aim),
    ...(lesson.steps
      ? {
          steps: lesson.steps.map((step) => ({
            ...step,
            title: told(step.title),
            text: told(step.text),
            expects: told(step.expects),
            hints: step.hints.map(told),
          })),
        }
      : {}),
  };
}
