export const TOLD = 'Told';

/** Something that cannot be done, in a sentence for people. Its name, not its class, comes over from a worker. */
export class Told extends Error {
  override readonly name = TOLD;
}
