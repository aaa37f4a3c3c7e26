import { momentOf } from '@vigilum/core/year';

/** The day so many days after another, as ISO 8601 writes them. */
export const dayAfter = (day: string, days = 1): string =>
  new Date(Date.parse(`${day}T00:00Z`) + days * 86_400_000).toISOString().slice(0, 10);

/** The moments from the beginning of a first day to the end of a last one, by the school's clock. */
export const spanOf = (
  { from, to }: { from: string; to: string },
  zone: string,
): { from: Date; until: Date } => ({
  from: new Date(momentOf(from, '00:00', zone)),
  until: new Date(momentOf(dayAfter(to), '00:00', zone)),
});
