import {
  autocompletion,
  closeBrackets,
  completionKeymap,
  type CompletionContext,
  type CompletionResult,
} from '@codemirror/autocomplete';
import { defaultKeymap, historyKeymap, isolateHistory, redoDepth, undoDepth } from '@codemirror/commands';
import {
  bracketMatching,
  foldGutter,
  foldKeymap,
  foldService,
  HighlightStyle,
  LanguageSupport,
  LRLanguage,
  syntaxHighlighting,
} from '@codemirror/language';
import { linter, lintGutter, type Diagnostic } from '@codemirror/lint';
import { EditorState, type Extension, type Text } from '@codemirror/state';
import {
  drawSelection,
  EditorView,
  highlightActiveLine,
  highlightActiveLineGutter,
  hoverTooltip,
  keymap,
  lineNumbers,
} from '@codemirror/view';
import { tags } from '@lezer/highlight';
import { scriptLanguage, type Finding, type Program } from '@vigilum/core/script';
import {
  applyFix,
  completionsAt,
  explainAt,
  folds,
  type Edited,
  type KnownRobotFacts,
  textChange,
} from '@vigilum/core/editing';

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
  '.cm-diagnosticAction': {
    backgroundColor: 'var(--sea)',
    color: 'var(--sheet)',
    borderRadius: '0.4rem',
    padding: '0.35rem 0.8rem',
    margin: '0.4rem 0 0',
    display: 'block',
    fontSize: '1rem',
  },
  '.cm-explanation': {
    fontFamily: 'var(--font-sans)',
    fontSize: '1rem',
    padding: '0.5rem 0.8rem',
    maxWidth: '24rem',
  },
  '.cm-explanation p': { margin: '0.15rem 0 0' },
  '.cm-completionDetail': {
    fontFamily: 'var(--font-sans)',
    fontStyle: 'normal',
    color: 'var(--ink-2)',
    marginLeft: '0.8rem',
  },
  '.cm-tooltip-autocomplete ul li[aria-selected] .cm-completionDetail': { color: 'var(--sheet)' },
  '.cm-foldPlaceholder': {
    backgroundColor: 'var(--sea-soft)',
    border: '1px solid var(--edge)',
    color: 'var(--ink)',
    padding: '0 0.5rem',
    margin: '0 0.4rem',
  },
  '.cm-foldGutter span': { fontSize: '1rem', padding: '0 0.25rem', cursor: 'pointer' },
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
        ...(finding.fix
          ? {
              actions: [
                {
                  name: finding.fix.label,
                  apply: (editor: EditorView) =>
                    change(editor, applyFix(editor.state.doc.toString(), finding.fix!)),
                },
              ],
            }
          : {}),
      },
    ];
  });
}

/** How a line can go on, from the grammar's words and what this robot has. */
function completions(hooks: EditorHooks) {
  return (context: CompletionContext): CompletionResult | null => {
    const line = context.state.doc.lineAt(context.pos);
    const column = context.pos - line.from;
    const typing = context.matchBefore(/[\p{L}%][\p{L}\p{N}_]*$/u);
    if (!typing && !context.explicit) return null;
    const { program, robot } = hooks.known();
    const found = completionsAt(line.text, column, program, robot);
    if (!found) return null;
    return {
      from: line.from + found.from,
      options: found.options.map(({ label, detail, kind }) => ({ label, detail, type: kind })),
      validFor: /^[\p{L}%][\p{L}\p{N}_ -]*$/u,
    };
  };
}

/** What the word under the pointer means here. */
const explanations = (hooks: EditorHooks) =>
  hoverTooltip((view, pos) => {
    const line = view.state.doc.lineAt(pos);
    const { program, robot } = hooks.known();
    const found = explainAt(line.text, pos - line.from, program, robot);
    if (!found) return null;
    return {
      pos: line.from + found.from,
      end: line.from + found.to,
      create: () => {
        const dom = document.createElement('div');
        dom.className = 'cm-explanation';
        const head = dom.appendChild(document.createElement('b'));
        head.textContent = found.word;
        for (const sentence of found.says) {
          dom.appendChild(document.createElement('p')).textContent = sentence;
        }
        return { dom };
      },
    };
  });

const foldable = new WeakMap<Text, Map<number, number>>();

/** Blocks fold from the end of their head line to the end of their last. */
const folding = foldService.of((state, lineStart) => {
  let known = foldable.get(state.doc);
  if (!known) {
    known = new Map(folds(state.doc.toString()).map(({ from, to }) => [from, to]));
    foldable.set(state.doc, known);
  }
  const line = state.doc.lineAt(lineStart);
  const to = known.get(line.number);
  return to === undefined || to > state.doc.lines ? null : { from: line.to, to: state.doc.line(to).to };
});

export interface EditorHooks {
  onText: (text: string) => void;
  onSave: () => void;
  findings: (text: string) => readonly Finding[];
  /** The program as it is typed now, and what is known of the robot. */
  known: () => { program: Program; robot: KnownRobotFacts };
  onHistory: (depth: { undo: number; redo: number }) => void;
}

/** Puts an edited script in the editor's place, as the smallest change, so that one undo takes it back. */
export function change(editor: EditorView, { text, line }: Edited): void {
  const changes = textChange(editor.state.doc.toString(), text);
  if (changes) editor.dispatch({ changes, annotations: isolateHistory.of('full') });
  const { doc } = editor.state;
  editor.dispatch({
    selection: { anchor: doc.line(Math.max(1, Math.min(line, doc.lines))).to },
    scrollIntoView: true,
  });
}

/** Everything the script editor is made of. */
/** With it the editor may set its styles: the page's policy takes none from code without. */
const styleNonce = (): string =>
  document.querySelector<HTMLMetaElement>('meta[name="style-nonce"]')?.content ?? '';

export function editorExtensions(hooks: EditorHooks): Extension[] {
  const { onText, onSave, findings, onHistory } = hooks;
  return [
    EditorView.cspNonce.of(styleNonce()),
    lineNumbers(),
    highlightActiveLine(),
    highlightActiveLineGutter(),
    drawSelection(),
    bracketMatching(),
    closeBrackets(),
    EditorState.tabSize.of(2),
    new LanguageSupport(language),
    syntaxHighlighting(colours),
    folding,
    foldGutter({ openText: '▾', closedText: '▸' }),
    explanations(hooks),
    autocompletion({ override: [completions(hooks)], icons: false }),
    linter((view) => diagnostics(view, findings(view.state.doc.toString())), { delay: 150 }),
    lintGutter(),
    keymap.of([
      { key: 'Mod-s', preventDefault: true, run: () => (onSave(), true) },
      ...defaultKeymap,
      ...historyKeymap,
      ...foldKeymap,
      ...completionKeymap,
    ]),
    look,
    EditorView.lineWrapping,
    EditorView.contentAttributes.of({
      'aria-label': 'Script, one step a line',
      spellcheck: 'false',
      autocapitalize: 'off',
    }),
    EditorView.updateListener.of((update) => {
      if (!update.docChanged) return;
      onText(update.state.doc.toString());
      onHistory({ undo: undoDepth(update.state), redo: redoDepth(update.state) });
    }),
  ];
}
