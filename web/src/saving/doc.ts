import { ApiProblem } from '@vigilum/contract/client';
import {
  isUnsaved,
  started,
  step,
  type Happening,
  type Saving,
  type Side,
  type Ways,
  type Write,
} from './machine.ts';

/** How one kind of thing is saved. `Id` names one of them and can be written as JSON. */
export interface Kind<Id, V, Answer extends { revision: number } = { revision: number }> {
  name: string;
  /** What it is called in “2 things are not sent yet”. */
  label: (id: Id) => string;
  /** How long typing must rest before it is saved, ms; null where a person presses a button. */
  restMs: number | null;
  ways: Omit<Ways<V>, 'newKey'>;
  send: (id: Id, write: Write<V>) => Promise<Answer>;
  /** The other side of a conflict, as the server tells it; null where the answer is no conflict. */
  theirs: (problem: ApiProblem, id: Id) => Side<V> | null;
  /** What else follows from an answer: caches that show it. */
  stored?: (id: Id, value: V, answer: Answer) => void;
}

export interface Ports {
  token: () => string;
  now: () => number;
  keep: (key: string, record: unknown) => void;
  forget: (key: string) => void;
  setTimer: (work: () => void, ms: number) => number;
  clearTimer: (timer: number) => void;
  /** Told whenever the server answered, or did not. */
  heard: (answered: boolean) => void;
  /** Told after every change of state. */
  changed: () => void;
}

/** While letters follow each other the browser keeps what stands there this often, ms. */
const KEEP_MS = 250;

/** A state of a thing as the browser keeps it. */
export interface KeptDoc {
  is: 'doc';
  kind: string;
  id: unknown;
  at: number;
  state: Saving<unknown>;
}

/** Whether a failure means that the server did not take the request at all, so that it is sent again. */
export const isUnanswered = (error: unknown): boolean =>
  error instanceof ApiProblem
    ? error.status === 0 || error.status >= 500 || error.status === 429 || error.status === 401
    : // A fault of this page: sending it again would not help.
      false;

/** One thing that is edited: its state, its timers, and its way to the server. Lives as long as anything of it is not stored. */
export class Doc<Id, V, Answer extends { revision: number } = { revision: number }> {
  state: Saving<V>;
  /** When the first change was made that is not stored yet. */
  at = 0;
  /** The newest answer of the server to a save. */
  answer: Answer | null = null;
  readonly key: string;
  private readonly listeners = new Set<() => void>();
  /** How often what is shown became another without anybody typing here. */
  outside = 0;
  private timer = 0;
  private retry = 0;
  private keepTimer = 0;
  private keptAt = -Infinity;

  readonly kind: Kind<Id, V, Answer>;
  readonly id: Id;
  private readonly ports: Ports;

  constructor(kind: Kind<Id, V, Answer>, id: Id, first: Saving<V>, ports: Ports) {
    this.kind = kind;
    this.id = id;
    this.ports = ports;
    this.state = first;
    this.key = `${kind.name} ${JSON.stringify(id)}`;
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  get watched(): boolean {
    return this.listeners.size > 0;
  }

  happen(event: Happening<V>): void {
    const was = this.state;
    const ways = { ...this.kind.ways, newKey: this.ports.token };
    const [next, orders] = step(was, event, ways);
    this.state = next;
    if (!isUnsaved(was) && isUnsaved(next)) this.at = this.ports.now();
    if (next.shown !== was.shown && event.is !== 'typed') this.outside++;
    for (const order of orders) {
      switch (order.do) {
        case 'send':
          void this.send(order.write);
          break;
        case 'wait':
          this.ports.clearTimer(this.timer);
          // Where a person presses a button, what goes on top of a save goes at once all the same.
          if (this.kind.restMs !== null || event.is === 'stored')
            this.timer = this.ports.setTimer(() => this.happen({ is: 'rested' }), this.kind.restMs ?? 0);
          break;
        case 'try again':
          this.ports.clearTimer(this.retry);
          this.retry = this.ports.setTimer(() => this.happen({ is: 'back' }), order.afterMs);
          break;
        case 'keep':
          this.keepSoon(event.is === 'typed');
          break;
        case 'forget':
          this.ports.clearTimer(this.keepTimer);
          this.ports.forget(this.key);
          break;
      }
    }
    if (next === was) return;
    for (const listener of this.listeners) listener();
    this.ports.changed();
  }

  /** What is typed is saved at once: by a key, a button, or because the page is left. */
  readonly save = (): void => {
    this.ports.clearTimer(this.timer);
    if (this.state.phase === 'offline') this.happen({ is: 'back' });
    else this.happen({ is: 'rested' });
  };

  /** A value that a person saves with a button. */
  put(value: V): void {
    this.happen({ is: 'typed', value });
    this.save();
  }

  /** Settles when no save is under way. */
  async quiet(): Promise<void> {
    while (this.state.phase === 'saving') {
      await new Promise<void>((done) => {
        const off = this.subscribe(() => {
          off();
          done();
        });
      });
    }
  }

  /** Keeps the state in the browser: at once, or while letters follow each other quickly a moment later. */
  private keepSoon(typing: boolean): void {
    this.ports.clearTimer(this.keepTimer);
    const late = this.ports.now() - this.keptAt;
    if (typing && late < KEEP_MS) this.keepTimer = this.ports.setTimer(() => this.keepNow(), KEEP_MS - late);
    else this.keepNow();
  }

  /** What is not stored is in the browser's own database from now on. */
  keepNow(): void {
    this.ports.clearTimer(this.keepTimer);
    if (!isUnsaved(this.state)) return;
    this.keptAt = this.ports.now();
    this.ports.keep(this.key, this.kept());
  }

  private kept(): KeptDoc {
    return { is: 'doc', kind: this.kind.name, id: this.id, at: this.at, state: this.state };
  }

  private async send(write: Write<V>): Promise<void> {
    try {
      const answer = await this.kind.send(this.id, write);
      this.ports.heard(true);
      this.answer = answer;
      this.kind.stored?.(this.id, write.value, answer);
      this.happen({ is: 'stored', revision: answer.revision });
    } catch (error) {
      if (isUnanswered(error)) {
        this.ports.heard(false);
        this.happen({ is: 'unanswered' });
        return;
      }
      const problem = error instanceof ApiProblem ? error : null;
      if (problem) this.ports.heard(true);
      const theirs = problem ? this.kind.theirs(problem, this.id) : null;
      if (theirs) this.happen({ is: 'clashed', theirs });
      else
        this.happen({
          is: 'refused',
          says: problem?.message ?? 'Something went wrong on this page. What you typed stays here.',
          fields: problem?.fields ?? [],
        });
    }
  }
}

/** A kept state as it comes back after a reload: what was under way may have been cut off. */
export function revived<V>(state: Saving<V>, byButton: boolean): Saving<V> {
  if (state.phase === 'conflict' || state.phase === 'failed') return state;
  if (!state.sending && byButton) return started(state.base);
  return { ...state, phase: 'offline', unanswered: 0 };
}
