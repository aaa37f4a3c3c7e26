/** A result, or one sentence that says why there is none and one that says what to do. */
export type Outcome<T> = { ok: true; value: T } | { ok: false; says: string; mend: string };

export const found = <T>(value: T): Outcome<T> => ({ ok: true, value });
export const refused = <T>(says: string, mend: string): Outcome<T> => ({ ok: false, says, mend });
