import { useMe } from './me.ts';
import { useTeamHour } from './queries.ts';

/** What this tablet's team knows of its hour; nothing on other machines. */
export function useOwnHour() {
  const { data: me } = useMe();
  return useTeamHour(me?.role === 'team' ? me.team!.id : null);
}

/** How many hints of a step the teacher has opened for the team. */
export function useHintsGiven(step: string): number {
  const { data } = useOwnHour();
  return data?.notes.filter((note) => note.kind === 'hint' && note.step === step).length ?? 0;
}
