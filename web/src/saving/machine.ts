/**
 * How anything that is edited gets to the server, as a state machine without React, clock or network: what happened goes in,
 * the next state and what is to be done come out. Scripts, lessons, expectations, notes, kits, courses and phrasebooks
 * are saved by it alike.
 */

/** A value with the revision under which the server has it. */
export interface Side<V> {
  revision: number;
  value: V;
}

/** A write under way, or to be sent again with the same key until it is answered. */
export interface Write<V> extends Side<V> {
  /** Makes sure that it is done once, however often it is sent. */
  key: string;
  /** What the server shall call the version that it makes; empty for a save as one goes. */
  note: string;
}

export type Phase =
  /** The server has what is on screen. */
  | 'idle'
  /** Changed on screen; saved in a moment. */
  | 'typing'
  | 'saving'
  /** The server does not answer; it is kept here and sent when it does. */
  | 'offline'
  /** The server refused it; it stays on screen, and goes again when it is changed. */
  | 'failed'
  /** Somebody else saved something that cannot be put together with it. */
  | 'conflict';

export interface Saving<V> {
  phase: Phase;
  /** What is on screen. */
  shown: V;
  /** What the server has, as far as this page knows. */
  base: Side<V>;
  sending: Write<V> | null;
  /** In a conflict, the other side. */
  theirs: Side<V> | null;
  /** Why it was refused, in words, and which fields. */
  says: string;
  fields: { field: string; says: string }[];
  /** How often the server has not answered in a row. */
  unanswered: number;
}

export type Happening<V> =
  | { is: 'typed'; value: V }
  /** Typing has rested, or the page is left. */
  | { is: 'rested' }
  | { is: 'stored'; revision: number }
  | { is: 'unanswered' }
  /** The connection is back, or it is time to try again. */
  | { is: 'back' }
  | { is: 'refused'; says: string; fields?: { field: string; says: string }[] }
  /** The server has another revision than the one that the write was made from. */
  | { is: 'clashed'; theirs: Side<V> }
  /** Somebody else saved, as this page hears. */
  | { is: 'heard'; theirs: Side<V> }
  | { is: 'keep mine' }
  | { is: 'take theirs' };

export type Order<V> =
  | { do: 'send'; write: Write<V> }
  /** Tell `rested` in a moment, unless something is typed before. */
  | { do: 'wait' }
  /** Tell `back` after so many ms. */
  | { do: 'try again'; afterMs: number }
  /** Keep the state in the browser, or forget it there: everything is stored. */
  | { do: 'keep' }
  | { do: 'forget' };

/** What differs from kind to kind. */
export interface Ways<V> {
  same(a: V, b: V): boolean;
  /** Whether the server may have made one of the other: it takes blanks off the ends of texts. As `same` where not said. */
  alike?(stored: V, shown: V): boolean;
  /** Both sides put together, or null where only a person can choose. */
  merged(base: V, mine: V, theirs: V): V | null;
  newKey(): string;
}

export const SET_ASIDE = 'set aside for the other one';
const LONGEST_WAIT_MS = 10_000;

export const started = <V>(base: Side<V>): Saving<V> => ({
  phase: 'idle',
  shown: base.value,
  base,
  sending: null,
  theirs: null,
  says: '',
  fields: [],
  unanswered: 0,
});

/** Whether anything on screen is not yet acknowledged by the server. */
export const isUnsaved = <V>({ phase }: Pick<Saving<V>, 'phase'>): boolean => phase !== 'idle';

type Next<V> = [Saving<V>, Order<V>[]];

/** The next state after something happened, and what is to be done about it. */
export function step<V>(state: Saving<V>, event: Happening<V>, ways: Ways<V>): Next<V> {
  switch (event.is) {
    case 'typed':
      return typed(state, event.value, ways);
    case 'rested':
      return rested(state, ways);
    case 'stored':
      return stored(state, event.revision, ways);
    case 'unanswered':
      return unanswered(state);
    case 'back':
      return back(state, ways);
    case 'refused':
      return refused(state, event);
    case 'clashed':
      return clashed(state, event.theirs, ways);
    case 'heard':
      return heard(state, event.theirs, ways);
    case 'keep mine':
      return state.theirs ? send({ ...state, base: state.theirs, theirs: null }, ways) : [state, []];
    case 'take theirs':
      return takeTheirs(state, ways);
  }
}

function typed<V>(was: Saving<V>, value: V, ways: Ways<V>): Next<V> {
  const state = { ...was, shown: value };
  // A choice that is asked for, an answer that is awaited and a server that is away wait for nothing that is typed.
  if (was.phase === 'conflict' || was.phase === 'offline') return [state, [{ do: 'keep' }]];
  if (was.sending) return [state, [{ do: 'keep' }]];
  if (ways.same(value, was.base.value))
    return [{ ...state, phase: 'idle', says: '', fields: [] }, [{ do: 'forget' }]];
  return [{ ...state, phase: 'typing', says: '', fields: [] }, [{ do: 'keep' }, { do: 'wait' }]];
}

function rested<V>(state: Saving<V>, ways: Ways<V>): Next<V> {
  return state.phase === 'typing' ? send(state, ways) : [state, []];
}

/** Sends what is on screen, made from what the server has. */
function send<V>(state: Saving<V>, ways: Ways<V>): Next<V> {
  if (ways.same(state.shown, state.base.value))
    return [{ ...state, phase: 'idle', sending: null }, [{ do: 'forget' }]];
  return put(state, { value: state.shown, note: '' }, ways);
}

function put<V>(state: Saving<V>, { value, note }: { value: V; note: string }, ways: Ways<V>): Next<V> {
  const sending = { value, note, revision: state.base.revision, key: ways.newKey() };
  const next: Saving<V> = { ...state, phase: 'saving', sending, says: '', fields: [] };
  return [next, [{ do: 'keep' }, { do: 'send', write: sending }]];
}

function stored<V>(state: Saving<V>, revision: number, ways: Ways<V>): Next<V> {
  const { sending } = state;
  if (!sending) return [state, []];
  const next = { ...state, base: { revision, value: sending.value }, sending: null, unanswered: 0 };
  // What was typed meanwhile, or the side that was chosen, goes on top.
  return ways.same(state.shown, sending.value)
    ? [{ ...next, phase: 'idle' }, [{ do: 'forget' }]]
    : [{ ...next, phase: 'typing' }, [{ do: 'keep' }, { do: 'wait' }]];
}

function unanswered<V>(state: Saving<V>): Next<V> {
  if (!state.sending) return [state, []];
  const times = state.unanswered + 1;
  const afterMs = Math.min(LONGEST_WAIT_MS, 500 * 2 ** Math.min(times, 8));
  return [{ ...state, phase: 'offline', unanswered: times }, [{ do: 'keep' }, { do: 'try again', afterMs }]];
}

function back<V>(state: Saving<V>, ways: Ways<V>): Next<V> {
  if (state.phase !== 'offline') return [state, []];
  // The same write with the same key: it may have been stored, and only its answer was lost.
  return state.sending
    ? [{ ...state, phase: 'saving' }, [{ do: 'send', write: state.sending }]]
    : send(state, ways);
}

function refused<V>(
  state: Saving<V>,
  { says, fields = [] }: { says: string; fields?: { field: string; says: string }[] },
): Next<V> {
  if (!state.sending) return [state, []];
  return [{ ...state, phase: 'failed', sending: null, says, fields, unanswered: 0 }, [{ do: 'keep' }]];
}

const areAlike = <V>(stored: V, shown: V, ways: Ways<V>): boolean => (ways.alike ?? ways.same)(stored, shown);

function clashed<V>(state: Saving<V>, theirs: Side<V>, ways: Ways<V>): Next<V> {
  const { sending } = state;
  if (!sending) return [state, []];
  const free = { ...state, sending: null, unanswered: 0 };
  // Somebody made the same of it, or it was stored under a key that is forgotten.
  if (areAlike(theirs.value, state.shown, ways)) {
    const base = { revision: theirs.revision, value: state.shown };
    return [{ ...free, phase: 'idle', base }, [{ do: 'forget' }]];
  }
  const merged = ways.merged(state.base.value, state.shown, theirs.value);
  if (merged !== null) return send({ ...free, base: theirs, shown: merged }, ways);
  return [{ ...free, phase: 'conflict', theirs }, [{ do: 'keep' }]];
}

function heard<V>(state: Saving<V>, theirs: Side<V>, ways: Ways<V>): Next<V> {
  if (state.phase === 'conflict')
    return theirs.revision > (state.theirs?.revision ?? 0)
      ? [{ ...state, theirs }, [{ do: 'keep' }]]
      : [state, []];
  // While a write is under way its answer tells more than this.
  if (state.sending || theirs.revision <= state.base.revision) return [state, []];
  if (state.phase === 'idle') return [started(theirs), []];
  if (areAlike(theirs.value, state.shown, ways))
    return [started({ revision: theirs.revision, value: state.shown }), [{ do: 'forget' }]];
  const merged = ways.merged(state.base.value, state.shown, theirs.value);
  if (merged === null) return [{ ...state, phase: 'conflict', theirs }, [{ do: 'keep' }]];
  const next: Saving<V> = { ...state, base: theirs, shown: merged };
  return [next, [{ do: 'keep' }, ...(state.phase === 'typing' ? [{ do: 'wait' } as const] : [])]];
}

/** Goes on from theirs; mine is saved first, so that it stays among the versions, and theirs again on top of it. */
function takeTheirs<V>(state: Saving<V>, ways: Ways<V>): Next<V> {
  const { theirs, shown: mine } = state;
  if (!theirs) return [state, []];
  const next = { ...state, base: theirs, theirs: null, shown: theirs.value };
  return put(next, { value: mine, note: SET_ASIDE }, ways);
}
