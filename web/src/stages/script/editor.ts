import {
  autocompletion,
  closeBrackets,
  type CompletionContext,
  type CompletionResult,
} from '@codemirror/autocomplete';
import { defaultKeymap, history, historyKeymap, indentWithTab } from '@codemirror/commands';
import {
  bracketMatching,
  HighlightStyle,
  LanguageSupport,
  LRLanguage,
  syntaxHighlighting,
} from '@codemirror/language';
import { linter, lintGutter, type Diagnostic } from '@codemirror/lint';
import { EditorState, type Extension } from '@codemirror/state';
import {
  drawSelection,
  EditorView,
  highlightActiveLine,
  highlightActiveLineGutter,
  keymap,
  lineNumbers,
} from '@codemirror/view';
import { tags } from '@lezer/highlight';
import { scriptLanguage, shapes, type Finding } from '@vigilum/core/script';

const language = LRLanguage.define({
  name: 'steps',
  parser: scriptLanguage,
  languageData: { commentTokens: { line: '#' } },
});

const colours = HighlightStyle.define([
  { tag: tags.keyword, fontWeight: '700' },
  { tag: tags.lineComment, color: 'var(--ink-2)', fontStyle: 'italic' },
  { tag: tags.number, color: 'var(--sea)' },
  { tag: tags.unit, color: 'var(--sea)' },
  { tag: tags.string, color: 'var(--brass)' },
  { tag: tags.labelName, color: 'var(--sea)' },
]);

const look = EditorView.theme({
  '&': { fontSize: '1.125rem', height: '100%', backgroundColor: 'var(--sheet)', color: 'var(--ink)' },
  '&.cm-focused': { outline: 'none' },
  '.cm-scroller': { fontFamily: 'var(--font-mono)', lineHeight: '1.9' },
  '.cm-content': { caretColor: 'var(--ink)', padding: '0.5rem 0' },
  '.cm-cursor': { borderLeftColor: 'var(--ink)', borderLeftWidth: '2px' },
  '.cm-gutters': { backgroundColor: 'transparent', color: 'var(--ink-2)', border: 'none' },
  '.cm-activeLine': { backgroundColor: 'color-mix(in srgb, var(--sea-soft) 55%, transparent)' },
  '.cm-activeLineGutter': { backgroundColor: 'transparent', color: 'var(--ink)', fontWeight: '700' },
  '&.cm-focused > .cm-scroller > .cm-selectionLayer .cm-selectionBackground, .cm-selectionBackground': {
    backgroundColor: 'var(--sea-soft)',
  },
  '.cm-tooltip': {
    backgroundColor: 'var(--sheet)',
    color: 'var(--ink)',
    border: '1px solid var(--edge)',
    borderRadius: '0.4rem',
  },
  '.cm-tooltip-autocomplete ul li[aria-selected]': { backgroundColor: 'var(--sea)', color: 'var(--sheet)' },
  '.cm-tooltip-autocomplete > ul': { fontFamily: 'var(--font-mono)', fontSize: '1rem' },
  '.cm-tooltip-autocomplete > ul > li': { padding: '0.35rem 0.6rem' },
  '.cm-diagnostic': { fontFamily: 'var(--font-sans)', fontSize: '1rem', padding: '0.4rem 0.7rem' },
  '.cm-matchingBracket': { backgroundColor: 'var(--sea-soft)', outline: 'none' },
});

const severity = { fault: 'error', risk: 'warning', note: 'info' } as const;

/** Findings as marks in the text. */
function diagnostics(view: EditorView, findings: readonly Finding[]): Diagnostic[] {
  return findings.flatMap((finding): Diagnostic[] => {
    if (finding.line > view.state.doc.lines) return [];
    const line = view.state.doc.line(finding.line);
    const from = Math.min(line.from + finding.column - 1, line.to);
    return [
      {
        from,
        to: Math.min(line.to, from + finding.length),
        severity: severity[finding.grade],
        message: `${finding.says} ${finding.mend}`,
      },
    ];
  });
}

/** Completes the first word of a step, and the names and sockets this robot has further on. */
function completions(names: () => string[]) {
  return (context: CompletionContext): CompletionResult | null => {
    const line = context.state.doc.lineAt(context.pos);
    const before = line.text.slice(0, context.pos - line.from);
    if (before.includes('#')) return null;
    const word = context.matchBefore(/[A-Za-z]\w*/);
    if (!word && !context.explicit) return null;
    const from = word?.from ?? context.pos;
    if (/^\s*\w*$/.test(before)) {
      return {
        from,
        options: Object.entries(shapes).map(([label, [detail]]) => ({
          label,
          detail: detail!,
          type: 'keyword',
        })),
      };
    }
    return { from, options: names().map((label) => ({ label, type: 'variable' })) };
  };
}

export interface EditorHooks {
  onText: (text: string) => void;
  onSave: () => void;
  findings: (text: string) => readonly Finding[];
  names: () => string[];
}

/** Everything the script editor is made of. */
export function editorExtensions({ onText, onSave, findings, names }: EditorHooks): Extension[] {
  return [
    lineNumbers(),
    highlightActiveLine(),
    highlightActiveLineGutter(),
    history(),
    drawSelection(),
    bracketMatching(),
    closeBrackets(),
    EditorState.tabSize.of(2),
    new LanguageSupport(language),
    syntaxHighlighting(colours),
    autocompletion({ override: [completions(names)], icons: false }),
    linter((view) => diagnostics(view, findings(view.state.doc.toString())), { delay: 150 }),
    lintGutter(),
    keymap.of([
      { key: 'Mod-s', preventDefault: true, run: () => (onSave(), true) },
      ...defaultKeymap,
      ...historyKeymap,
      indentWithTab,
    ]),
    look,
    EditorView.lineWrapping,
    EditorView.contentAttributes.of({
      'aria-label': 'Script, one step a line',
      spellcheck: 'false',
      autocapitalize: 'off',
    }),
    EditorView.updateListener.of((update) => {
      if (update.docChanged) onText(update.state.doc.toString());
    }),
  ];
}
