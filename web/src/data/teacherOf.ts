import { useMe } from './me.ts';
import { useClasses } from './queries.ts';

/** Tells of any class whether whoever looks may take it away, and what is its own: its teacher may, and the owners. */
export function useMayRemove(): (klass: number) => boolean {
  const { data: me } = useMe();
  const classes = useClasses().data?.classes;
  return (klass) => {
    const teacher = classes?.find(({ id }) => id === klass)?.teacher;
    return me?.role === 'owner' || (teacher !== undefined && teacher !== null && teacher.id === me?.account);
  };
}
