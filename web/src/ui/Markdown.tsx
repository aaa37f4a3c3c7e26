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

/**
 * Text of a lesson, which may be a stranger's: only what Markdown itself knows, no HTML, no scripts, no pictures
 * from elsewhere.
 */
export const Markdown = memo(function Markdown({
  text,
  className = '',
}: {
  text: string;
  className?: string;
}) {
  return (
    <div className={`lesson-text ${className}`}>
      <ReactMarkdown
        remarkPlugins={[remarkGfm]}
        rehypePlugins={[rehypeSanitize]}
        disallowedElements={['img', 'input']}
        components={parts}
      >
        {text}
      </ReactMarkdown>
    </div>
  );
});
