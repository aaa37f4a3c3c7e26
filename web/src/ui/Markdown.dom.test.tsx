/** @jest-environment jsdom */
import { describe, expect, it } from '@jest/globals';
import { render } from '@testing-library/react';
import { Markdown } from './Markdown.tsx';

describe('a text of a lesson', () => {
  it.each([
    ['quotes within quotes', '>'.repeat(8000)],
    ['quotes with blanks', '> '.repeat(4000)],
    ['lists within lists', '- '.repeat(4000)],
    ['numbers within numbers', '1. '.repeat(2600)],
    ['all of them', '> - 1) '.repeat(1100)],
    ['stars', '*'.repeat(8000)],
    ['brackets', '['.repeat(8000)],
  ])('of nothing but %s breaks no page', (_, text) => {
    const { container } = render(<Markdown text={`${text} end`} />);
    expect(container.querySelectorAll('blockquote, li').length).toBeLessThan(40);
  });

  it('keeps lines, lists and quotes that people write', () => {
    const { container } = render(
      <Markdown text={'> said\n\n- a\n  - b\n    - c\n\n----------------\n\n1. one'} />,
    );
    expect(container.querySelectorAll('blockquote')).toHaveLength(1);
    expect(container.querySelectorAll('li')).toHaveLength(4);
    expect(container.querySelectorAll('hr')).toHaveLength(1);
  });
});
