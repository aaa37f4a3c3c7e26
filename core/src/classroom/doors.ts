/** Things of a harbour that are told apart at a glance: by one of them a team shows at the door that it is the one it says. */
export const teamPictures = [
  'anchor',
  'ship',
  'yacht',
  'fish',
  'shell',
  'shrimp',
  'turtle',
  'bird',
  'lifebuoy',
  'waves',
  'sun',
  'moon',
  'umbrella',
  'wind',
  'mountain',
  'flag',
] as const;
export type TeamPicture = (typeof teamPictures)[number];

/**
 * A class code as it is compared: letters alone, small. “Tabo finu”, “tabofinu” and “TABO-FINU” are one code.
 */
export const plainCode = (typed: string): string => typed.toLowerCase().replace(/[^a-z]/g, '');

/** A class code as it is read aloud: two words of two syllables. */
export const spokenCode = (code: string): string => `${code.slice(0, 4)} ${code.slice(4)}`;
