import { history, isolateHistory } from '@codemirror/commands';
import { collab, getSyncedVersion, receiveUpdates, sendableUpdates, type Update } from '@codemirror/collab';
import {
  ChangeSet,
  Compartment,
  EditorState,
  Text,
  type Extension,
  type TransactionSpec,
} from '@codemirror/state';
import type { EditorView } from '@codemirror/view';
import { ApiProblem } from '@vigilum/contract/client';
import type { ScriptAnswer, ScriptDocument, ScriptPush, ScriptUpdate } from '@vigilum/contract/types';
import type { SavedScript } from '@vigilum/core/classroom';
import { textChange } from '@vigilum/core/editing';
import { isUnanswered } from '../saving/doc.ts';
import { isUnsaved, started, step, type Happening, type Saving } from '../saving/machine.ts';
import { mergedText } from '../saving/merge.ts';
import type { Waiting } from '../saving/outbox.ts';

/** What a session needs of the world around it. */
export interface SessionPorts {
  push: (body: ScriptPush) => Promise<ScriptAnswer>;
  pull: (from: number) => Promise<{ updates: ScriptUpdate[]; saved: SavedScript | null }>;
  token: () => string;
  now: () => number;
  setTimer: (work: () => void, ms: number) => number;
  clearTimer: (timer: number) => void;
  keep: (record: KeptScript) => void;
  forget: () => void;
  /** A state changed; `answered` says whether the server just answered. */
  changed: (answered?: boolean) => void;
  /** A version was made, here or elsewhere. */
  settled: (saved: SavedScript) => void;
  /** Who writes, in their own words. */
  writer: () => string;
}

/** A script that is not wholly stored, as the browser keeps it. */
export interface KeptScript {
  at: number;
  /** The text that the server is known to have, its revision, and what was made of it. */
  base: string;
  revision: number;
  client: string;
  updates: ScriptUpdate[];
  saved: SavedScript | null;
}

/** Changes go to the server this long after the last letter, ms: others see them within a second. */
const PUSH_MS = 350;
/** What others wrote is asked for again this long after it could not be had, ms. */
const PULL_AGAIN_MS = 2500;
/** Most updates of one push; what was typed without a network for long goes in several. */
const PUSHED = 400;
/** Typing has rested after this long: the text becomes a version. */
const SETTLE_MS = 1500;

const asText = (text: string) => Text.of(text.split('\n'));
const toUpdates = (updates: readonly ScriptUpdate[]): Update[] =>
  updates.map(({ client, changes }) => ({ clientID: client, changes: ChangeSet.fromJSON(changes) }));
const fromUpdates = (updates: readonly Update[]): ScriptUpdate[] =>
  updates.map(({ clientID, changes }) => ({
    client: clientID,
    changes: changes.toJSON() as ScriptUpdate['changes'],
  }));

/**
 * A script as one page writes it, together with others: the editor’s own state, whether it is shown or not, and its way to
 * the server. What others write is taken in as it comes; what is written here without a network is put on top of theirs
 * when it is back. It tells its state by the machine that saves everything else.
 */
export class ScriptSession implements Waiting {
  readonly key: string;
  readonly label = 'a script';
  at = 0;
  state: EditorState;
  saving: Saving<string>;
  /** The newest version. */
  saved: SavedScript | null;
  private view: EditorView | null = null;
  private readonly shownBy = new Compartment();
  private client: string;
  /** The text at the synced revision. */
  private base: Text;
  private restoredFrom: number | null = null;
  private pushing: Promise<void> | null = null;
  private pushTimer = 0;
  private settleTimer = 0;
  private retryTimer = 0;
  private pullTimer = 0;
  private readonly listeners = new Set<() => void>();
  private readonly ports: SessionPorts;

  constructor(key: string, document: ScriptDocument, ports: SessionPorts, kept: KeptScript | null = null) {
    this.key = key;
    this.ports = ports;
    this.client = kept?.client ?? ports.token();
    this.saved = kept?.saved ?? document.saved;
    this.base = asText(kept?.base ?? document.text);
    const revision = kept?.revision ?? document.revision;
    this.state = this.begin(revision);
    this.saving = started({ revision, value: this.base.toString() });
    if (kept && kept.updates.length > 0) {
      this.at = kept.at;
      for (const { changes } of toUpdates(kept.updates)) this.state = this.state.update({ changes }).state;
      this.saving = { ...this.saving, shown: this.text, phase: 'offline' };
    }
  }

  private begin(revision: number): EditorState {
    return EditorState.create({
      doc: this.base,
      selection: { anchor: this.base.length },
      extensions: [collab({ startVersion: revision, clientID: this.client }), history(), this.shownBy.of([])],
    });
  }

  get text(): string {
    return this.state.doc.toString();
  }
  get revision(): number {
    return getSyncedVersion(this.state);
  }
  get unsaved(): boolean {
    return isUnsaved(this.saving);
  }
  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  /** Shows the script in an editor until the returned function is called. */
  show(
    make: (state: EditorState, take: (next: EditorState, typed: boolean) => void) => EditorView,
    extensions: Extension,
  ): () => void {
    this.state = this.state.update({ effects: this.shownBy.reconfigure(extensions) }).state;
    const view = make(this.state, (next, typed) => this.taken(next, typed));
    this.view = view;
    return () => {
      this.view = null;
      view.destroy();
      this.state = this.state.update({ effects: this.shownBy.reconfigure([]) }).state;
    };
  }

  private dispatch(spec: TransactionSpec | ReturnType<typeof receiveUpdates>): void {
    if (this.view) {
      this.view.dispatch(spec);
      return;
    }
    const next = 'startState' in spec ? spec.state : this.state.update(spec).state;
    this.taken(next, false);
  }

  /** The editor has another state. `typed`: its text was changed here. */
  private taken(next: EditorState, typed: boolean): void {
    this.state = next;
    if (typed) {
      this.restoredFrom = null;
      this.happen({ is: 'typed', value: this.text });
    }
  }

  /** Puts a text in the place of what stands there, as the smallest change. */
  replace(text: string): void {
    const changes = textChange(this.text, text);
    if (!changes) return;
    this.dispatch({ changes, annotations: isolateHistory.of('full') });
    if (!this.view) this.happen({ is: 'typed', value: this.text });
  }

  private happen(event: Happening<string>): void {
    const was = this.saving;
    const [next, orders] = step(was, event, {
      same: (a, b) => a === b,
      merged: mergedText,
      newKey: this.ports.token,
    });
    this.saving = next;
    if (!isUnsaved(was) && isUnsaved(next)) this.at = this.ports.now();
    for (const order of orders) {
      switch (order.do) {
        case 'send':
          void this.push(false);
          break;
        case 'wait':
          this.ports.clearTimer(this.pushTimer);
          this.pushTimer = this.ports.setTimer(() => this.happen({ is: 'rested' }), PUSH_MS);
          break;
        case 'try again':
          this.ports.clearTimer(this.retryTimer);
          this.retryTimer = this.ports.setTimer(() => this.happen({ is: 'back' }), order.afterMs);
          break;
        case 'keep':
          this.keep();
          break;
        case 'forget':
          this.ports.forget();
          break;
      }
    }
    if (event.is === 'typed') this.settleLater();
    this.tell();
  }

  private tell(answered?: boolean): void {
    for (const listener of this.listeners) listener();
    this.ports.changed(answered);
  }

  private keep(): void {
    this.ports.keep({
      at: this.at,
      base: this.base.toString(),
      revision: this.revision,
      client: this.client,
      updates: fromUpdates(sendableUpdates(this.state)),
      saved: this.saved,
    });
  }

  private settleLater(): void {
    this.ports.clearTimer(this.settleTimer);
    this.settleTimer = this.ports.setTimer(() => void this.push(true), SETTLE_MS);
  }

  /**
   * Takes updates that the server has after a revision into the editor; its own come back as confirmed. What came in
   * meanwhile, by another answer, is not taken in twice. False where they do not fit: the server has another script.
   */
  private receive(from: number, all: readonly ScriptUpdate[]): boolean {
    const updates = all.slice(this.revision - from);
    if (this.revision < from) return false;
    if (updates.length === 0) return true;
    const taken = toUpdates(updates);
    try {
      this.base = taken.reduce((text, { changes }) => changes.apply(text), this.base);
      this.dispatch(receiveUpdates(this.state, taken));
    } catch {
      return false;
    }
    const base = { revision: this.revision, value: this.base.toString() };
    this.saving = { ...this.saving, base, shown: this.text };
    if (
      sendableUpdates(this.state).length === 0 &&
      !this.saving.sending &&
      this.saving.phase !== 'conflict'
    ) {
      this.saving = { ...this.saving, phase: 'idle' };
      this.ports.forget();
    } else if (this.unsaved) this.keep();
    this.tell();
    return true;
  }

  private noteSaved(saved: SavedScript | null): void {
    if (!saved || (this.saved && saved.version <= this.saved.version)) return;
    this.saved = saved;
    this.ports.settled(saved);
  }

  /** Sends what there is, one push after the other. With `settle` the text becomes a version. */
  push(settle: boolean): Promise<void> {
    const before = this.pushing ?? Promise.resolve();
    const mine = before.then(() => this.pushNow(settle));
    const done = mine.finally(() => {
      if (this.pushing === done) this.pushing = null;
    });
    this.pushing = done;
    return done;
  }

  private async pushNow(settle: boolean): Promise<void> {
    if (this.saving.phase === 'conflict') return;
    const all = sendableUpdates(this.state);
    const updates = all.slice(0, PUSHED);
    const { text, revision: from } = this;
    const version = settle && all.length === updates.length && text !== this.saved?.text;
    if (updates.length === 0 && !version) {
      this.stored(text);
      return;
    }
    if (!this.saving.sending && updates.length > 0) {
      const sending = { value: text, note: '', revision: this.revision, key: this.client };
      this.saving = { ...this.saving, phase: 'saving', sending };
      this.tell();
    }
    const { restoredFrom } = this;
    try {
      const answer = await this.ports.push({
        from,
        updates: fromUpdates(updates),
        ...(version
          ? { settle: { by: this.ports.writer(), ...(restoredFrom === null ? {} : { restoredFrom }) } }
          : {}),
      });
      if (version) this.restoredFrom = null;
      this.tell(true);
      this.receive(from, fromUpdates(updates));
      this.noteSaved(answer.saved);
      if (all.length > updates.length) return this.pushNow(settle);
      this.stored(text);
    } catch (error) {
      await this.missed(error, from, settle);
    }
  }

  /** The server has everything up to a text. */
  private stored(text: string): void {
    const { sending } = this.saving;
    if (sending) this.saving = { ...this.saving, sending: { ...sending, value: text } };
    this.happen({ is: 'stored', revision: this.revision });
  }

  private async missed(error: unknown, from: number, settle: boolean): Promise<void> {
    const body = error instanceof ApiProblem && error.status === 409 ? error.body : null;
    if (body && Array.isArray(body.updates)) {
      const known = body.updates as ScriptUpdate[];
      // Others wrote meanwhile: theirs first, then mine on top of it.
      if (known.length === 0) await this.pull();
      else if (!this.receive(from, known)) return this.lookAnew();
      return this.pushNow(settle);
    }
    if (body && typeof body.document === 'object') {
      const { revision, text } = body.document as ScriptDocument;
      this.begunAnew({ revision, value: text });
      return;
    }
    if (isUnanswered(error)) {
      this.tell(false);
      // Nothing typed, only a version to be made: that is tried again as well.
      if (!this.saving.sending) this.settleLater();
      this.happen({ is: 'unanswered' });
      return;
    }
    const says = error instanceof Error ? error.message : '';
    this.happen({ is: 'refused', says });
  }

  /** The server has a script that has nothing to do with what this page knows: another was begun, or an old one came back. */
  private begunAnew(theirs: { revision: number; value: string }): void {
    const mine = this.text;
    const known = this.base.toString();
    const merged = mine === known ? theirs.value : mergedText(known, mine, theirs.value);
    if (merged === null) {
      if (!this.saving.sending)
        this.saving = { ...this.saving, sending: { value: mine, note: '', revision: 0, key: this.client } };
      this.happen({ is: 'clashed', theirs });
      return;
    }
    this.restart(theirs);
    this.replace(merged);
  }

  /** Goes on from another text of the server. */
  private restart({ revision, value }: { revision: number; value: string }): void {
    this.client = this.ports.token();
    this.base = asText(value);
    const view = this.view;
    const shown = view ? this.shownBy.get(this.state) : undefined;
    this.state = this.begin(revision);
    if (view && shown) {
      this.state = this.state.update({ effects: this.shownBy.reconfigure(shown) }).state;
      view.setState(this.state);
    }
    this.saving = started({ revision, value });
    this.tell();
  }

  /** After a conflict: mine goes on top of theirs, or theirs again on top of mine. Either stays among the versions. */
  async choose(side: 'mine' | 'theirs'): Promise<void> {
    const { theirs, shown: mine } = this.saving;
    if (!theirs) return;
    this.restart(theirs);
    this.replace(mine);
    await this.push(true);
    if (side === 'mine') return;
    this.replace(theirs.value);
    await this.push(true);
  }

  /** Takes in what others wrote. */
  pull(): Promise<void> {
    return this.pullFrom(this.revision);
  }
  /** Asks for the whole text: what the server has does not fit what is here. */
  private lookAnew(): Promise<void> {
    return this.pullFrom(Number.MAX_SAFE_INTEGER);
  }

  private async pullFrom(from: number): Promise<void> {
    try {
      const { updates, saved } = await this.ports.pull(from);
      if (!this.receive(from, updates)) return await this.lookAnew();
      this.noteSaved(saved);
      this.tell(true);
    } catch (error) {
      const body = error instanceof ApiProblem && error.status === 409 ? error.body : null;
      if (body && typeof body.document === 'object') {
        const { revision, text } = body.document as ScriptDocument;
        this.begunAnew({ revision, value: text });
      }
      // Without a network what others write is asked for again.
      if (isUnanswered(error)) {
        this.ports.clearTimer(this.pullTimer);
        this.pullTimer = this.ports.setTimer(() => void this.pull(), PULL_AGAIN_MS);
      }
    }
  }

  /** Says that the text now shown came from an older version, and saves it as a new one. */
  restored(from: number): Promise<void> {
    this.restoredFrom = from;
    return this.push(true);
  }

  /** Everything to the server now, as a version: the page is left, or the network is back. */
  flush(): Promise<void> {
    this.ports.clearTimer(this.pushTimer);
    this.ports.clearTimer(this.settleTimer);
    return this.push(true);
  }
}
