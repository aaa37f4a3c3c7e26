/** A file may bring many more readings than a person takes by hand. */
export const MOST_IMPORTED = 200_000;
/** Most updates of a script in one push. */
export const MOST_UPDATES = 500;
