import type { QuantityKind } from '../quantity/index.ts';
import type { HeldKind } from './ast.ts';

/** The kind that a name took, how many base units its bare numbers are worth, and the line that gave it the kind. */
export interface Taken {
  of: HeldKind;
  inBase: number;
  line: number;
}

/**
 * Kinds that names take from how they are used: a value set to 0 from its first use, a list from what is first put into it, an own
 * step from what it gives back. They are found while a script is read, and the script is read again with them until none is new.
 */
export class Settled {
  private readonly kinds = new Map<string, Taken>();
  /** Whether something was found that earlier lines could not know. */
  news = false;

  private key(what: 'value' | 'list' | 'gives', task: number | null, name: string): string {
    return `${what} ${task ?? ''} ${name.toLowerCase()}`;
  }

  value(task: number | null, name: string): Taken | undefined {
    return this.kinds.get(this.key('value', task, name));
  }

  list(name: string): QuantityKind | undefined {
    return this.kinds.get(this.key('list', null, name))?.of as QuantityKind | undefined;
  }

  gives(task: string): HeldKind | undefined {
    return this.kinds.get(this.key('gives', null, task))?.of;
  }

  private take(key: string, taken: Taken): void {
    if (this.kinds.has(key)) return;
    this.kinds.set(key, taken);
    this.news = true;
  }

  takeValue(task: number | null, name: string, taken: Taken): void {
    this.take(this.key('value', task, name), taken);
  }

  takeList(name: string, of: QuantityKind, line: number): void {
    this.take(this.key('list', null, name), { of, inBase: 1, line });
  }

  /** What an own step gives back may change from reading to reading, as its own values take their kinds. */
  takeGives(task: string, of: HeldKind, line: number): void {
    if (this.gives(task) === of) return;
    this.kinds.delete(this.key('gives', null, task));
    this.take(this.key('gives', null, task), { of, inBase: 1, line });
  }
}
