import type { Line } from './lines.ts';
import type { Scope } from './names.ts';

/**
 * What lines meant when they were read last: whoever types changes one line, and all others mean what they meant as long as their
 * names stand for the same.
 */
export class Remembered {
  private names = '';

  /** A name is new, or stands for something else from here on. */
  forget(): void {
    this.names = '';
  }

  /** What names stand for now, as a text: a line that meant something with the same names means the same. */
  private namesOf({ sensors, values, lists, task, bending }: Scope): string {
    if (this.names !== '') return this.names;
    this.names = [
      String(task),
      ...sensors.map(({ name, kind, unit }) => `s ${name} ${kind} ${unit}`),
      ...values.map(({ name, of, task }, i) => `v ${name} ${of} ${task} ${bending.has(i)}`),
      ...lists.map(({ name, of }) => `l ${name} ${of}`),
    ].join('|');
    return this.names;
  }

  /** Works out what a line means, or takes what it meant last time: nothing else than the names may have changed that. */
  meaning<T>(line: Line, scope: Scope, work: () => T): T {
    const names = this.namesOf(scope);
    const { understood } = line.kept;
    if (understood?.names === names && understood.number === line.number) return understood.meaning as T;
    const { settled } = scope;
    const before = settled.news;
    settled.news = false;
    try {
      const meaning = work();
      // What gave a name its kind must give it again in the next script.
      if (!settled.news) line.kept.understood = { names, number: line.number, meaning };
      return meaning;
    } finally {
      settled.news ||= before;
    }
  }
}
