import type { StoredTrial } from '@vigilum/core/classroom';
import { answersOf, floorQuestions, type Lesson } from '@vigilum/core/lesson';
import { formatNumber } from '@vigilum/core/quantity';

/** What a trial measured, in words: “15 mm past”, “14.2 cm”, and how many things were told by eye; all of it in full beside it. */
export function measuredWords(trial: StoredTrial, lesson: Lesson): { short: string; full: string } {
  const answers = answersOf(lesson, trial);
  const told = floorQuestions(lesson).flatMap((question) => {
    const answer = answers[question.key];
    if (answer === undefined) return [];
    if (question.key === 'rested') return [];
    if (question.kind === 'seen') return [{ seen: true, says: `${question.asks}: ${answer ? 'yes' : 'no'}` }];
    if (question.key === 'took' || typeof answer !== 'number') return [];
    const { unit, perUnit, ways, word } = question;
    const amount = `${formatNumber(Math.abs(answer / perUnit))}${unit === 'deg' ? '°' : unit ? ` ${unit}` : ''}`;
    const way = ways ? ` ${answer < 0 ? ways.minus : ways.plus}`.replace(/ (it|of it)$/, '') : '';
    return [{ seen: false, says: ways ? `${amount}${way}` : `${word} ${amount}` }];
  });
  const byEye = told.filter(({ seen }) => seen).length;
  const numbers = told.filter(({ seen }) => !seen).map(({ says }) => says);
  return {
    short: [...numbers, ...(byEye > 0 ? [`${byEye} by eye`] : [])].join(', ') || 'not measured',
    full: told.map(({ says }) => says).join('; '),
  };
}
