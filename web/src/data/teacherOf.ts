import { useMe } from './me.ts';
import { useClasses } from './queries.ts';

/** Whether whoever looks may take away a class and what is its own: its teacher, and the owners. */
export function useMayRemove(klass: number): boolean {
  const { data: me } = useMe();
  const teacher = useClasses().data?.classes.find(({ id }) => id === klass)?.teacher;
  return me?.role === 'owner' || (teacher !== undefined && teacher !== null && teacher.id === me?.account);
}
