import { memo } from 'react';
import ReactMarkdown, { type Components } from 'react-markdown';
import rehypeSanitize from 'rehype-sanitize';
import remarkGfm from 'remark-gfm';

const parts: Components = {
  a: ({ href, children }) => (
    <a className="text-sea underline" href={href} target="_blank" rel="noopener noreferrer nofollow">
      {children}
    </a>
  ),
  h1: ({ children }) => <h4 className="text-lg font-bold">{children}</h4>,
  h2: ({ children }) => <h4 className="text-lg font-bold">{children}</h4>,
  h3: ({ children }) => <h5 className="font-bold">{children}</h5>,
};

const inlineParts: Components = { a: parts.a, p: ({ children }) => <>{children}</> };

/** Quotes and lists within each other beyond this are shown as one: nobody means them, and they would break the page. */
const DEEPEST = 12;
const flatter = (text: string): string =>
  text.replaceAll(/^[ \t]*(?:(?:>|[-*+]|\d{1,9}[.)])[ \t]*){13,}/gm, (marks) =>
    marks.slice(0, [...marks.matchAll(/>|[-*+]|\d{1,9}[.)]/g)][DEEPEST]!.index),
  );

/**
 * Text of a lesson, which may be a stranger's: only what Markdown itself knows, no HTML, no scripts, no pictures
 * from elsewhere.
 */
export const Markdown = memo(function Markdown({
  text,
  className = '',
  inline = false,
}: {
  text: string;
  className?: string;
  /** For one line inside another text: words only, no headings, lists or tables. */
  inline?: boolean;
}) {
  if (inline)
    return (
      <ReactMarkdown
        rehypePlugins={[rehypeSanitize]}
        allowedElements={['p', 'strong', 'em', 'code', 'a', 'del']}
        unwrapDisallowed
        components={inlineParts}
      >
        {flatter(text)}
      </ReactMarkdown>
    );
  return (
    <div className={`lesson-text ${className}`}>
      <ReactMarkdown
        remarkPlugins={[remarkGfm]}
        rehypePlugins={[rehypeSanitize]}
        disallowedElements={['img', 'input']}
        components={parts}
      >
        {flatter(text)}
      </ReactMarkdown>
    </div>
  );
});
