/** Version of the form of backup files. */
export const BACKUP_FORMAT = 1;

export interface BackupHead {
  format: 'vigilum-backup';
  version: number;
  /** The newest migration of the database that it was taken from. */
  form: number;
  made: string;
  /** The data folder that it was taken from. */
  vigilum: string;
}
