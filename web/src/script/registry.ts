import type { Change } from '@vigilum/contract/types';

/** A script that is open on this page, as far as the rest of the application knows it: the editor's code stays away. */
interface Open {
  pull(): Promise<void>;
  /** Sends what is typed and not stored yet. */
  flush(): Promise<void>;
}
export interface ScriptId {
  team: number;
  lesson: string;
}
export const scriptKey = ({ team, lesson }: ScriptId): string => `script ${JSON.stringify({ team, lesson })}`;

/** The scripts that this page has open, or of which something is not stored yet. */
export const openScripts = new Map<string, Open>();

/** Others changed something: an open script takes it in. */
export function hearOfScript(change: Change): void {
  if (change.what !== 'evidence' || (change.part !== 'script' && change.part !== 'version')) return;
  void openScripts.get(scriptKey(change))?.pull();
}

/** The stream was away for a while: every open script looks what it missed. */
export function catchUp(): void {
  for (const script of openScripts.values()) void script.pull();
}
