import { ChangeSet, Text } from '@codemirror/state';
import type { ScriptUpdate } from '@vigilum/contract/types';
import { textChange } from '@vigilum/core/editing';
import { SCRIPT_LIMIT } from '@vigilum/core/script';
import { Problem } from '../http/problems.ts';

/** A text as the editor holds it. */
export const asText = (text: string): Text => Text.of(text.split('\n'));

const malformed = () =>
  new Problem(422, 'Not a change', 'Nothing was saved: the change does not fit the script. Reload the page.');

/** A text with updates applied in turn; a 422 where one does not fit it, or it grows too long. */
export function applied(text: string, updates: readonly ScriptUpdate[]): string {
  let now = asText(text);
  for (const { changes } of updates) {
    let set: ChangeSet;
    try {
      set = ChangeSet.fromJSON(changes);
    } catch {
      throw malformed();
    }
    if (set.length !== now.length) throw malformed();
    now = set.apply(now);
  }
  if (now.length > SCRIPT_LIMIT.characters)
    throw new Problem(
      422,
      'Too long',
      `Nothing was saved: a script has at most ${SCRIPT_LIMIT.characters} characters.`,
    );
  return now.toString();
}

/** One update that turns a text into another: what lies between their common beginning and end is replaced. */
export function updateBetween(from: string, to: string, client: string): ScriptUpdate {
  const change = textChange(from, to);
  const set = change
    ? ChangeSet.of({ ...change, insert: asText(change.insert) }, from.length)
    : ChangeSet.empty(from.length);
  return { client, changes: set.toJSON() as ScriptUpdate['changes'] };
}
