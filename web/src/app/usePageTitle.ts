import { useEffect } from 'react';

/** The browser's tab is named after the page's own heading, with what `data-part` says of the part that is open. */
export function usePageTitle(): void {
  useEffect(() => {
    const page = document.getElementById('page');
    if (!page) return;
    let asked = 0;
    const name = () => {
      asked = 0;
      const heading = page.querySelector('h1');
      const part = page.querySelector('[data-part]')?.getAttribute('data-part');
      const words = [part, heading?.textContent?.trim(), 'Vigilum'].filter(Boolean);
      const title = words.join(' · ');
      if (document.title !== title) document.title = title;
    };
    const observer = new MutationObserver(() => {
      asked ||= requestAnimationFrame(name);
    });
    observer.observe(page, {
      subtree: true,
      childList: true,
      characterData: true,
      attributeFilter: ['data-part'],
    });
    name();
    return () => {
      observer.disconnect();
      cancelAnimationFrame(asked);
    };
  }, []);
}
