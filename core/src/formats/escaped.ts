/** A text whose signs mean nothing to Markdown. */
export const escaped = (text: string): string => text.replace(/([\\`*_{}[\]<>#|])/g, '\\$1');
