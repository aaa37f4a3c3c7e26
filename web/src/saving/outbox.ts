import { ApiProblem } from '@vigilum/contract/client';
import { Doc, isUnanswered, revived, type KeptDoc, type Kind, type Ports } from './doc.ts';
import type { Shelf } from './kept.ts';
import { isUnsaved, started, type Side } from './machine.ts';

/** Something that is added, such as a trial: sent once, in its turn, however long that takes. */
export interface Entry {
  key: string;
  /** What is added: a name of the kinds of additions. */
  kind: string;
  /** Everything that the addition needs, as plain data. */
  given: unknown;
  at: number;
  /** Why the server refused it, in words; it then stays until somebody drops it. */
  refused?: string;
}
interface KeptEntry extends Entry {
  is: 'entry';
}

/** How one kind of addition is sent. */
export interface Addition<Given, Answer> {
  name: string;
  label: (given: Given) => string;
  send: (given: Given, key: string) => Promise<Answer>;
  stored?: (given: Given, answer: Answer) => void;
}

/** Anything else that waits for the network and knows its own way, such as a script that several write. */
export interface Waiting {
  key: string;
  at: number;
  label: string;
  unsaved: boolean;
  /** Sends what there is and settles when it is answered, or is not. */
  flush(): Promise<void>;
}

export interface OutboxPorts {
  shelf: Shelf;
  /** Name of this page; what other pages that are gone left behind is taken over. */
  page: string;
  isAlive: (page: string) => boolean;
  token: () => string;
  now: () => number;
  setTimer: (work: () => void, ms: number) => number;
  clearTimer: (timer: number) => void;
  /** Takes up a record that is neither a thing nor an addition. */
  revive: (record: { is: string }) => Promise<void>;
}

/** What the rest of the application shows of it. */
export interface Waits {
  /** Things that are not stored, oldest first, in words. */
  things: string[];
  /** Whether the server answered the last time. */
  answered: boolean;
}

// Kinds differ in their values; the box moves them about without looking inside.
// eslint-disable-next-line @typescript-eslint/no-explicit-any
type AnyDoc = Doc<any, any, any>;
// eslint-disable-next-line @typescript-eslint/no-explicit-any
type AnyKind = Kind<any, any, any>;
// eslint-disable-next-line @typescript-eslint/no-explicit-any
type AnyAddition = Addition<any, any>;

/**
 * Everything of this page that the server has not got yet. It is kept in the browser's own database from the first
 * letter on, sent in the order in which it was made when the server answers again, and survives leaving and reloading.
 */
export class Outbox {
  private readonly docs = new Map<string, AnyDoc>();
  private readonly kinds = new Map<string, AnyKind>();
  private readonly additions = new Map<string, AnyAddition>();
  private readonly others = new Map<string, Waiting>();
  private entries: Entry[] = [];
  /** Answers of additions that were sent in their turn, until whoever made them comes for them. */
  private readonly answers = new Map<string, unknown>();
  private readonly listeners = new Set<() => void>();
  private shown: Waits = { things: [], answered: true };
  private sending: Promise<void> | null = null;
  private retry = 0;
  private misses = 0;
  private readonly ports: OutboxPorts;
  private readonly docPorts: Ports;

  constructor(ports: OutboxPorts) {
    this.ports = ports;
    this.docPorts = {
      ...ports,
      keep: (key, record) => void ports.shelf.put(`${ports.page} ${key}`, record),
      forget: (key) => void ports.shelf.drop(`${ports.page} ${key}`),
      heard: (answered) => this.heard(answered),
      changed: () => this.changed(),
    };
  }

  learn(...kinds: AnyKind[]): void {
    for (const kind of kinds) this.kinds.set(kind.name, kind);
  }
  learnAdditions(...kinds: AnyAddition[]): void {
    for (const kind of kinds) this.additions.set(kind.name, kind);
  }

  /** The thing that is edited: as it was left, where not all of it is stored, else as the server has it. */
  open<Id, V, A extends { revision: number }>(kind: Kind<Id, V, A>, id: Id, base: Side<V>): Doc<Id, V, A> {
    const key = `${kind.name} ${JSON.stringify(id)}`;
    const known = this.docs.get(key) as Doc<Id, V, A> | undefined;
    if (known) {
      known.happen({ is: 'heard', theirs: base });
      return known;
    }
    return this.add(new Doc(kind, id, started(base), this.docPorts));
  }

  /** Stops holding a thing that nobody shows and that is stored. */
  release(doc: AnyDoc): void {
    if (!doc.watched && !isUnsaved(doc.state)) this.docs.delete(doc.key);
  }

  private add<D extends AnyDoc>(doc: D): D {
    this.docs.set(doc.key, doc);
    return doc;
  }

  /** Adds something; settles with its answer, or with null when it has to wait. A refusal is thrown. */
  async send<Given, Answer>(kind: Addition<Given, Answer>, given: Given): Promise<Answer | null> {
    const entry: Entry = { key: this.ports.token(), kind: kind.name, given, at: this.ports.now() };
    this.entries.push(entry);
    this.keep(entry);
    this.changed();
    // What was added before goes before.
    if (this.entries[0] !== entry && this.entries.some((other) => other !== entry && !other.refused)) {
      await this.back();
      const answer = this.answers.get(entry.key) as Answer | undefined;
      this.answers.delete(entry.key);
      return answer ?? null;
    }
    return this.deliver(entry, true) as Promise<Answer | null>;
  }

  /** Something with a way of its own that may have to wait. */
  register(thing: Waiting): () => void {
    this.others.set(thing.key, thing);
    this.changed();
    return () => {
      if (this.others.get(thing.key) === thing) this.others.delete(thing.key);
      this.changed();
    };
  }
  /** Tells that a registered thing changed its state. */
  changedOther(answered?: boolean): void {
    if (answered !== undefined) this.heard(answered);
    this.changed();
  }

  /** Additions of a kind that wait, oldest first. */
  waiting<Given, Answer>(kind: Addition<Given, Answer>): (Entry & { given: Given })[] {
    return this.entries.filter((entry) => entry.kind === kind.name) as (Entry & { given: Given })[];
  }

  /** Lets go of an addition that was refused. */
  drop(key: string): void {
    this.entries = this.entries.filter((entry) => entry.key !== key);
    void this.ports.shelf.drop(`${this.ports.page} ${key}`);
    this.changed();
  }

  /** Takes up what was left behind, and sends it. */
  async resume(): Promise<void> {
    await this.takeUp();
    await this.back();
  }

  /**
   * Takes up what an earlier life of this page, or a page that is gone, left behind. Nothing is to be opened before: what is open has its own
   * state, and the one that was kept would wait for another visit.
   */
  async takeUp(): Promise<void> {
    for (const [shelfKey, record] of await this.ports.shelf.all()) {
      const [owner = ''] = shelfKey.split(' ');
      if (owner !== this.ports.page) {
        if (this.ports.isAlive(owner)) continue;
        await this.ports.shelf.drop(shelfKey);
      }
      const kept = record as KeptDoc | KeptEntry | { is: string };
      if (kept.is === 'doc') this.revive(kept as KeptDoc, owner);
      else if (kept.is === 'entry') {
        const { is: _is, ...entry } = kept as KeptEntry;
        if (!this.entries.some(({ key }) => key === entry.key)) this.entries.push(entry);
        if (owner !== this.ports.page) this.keep(entry);
      } else await this.ports.revive(kept);
    }
    this.entries.sort((a, b) => a.at - b.at);
    this.changed();
  }

  private revive({ kind: name, id, at, state }: KeptDoc, owner: string): void {
    const kind = this.kinds.get(name);
    if (!kind) return;
    const key = `${name} ${JSON.stringify(id)}`;
    // A thing that is open here already has its own state: the other one's is left for its next visit.
    if (this.docs.has(key)) return;
    const doc = this.add(new Doc(kind, id, revived(state, kind.restMs === null), this.docPorts));
    doc.at = at;
    if (owner !== this.ports.page && isUnsaved(doc.state))
      this.docPorts.keep(key, { is: 'doc', kind: name, id, at, state: doc.state } satisfies KeptDoc);
  }

  /** The server may answer again: everything that waits is sent, in the order in which it was made. */
  back(): Promise<void> {
    this.sending ??= this.sendAll().finally(() => {
      this.sending = null;
    });
    return this.sending;
  }

  private async sendAll(): Promise<void> {
    this.ports.clearTimer(this.retry);
    const docs = [...this.docs.values()].filter(({ state }) => state.phase === 'offline');
    const others = [...this.others.values()].filter(({ unsaved }) => unsaved);
    const entries = this.entries.filter(({ refused }) => !refused);
    const all = [...docs, ...others, ...entries].sort((a, b) => a.at - b.at);
    for (const one of all) {
      if (one instanceof Doc) {
        one.happen({ is: 'back' });
        await one.quiet();
        if (one.state.phase === 'offline') break;
      } else if ('flush' in one) await one.flush();
      else if ((await this.deliver(one, false)) === undefined) break;
    }
    this.changed();
  }

  /** Sends one addition: its answer, null when it waits (and it is tried again), undefined when the rest had better wait too. */
  private async deliver(entry: Entry, throws: boolean): Promise<unknown> {
    const kind = this.additions.get(entry.kind);
    if (!kind) return null;
    try {
      const answer: unknown = await kind.send(entry.given, entry.key);
      this.heard(true);
      this.misses = 0;
      this.drop(entry.key);
      if (!throws) this.answers.set(entry.key, answer);
      kind.stored?.(entry.given, answer);
      return answer ?? null;
    } catch (error) {
      if (isUnanswered(error)) {
        this.heard(false);
        this.misses++;
        this.ports.clearTimer(this.retry);
        const afterMs = Math.min(10_000, 500 * 2 ** Math.min(this.misses, 8));
        this.retry = this.ports.setTimer(() => void this.back(), afterMs);
        return throws ? null : undefined;
      }
      const says = error instanceof ApiProblem ? error.message : 'It could not be sent.';
      if (throws) {
        // The person is still there and can mend it: nothing waits.
        this.drop(entry.key);
        throw error;
      }
      const refused = { ...entry, refused: says };
      this.entries = this.entries.map((other) => (other === entry ? refused : other));
      this.keep(refused);
      return null;
    }
  }

  private keep(entry: Entry): void {
    const record: KeptEntry = { is: 'entry', ...entry };
    void this.ports.shelf.put(`${this.ports.page} ${entry.key}`, record);
  }

  private heard(answered: boolean): void {
    if (this.shown.answered === answered) return;
    this.shown = { ...this.shown, answered };
    this.changed();
  }

  private changed(): void {
    const waiting = [
      ...[...this.docs.values()]
        .filter(({ state }) => ['offline', 'failed', 'conflict'].includes(state.phase))
        .map((doc) => ({ at: doc.at, says: doc.kind.label(doc.id) })),
      ...[...this.others.values()]
        .filter(({ unsaved }) => unsaved && !this.shown.answered)
        .map(({ at, label }) => ({ at, says: label })),
      ...this.entries.map((entry) => ({
        at: entry.at,
        says: this.additions.get(entry.kind)?.label(entry.given) ?? entry.kind,
      })),
    ].sort((a, b) => a.at - b.at);
    const things = waiting.map(({ says }) => says);
    if (things.join('\n') !== this.shown.things.join('\n')) this.shown = { ...this.shown, things };
    for (const listener of this.listeners) listener();
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  readonly waits = (): Waits => this.shown;

  /** Saves all that is being typed, because the page is left or hidden. */
  leave(): void {
    for (const doc of this.docs.values()) {
      doc.keepNow();
      if (doc.kind.restMs !== null) doc.save();
    }
    for (const other of this.others.values()) if (other.unsaved) void other.flush();
  }
}
