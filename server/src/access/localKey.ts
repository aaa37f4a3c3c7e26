/** Header by which programs of this machine, such as the backup, show that they can read the data folder. */
export const LOCAL_KEY_HEADER = 'x-vigilum-key';
