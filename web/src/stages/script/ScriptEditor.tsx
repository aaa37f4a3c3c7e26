import { redo, undo } from '@codemirror/commands';
import { forceLinting } from '@codemirror/lint';
import { Transaction } from '@codemirror/state';
import { EditorView } from '@codemirror/view';
import { useEffect, useImperativeHandle, useRef, type Ref } from 'react';
import type { Edited } from '@vigilum/core/editing';
import type { ScriptSession } from '../../script/session.ts';
import { change, editorExtensions, type EditorHooks } from './editor.ts';

/** What other views may do to the text. All of it goes through one history. */
export interface EditorHandle {
  edit(edited: Edited): void;
  undo(): void;
  redo(): void;
  goTo(line: number): void;
}

/**
 * The text view of a script. The session holds the text and its history, shown or not, so that others may write in it
 * and nothing is lost when the page is left.
 */
export function ScriptEditor({
  session,
  hooks,
  handle,
  relint,
  hidden,
}: {
  session: ScriptSession;
  hooks: EditorHooks;
  handle: Ref<EditorHandle>;
  relint: unknown;
  hidden: boolean;
}) {
  const box = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView | null>(null);
  const latest = useRef(hooks);
  useEffect(() => {
    latest.current = hooks;
  });
  useEffect(() => {
    const hide = session.show(
      (state, take) => {
        const made = new EditorView({
          parent: box.current!,
          state,
          dispatchTransactions: (transactions, editor) => {
            editor.update(transactions);
            const typed = transactions.some((tr) => tr.docChanged && !tr.annotation(Transaction.remote));
            take(editor.state, typed);
          },
        });
        view.current = made;
        return made;
      },
      editorExtensions({
        onText: (text) => latest.current.onText(text),
        onSave: () => latest.current.onSave(),
        findings: (text) => latest.current.findings(text),
        known: () => latest.current.known(),
        onHistory: (depth) => latest.current.onHistory(depth),
      }),
    );
    latest.current.onText(session.text);
    return () => {
      view.current = null;
      hide();
    };
  }, [session]);
  useEffect(() => {
    if (view.current) forceLinting(view.current);
  }, [relint]);
  useEffect(() => {
    if (!hidden) view.current?.requestMeasure();
  }, [hidden]);
  useImperativeHandle(handle, () => ({
    edit: (edited) => change(view.current!, edited),
    undo: () => void undo(view.current!),
    redo: () => void redo(view.current!),
    goTo(lineNumber) {
      const editor = view.current!;
      const line = editor.state.doc.line(Math.max(1, Math.min(lineNumber, editor.state.doc.lines)));
      editor.dispatch({ selection: { anchor: line.to }, scrollIntoView: true });
      editor.focus();
    },
  }));
  return (
    <div
      ref={box}
      hidden={hidden}
      className="h-full min-h-56 overflow-auto rounded-lg border border-edge focus-within:outline-3 focus-within:outline-sea"
    />
  );
}
