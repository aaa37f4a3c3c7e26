const letters = 'abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789';

/** A name that nobody else has: 24 letters and digits. Works without a secure context, as on a school's own network. */
export function token(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(24));
  return Array.from(bytes, (byte) => letters[byte % letters.length]).join('');
}

const KEY = 'page';

function ownName(): string {
  try {
    const known = sessionStorage.getItem(KEY);
    if (known) return known;
    const made = token();
    sessionStorage.setItem(KEY, made);
    return made;
  } catch {
    return token();
  }
}

/** The name of this page: it survives a reload, and tells the server's own news from those of others. */
export const PAGE = ownName();
