import { AlignLeft, ClipboardPaste, Redo2, Undo2 } from 'lucide-react';
import { useQuery } from '@tanstack/react-query';
import { lazy, Suspense, useEffect, useMemo, useRef, useState, useSyncExternalStore } from 'react';
import { useSearchParams } from 'react-router';
import { reviewContext } from '@vigilum/core/classroom';
import { canRun, formatScript, parseScript, type Finding } from '@vigilum/core/script';
import { applyFix } from '@vigilum/core/editing';
import { review } from '@vigilum/core/review';
import { countOf } from '@vigilum/core/quantity';
import { Button } from '../../ui/Button.tsx';
import { api } from '../../data/api.ts';
import { keys } from '../../data/keys.ts';
import { KEPT_MS } from '../../data/offlineCache.ts';
import { SavedMark } from '../../saving/SavedMark.tsx';
import type { ScriptSession } from '../../script/session.ts';
import { openScript, sessionOf } from '../../script/sessions.ts';
import { Choice } from '../../ui/Choice.tsx';
import { FindingCard } from '../../ui/Finding.tsx';
import { Panel } from '../../ui/Panel.tsx';
import { Failed, Loading } from '../../ui/states.tsx';
import { remembered } from '../../ui/remembered.ts';
import { useStage } from '../../workspace/context.ts';
import { NextStage } from '../../workspace/NextStage.tsx';
import { ReviewPanel } from './ReviewPanel.tsx';
import { RobotFacts } from './RobotFacts.tsx';
import { ScriptEditor, type EditorHandle } from './ScriptEditor.tsx';
import { StepList } from './StepList.tsx';
import { WriterField } from './WriterField.tsx';
import { useWriter } from './useWriter.ts';
import { VersionsView } from './VersionsView.tsx';
import { WordList } from './WordList.tsx';
import { useLookedFindings } from './useLookedFindings.ts';
import { useTriedMends } from './useTriedMends.ts';

const PasteProgram = lazy(async () => ({
  default: (await import('../../phrasebook/PasteProgram.tsx')).PasteProgram,
}));
const FlowView = lazy(async () => ({ default: (await import('./FlowView.tsx')).FlowView }));

const views = ['text', 'steps', 'flow', 'versions'] as const;
type View = (typeof views)[number];
const viewWords: Record<View, string> = { text: 'Text', steps: 'Steps', flow: 'Flow', versions: 'Versions' };
/** A finger picks steps; a keyboard types text. What was chosen last goes before either. */
const byFinger = window.matchMedia('(pointer: coarse)').matches;
const lastView = remembered<View>('script view', ['text', 'steps'], byFinger ? 'steps' : 'text');

/** Stage 4: the behaviour, one step a line, written as text or as a list of steps, reviewed while it is written. */
export default function ScriptStage() {
  const { path } = useStage();
  const id = { team: path.id, lesson: path.slug };
  const [session, setSession] = useState(() => sessionOf(id));
  const query = useQuery({
    enabled: session === undefined,
    queryKey: keys.script(path.id, path.slug),
    queryFn: () => api('GET /teams/:id/lessons/:slug/script', path),
    staleTime: 0,
    // Without the server a tablet goes on with what it had.
    gcTime: KEPT_MS,
    retry: false,
  });
  const away = query.isError || query.fetchStatus === 'paused';
  const document = query.isFetchedAfterMount || away ? query.data : undefined;
  useEffect(() => {
    // One that was left open looks what it missed; a new one is begun from what the server has.
    if (session) void session.pull();
    else if (document) setSession(openScript({ team: path.id, lesson: path.slug }, document));
  }, [session, document, path.id, path.slug]);
  if (!session)
    return query.isError && !document ? (
      <Failed error={query.error} again={() => void query.refetch()} />
    ) : (
      <Loading what="the script" />
    );
  return <ScriptBench session={session} />;
}

function ScriptBench({ session }: { session: ScriptSession }) {
  const context = useStage();
  const { record, path } = context;
  useSyncExternalStore(session.subscribe, () => session.saving);
  const { saving } = session;
  const [text, setText] = useState(session.text);
  const [params, setParams] = useSearchParams();
  const last = lastView.use();
  const view = views.find((name) => name === params.get('view')) ?? last;
  const [selected, setSelected] = useState<number | null>(null);
  const [pasting, setPasting] = useState(false);
  const [depth, setDepth] = useState({ undo: 0, redo: 0 });
  const [writer, setWriter] = useWriter();
  const editor = useRef<EditorHandle>(null);
  const save = () => session.flush();
  // Leaving the stage makes a version of what was written.
  useEffect(() => () => void session.flush(), [session]);
  const reviewing = useMemo(() => reviewContext(record), [record]);
  const program = useMemo(() => parseScript(text), [text]);
  const findings = useLookedFindings(text, program, reviewing, record.lesson, context.known);
  const faults = findings.filter((f) => f.grade === 'fault').length;
  const tried = useTriedMends(text, findings, record.lesson, context.known);

  const choose = (next: View) => {
    setParams({ view: next }, { replace: true });
    if (next === 'text' || next === 'steps') lastView.set(next);
  };
  // A line asked for from another view is gone to once the editor is shown.
  const wanted = useRef<number | null>(null);
  const goToWanted = () => {
    if (wanted.current !== null) editor.current?.goTo(wanted.current);
    wanted.current = null;
  };
  useEffect(() => {
    if (view === 'text') goToWanted();
  }, [view]);
  const goTo = (line: number) => {
    if (view === 'steps') setSelected(line);
    else {
      wanted.current = line;
      choose('text');
      if (view === 'text') goToWanted();
    }
  };
  const mend = ({ fix }: Finding) => {
    if (!fix) return;
    const edited = applyFix(text, fix);
    editor.current?.edit(edited);
    if (view === 'steps') setSelected(edited.line);
    else if (view === 'text') editor.current?.goTo(edited.line);
  };
  const replaceAll = (next: string) => editor.current?.edit({ text: next, line: 1 });
  const undoKeys = (event: React.KeyboardEvent) => {
    // The text view has keys of its own; every other view shares its history.
    if (view === 'text' || !(event.ctrlKey || event.metaKey) || event.altKey) return;
    const key = event.key.toLowerCase();
    if (key !== 'z' && key !== 'y') return;
    event.preventDefault();
    if (key === 'y' || event.shiftKey) editor.current?.redo();
    else editor.current?.undo();
  };
  return (
    <div
      className="grid min-h-0 flex-1 grid-cols-1 gap-4 lg:grid-cols-[minmax(0,1fr)_25rem] lg:grid-rows-[minmax(0,1fr)]"
      onKeyDown={undoKeys}
    >
      <Panel
        title="Script"
        aside={
          <span className="flex flex-wrap items-center gap-x-4 gap-y-1">
            <span>{countOf(program.stepCount, 'step')}</span>
            <SavedMark phase={saving.phase} />
            <WriterField writer={writer} write={setWriter} />
          </span>
        }
      >
        <div className="mb-2 flex flex-wrap items-center gap-2">
          <Choice label="View" options={views} words={viewWords} value={view} choose={choose} />
          <span className="flex flex-wrap gap-1 sm:ml-auto">
            <Button
              icon={Undo2}
              className="px-2.5"
              title="Undo (Ctrl Z)"
              disabled={depth.undo === 0}
              onClick={() => editor.current?.undo()}
            >
              Undo
            </Button>
            <Button
              icon={Redo2}
              className="px-2.5"
              title="Redo (Ctrl Y)"
              disabled={depth.redo === 0}
              onClick={() => editor.current?.redo()}
            >
              Redo
            </Button>
            <Button
              icon={AlignLeft}
              className="px-2.5"
              title="Lay out spaces and depth; comments and meaning stay"
              disabled={formatScript(text).trimEnd() === text.trimEnd()}
              onClick={() => replaceAll(formatScript(text))}
            >
              Tidy
            </Button>
            <Button
              icon={ClipboardPaste}
              className="px-2.5"
              title={`Carry over a program in the words of ${record.kit.name}`}
              onClick={() => setPasting(true)}
            >
              Paste
            </Button>
          </span>
        </div>
        {pasting ? (
          <Suspense fallback={<Loading what="the phrasebooks" />}>
            <PasteProgram
              kit={record.kit}
              close={() => setPasting(false)}
              use={(carried) => {
                setPasting(false);
                replaceAll(carried);
              }}
            />
          </Suspense>
        ) : null}
        <div className={view === 'text' ? 'min-h-0 flex-1' : ''}>
          <ScriptEditor
            session={session}
            handle={editor}
            relint={findings}
            hidden={view !== 'text'}
            hooks={{
              onText: setText,
              onSave: () => void save(),
              findings: (now) => (now === text ? findings : review(parseScript(now), reviewing, 'later')),
              known: () => ({ program, robot: reviewing }),
              onHistory: setDepth,
            }}
          />
        </div>
        {view === 'text' ? <WordList /> : null}
        {view === 'steps' ? (
          <StepList
            text={text}
            program={program}
            robot={reviewing}
            findings={findings}
            edit={(edited) => editor.current?.edit(edited)}
            selected={selected}
            select={setSelected}
          />
        ) : null}
        {view === 'flow' ? (
          <Suspense fallback={<Loading what="the diagram" />}>
            <FlowView program={program} goTo={goTo} title={`${context.team.name} ${record.lesson.title}`} />
          </Suspense>
        ) : null}
        {view === 'versions' ? (
          <VersionsView
            path={path}
            text={text}
            skew={context.skew}
            restore={(version, old) => {
              replaceAll(old);
              void session.restored(version);
            }}
          />
        ) : null}
      </Panel>
      <ReviewPanel
        findings={findings}
        tried={tried}
        mend={mend}
        goTo={goTo}
        footer={
          canRun(program) ? (
            <NextStage to="try">{faults > 0 ? 'Try it anyway' : 'On to Try'}</NextStage>
          ) : (
            <span className="text-ink-2">Mend the faults to try it.</span>
          )
        }
        first={
          <>
            {saving.phase === 'conflict' && saving.theirs ? (
              <FindingCard
                tone="fault"
                says="The server has another script now."
                more="Yours is in the editor. Choose which one to keep; the other stays among the versions."
              >
                <pre className="mb-2 max-h-40 overflow-auto rounded-lg border border-line p-2 font-mono">
                  {saving.theirs.value}
                </pre>
                <span className="flex flex-wrap gap-2">
                  <Button main onClick={() => void session.choose('mine')}>
                    Keep mine
                  </Button>
                  <Button onClick={() => void session.choose('theirs')}>Take theirs</Button>
                </span>
              </FindingCard>
            ) : null}
            {saving.phase === 'failed' ? (
              <FindingCard tone="fault" says="This is not saved yet." more={saving.says}>
                <Button onClick={() => void save()}>Save now</Button>
              </FindingCard>
            ) : null}
          </>
        }
      >
        <RobotFacts context={context} />
      </ReviewPanel>
    </div>
  );
}
