import { useEffect } from 'react';

/**
 * Rules of style that hold while a page is shown, such as the size of its paper. They are adopted by the document and not written into
 * it: the page's policy takes styles from files and from here alone.
 */
export function usePrintRules(css: string): void {
  useEffect(() => {
    const sheet = new CSSStyleSheet();
    sheet.replaceSync(css);
    document.adoptedStyleSheets = [...document.adoptedStyleSheets, sheet];
    return () => {
      document.adoptedStyleSheets = document.adoptedStyleSheets.filter((one) => one !== sheet);
    };
  }, [css]);
}
