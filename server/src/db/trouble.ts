/** Why the data folder cannot be used now, in a sentence for whoever started Vigilum: what, where, what to do. Nothing was changed. */
export class FolderTrouble extends Error {}

/** What the system says of a file or folder, in words. */
const reasons: Record<string, string> = {
  EACCES: 'this user may not read and write there',
  EPERM: 'this user may not do that there',
  EROFS: 'it lies where nothing can be written',
  ENOSPC: 'the disk is full',
  EDQUOT: 'the space of this user is used up',
  ENOTDIR: 'a file lies where a folder should be',
  EEXIST: 'a file lies where a folder should be',
  ELOOP: 'its links lead round in a circle',
  ENAMETOOLONG: 'its name is too long',
  EIO: 'the disk does not answer as it should',
  EMFILE: 'too many files are open',
  ENOENT: 'a part of its path is not there',
};

/** What an error of the system says of a file or folder, in words; null for other errors. */
export const reasonOf = (error: unknown): string | null =>
  reasons[(error as NodeJS.ErrnoException).code ?? ''] ?? null;

/** A system's error as trouble with a folder; another error as it is. */
export function asTrouble(error: unknown, folder: string): unknown {
  const { path } = error as NodeJS.ErrnoException;
  const reason = reasonOf(error);
  if (error instanceof FolderTrouble || reason === null) return error;
  const where = path && path !== folder ? ` (${path})` : '';
  return new FolderTrouble(
    `The data folder ${folder} cannot be used: ${reason}${where}. Mend that, or set DATA_DIR to another folder.`,
  );
}
