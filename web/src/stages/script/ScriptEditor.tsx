import { EditorState } from '@codemirror/state';
import { EditorView } from '@codemirror/view';
import { forceLinting } from '@codemirror/lint';
import { useEffect, useImperativeHandle, useRef, type Ref } from 'react';
import type { Edited } from '@vigilum/core/script';
import { editorExtensions, type EditorHooks } from './editor.ts';

/** What a finding's one-tap mend may do to the text; undo takes it back. */
export interface EditorHandle {
  edit(edited: Edited): void;
  replaceAll(text: string): void;
  goTo(line: number): void;
}

/** The text view of a script. It owns its text while it is open; `initial` is read once. */
export function ScriptEditor({
  initial,
  hooks,
  handle,
  relint,
}: {
  initial: string;
  hooks: EditorHooks;
  handle: Ref<EditorHandle>;
  relint: unknown;
}) {
  const box = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView | null>(null);
  const latest = useRef(hooks);
  useEffect(() => {
    latest.current = hooks;
  });
  useEffect(() => {
    const made = new EditorView({
      parent: box.current!,
      state: EditorState.create({
        doc: initial,
        selection: { anchor: initial.length },
        extensions: editorExtensions({
          onText: (text) => latest.current.onText(text),
          onSave: () => latest.current.onSave(),
          findings: (text) => latest.current.findings(text),
          names: () => latest.current.names(),
        }),
      }),
    });
    view.current = made;
    return () => made.destroy();
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the editor owns its text from then on
  }, []);
  useEffect(() => {
    if (view.current) forceLinting(view.current);
  }, [relint]);
  useImperativeHandle(handle, () => ({
    edit({ text, line }) {
      const editor = view.current!;
      editor.dispatch({ changes: { from: 0, to: editor.state.doc.length, insert: text } });
      const at = editor.state.doc.line(Math.min(line, editor.state.doc.lines)).to;
      editor.dispatch({ selection: { anchor: at }, scrollIntoView: true });
      editor.focus();
    },
    replaceAll(text) {
      const editor = view.current!;
      editor.dispatch({ changes: { from: 0, to: editor.state.doc.length, insert: text } });
    },
    goTo(lineNumber) {
      const editor = view.current!;
      const line = editor.state.doc.line(Math.min(lineNumber, editor.state.doc.lines));
      editor.dispatch({ selection: { anchor: line.to }, scrollIntoView: true });
      editor.focus();
    },
  }));
  return (
    <div
      ref={box}
      className="h-full min-h-56 overflow-auto rounded-lg border border-edge focus-within:outline-3 focus-within:outline-sea"
    />
  );
}
