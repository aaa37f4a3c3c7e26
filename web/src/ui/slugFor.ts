/** A short name for addresses and files, made of a title: lower-case letters, digits and dashes. */
export const slugFor = (title: string, otherwise: string, longest = 50): string =>
  title
    .toLowerCase()
    .replaceAll(/[^a-z0-9]+/g, '-')
    .slice(0, longest)
    .replaceAll(/^-|-$/g, '') || otherwise;
