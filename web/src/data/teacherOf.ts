import { useMe } from './me.ts';
import { useClasses } from './queries.ts';

/** Returns whether the signed-in person may remove a class and what belongs to it: only its teacher and owners may. */
export function useMayRemove(): (klass: number) => boolean {
  const { data: me } = useMe();
  const classes = useClasses().data?.classes;
  return (klass) => {
    const teacher = classes?.find(({ id }) => id === klass)?.teacher;
    return me?.role === 'owner' || (teacher !== undefined && teacher !== null && teacher.id === me?.account);
  };
}
