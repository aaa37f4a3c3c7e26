import { createHash, randomBytes, randomInt } from 'node:crypto';
import { hash, verify } from '@node-rs/argon2';
import zxcvbn from 'zxcvbn';

/** What only its holder knows: 32 bytes from the system, as an address may hold them. */
export const newToken = (): string => randomBytes(32).toString('base64url');
/** What is kept of a token. It is long and random, so that one quick hash is enough (unlike for passwords). */
export const hashOf = (token: string): string => createHash('sha256').update(token).digest('base64url');

/** Argon2id with 19 MiB, two passes, one lane: the OWASP Password Storage Cheat Sheet's first choice of parameters. */
const ARGON2 = { memoryCost: 19_456, timeCost: 2, parallelism: 1 };

export const hashPassword = (password: string): Promise<string> => hash(password, ARGON2);

// A name that nobody has takes as long to refuse as a wrong password.
const nobodys = hashPassword(newToken());

/** Whether a password is that of an account; false where it has none. */
export async function isPassword(password: string, stored: string | null): Promise<boolean> {
  const right = await verify(stored ?? (await nobodys), password).catch(() => false);
  return right && stored !== null;
}

/** What is longer is no easier to guess, and only takes longer to look at. */
const LOOKED_AT = 72;

/**
 * Whether a password would be guessed soon: it is on a list of leaked ones, a row of keys, a date, or made of what everybody knows of its
 * owner (`known`). By zxcvbn (D. Wheeler, USENIX Security 2016): less than 10⁶ guesses.
 */
export const isEasyToGuess = (password: string, known: readonly string[]): boolean =>
  zxcvbn(password.slice(0, LOOKED_AT), [...known, 'vigilum']).score < 2;

const consonants = 'bdfgklmnprstvz';
const vowels = 'aeiou';
/** A password that can be read aloud and typed: four words of two syllables, one of 70⁸ (49 bits). */
export function spokenPassword(): string {
  const syllable = () => consonants[randomInt(consonants.length)]! + vowels[randomInt(vowels.length)]!;
  return Array.from({ length: 4 }, () => syllable() + syllable()).join('-');
}
