import { Download, Printer, Redo2, Save, Undo2 } from 'lucide-react';
import { useEffect, useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import {
  buildCourse,
  courseFamilies,
  type Course,
  type CourseFamily,
  type ItemRef,
} from '@vigilum/core/course';
import { courseSvg } from '@vigilum/core/formats';
import { formatNumber } from '@vigilum/core/quantity';
import { Button, LinkButton } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import type { CourseValue } from '@vigilum/contract/types';
import { useChange } from '../data/queries.ts';
import { EarlierStates } from '../saving/EarlierStates.tsx';
import { courseKind } from '../saving/kinds.ts';
import { Sides } from '../saving/Sides.tsx';
import { DocTrouble } from '../saving/Trouble.tsx';
import { saveNow, useDocOf } from '../saving/useDoc.ts';
import { BackLink } from '../ui/BackLink.tsx';
import { Choice } from '../ui/Choice.tsx';
import { Panel } from '../ui/Panel.tsx';
import { saveFile } from '../ui/saveFile.ts';
import { Failed, Loading } from '../ui/states.tsx';
import { CourseCanvas } from './CourseCanvas.tsx';
import { FamilyPanel } from './FamilyPanel.tsx';
import { IntoLesson } from './IntoLesson.tsx';
import { ItemPanel } from './ItemPanel.tsx';
import { useCourses } from './queries.ts';
import { useHistory } from '../ui/useHistory.ts';
import { CheckBox } from '../ui/CheckBox.tsx';

interface Draft {
  course: Course;
  /** The family's numbers, as long as nothing was changed by hand. */
  parameters: Record<string, number> | null;
}

interface Given {
  /** The stored course that is edited; null for a new one. */
  id: number | null;
  revision: number;
  first: Draft;
  family: CourseFamily | null;
  /** The lesson that it was taken from. */
  lesson?: { slug: string; title: string };
}

const rims = ['open', 'wall', 'drop'] as const;
const rimWords = { open: 'open floor', wall: 'a wall', drop: 'a drop' };
const fileName = (course: Course) => course.name.toLowerCase().replace(/[^a-z0-9]+/g, '-') || 'course';

function Editor({ id, revision, first, family, lesson }: Given) {
  const { now, change, amend, undo, redo, canUndo, canRedo } = useHistory(first);
  const [chosen, setChosen] = useState<ItemRef | null>(null);
  const [saved, setSaved] = useState(id === null ? '' : JSON.stringify(first.course));
  const [snapping, setSnapping] = useState(true);
  const [view, setView] = useState<'family' | 'hand'>(family && first.parameters ? 'family' : 'hand');
  const [round, setRound] = useState(0);
  const navigate = useNavigate();
  const { course, parameters } = now;
  const body = { course, family: parameters ? (family?.id ?? null) : null, parameters };
  const add = useChange(
    (_: void) => api('POST /courses', { body }),
    ({ id: made }) => [{ what: 'course', course: made }],
  );
  const doc = useDocOf(
    courseKind,
    id === null ? null : { id },
    id === null
      ? null
      : { revision, value: { ...first, family: first.parameters ? (family?.id ?? null) : null } },
  );
  const byHand = (next: Course) => change({ course: next, parameters: null });
  const save = async () => {
    if (doc) {
      if (await saveNow(doc, body)) setSaved(JSON.stringify(course));
      return;
    }
    await add.mutateAsync().then(
      async ({ id: newId }) => {
        setSaved(JSON.stringify(course));
        await navigate(`/courses/${newId}`, { replace: true });
      },
      () => undefined,
    );
  };
  const bringBack = (value: unknown) => {
    const { course: was, parameters: numbers } = value as CourseValue;
    change({ course: was, parameters: numbers ?? null });
  };
  useEffect(() => {
    const key = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z') return;
      if (event.target instanceof HTMLInputElement) return;
      event.preventDefault();
      if (event.shiftKey) redo();
      else undo();
      setRound((n) => n + 1);
    };
    window.addEventListener('keydown', key);
    return () => window.removeEventListener('keydown', key);
  }, [undo, redo]);
  const changed = saved !== JSON.stringify(course);
  return (
    <main className="flex flex-1 flex-col px-6 pt-2.5 pb-4 max-sm:px-3 lg:h-dvh lg:min-h-[40rem] lg:flex-none">
      <header className="mb-2 flex flex-wrap items-center gap-x-3 gap-y-1">
        <BackLink to="/courses" title="Back to all courses" />
        <h1 className="sr-only">Course {course.name}</h1>
        <input
          className="input h-11 w-72 text-title font-bold"
          aria-label="Name of the course"
          maxLength={80}
          value={course.name}
          onChange={(event) => amend({ ...now, course: { ...course, name: event.target.value } })}
        />
        <span className="text-ink-2">
          {formatNumber(course.widthMm / 10)} × {formatNumber(course.heightMm / 10)} cm ·{' '}
          {changed ? 'not saved' : 'saved'}
        </span>
        <div className="ml-auto flex flex-wrap gap-1.5">
          <Button
            icon={Undo2}
            className="px-3"
            disabled={!canUndo}
            title="Undo (Ctrl+Z)"
            onClick={() => (undo(), setRound(round + 1))}
          >
            Undo
          </Button>
          <Button
            icon={Redo2}
            className="px-3"
            disabled={!canRedo}
            title="Redo (Ctrl+Shift+Z)"
            onClick={() => (redo(), setRound(round + 1))}
          >
            Redo
          </Button>
          {doc ? (
            <EarlierStates
              of="course"
              id={String(doc.id.id)}
              show={(value) => (value as CourseValue).course.name}
              restore={bringBack}
            />
          ) : null}
          {lesson ? (
            <IntoLesson
              slug={lesson.slug}
              title={lesson.title}
              course={course}
              changed={course !== first.course}
            />
          ) : null}
          <Button
            main={!lesson}
            icon={Save}
            className="px-3"
            disabled={!changed || course.name.trim() === '' || add.isPending}
            onClick={() => void save()}
          >
            {lesson ? 'Save as own course' : 'Save'}
          </Button>
        </div>
      </header>
      {doc ? (
        <DocTrouble
          doc={doc}
          chosen={(value, side) => {
            if (side === 'theirs') bringBack(value);
            setSaved(JSON.stringify(value.course));
          }}
          what="this course"
          sides={(mine, theirs) => <Sides mine={mine.course} theirs={theirs.course} />}
        />
      ) : null}
      <div className="grid min-h-0 flex-1 grid-cols-1 gap-4 lg:grid-cols-[minmax(0,1fr)_23.5rem] lg:grid-rows-[minmax(0,1fr)]">
        <section className="panel flex min-h-96 min-w-0 flex-col p-3">
          <CourseCanvas
            course={course}
            chosen={chosen}
            choose={(ref) => {
              setChosen(ref);
              if (ref) setView('hand');
            }}
            change={byHand}
            amend={(next) => amend({ course: next, parameters: null })}
            snapping={snapping}
          />
        </section>
        <Panel
          footer={
            <>
              <Button
                icon={Download}
                className="px-3"
                onClick={() =>
                  saveFile(
                    `${fileName(course)}.json`,
                    'application/json',
                    `${JSON.stringify(course, null, 2)}\n`,
                  )
                }
              >
                JSON
              </Button>
              <Button
                icon={Download}
                className="px-3"
                onClick={() => saveFile(`${fileName(course)}.svg`, 'image/svg+xml', courseSvg(course))}
              >
                SVG in mm
              </Button>
              {id !== null && !changed ? (
                <LinkButton icon={Printer} className="px-3" to={`/courses/${id}/print`}>
                  Print
                </LinkButton>
              ) : null}
            </>
          }
        >
          <div className="mb-3 flex flex-wrap items-center gap-x-4 gap-y-1">
            {family ? (
              <Choice
                label="How to change it"
                options={['family', 'hand'] as const}
                words={{ family: 'By numbers', hand: 'By hand' }}
                value={view}
                choose={setView}
              />
            ) : null}
            <CheckBox checked={snapping} change={setSnapping}>
              snap to 10 mm
            </CheckBox>
          </div>
          {view === 'family' && family ? (
            <>
              {parameters === null ? (
                <p className="mb-2 text-brass">
                  Changed by hand: a number moved here builds the course anew. Undo brings your work back.
                </p>
              ) : null}
              <FamilyPanel
                family={family}
                values={parameters ?? first.parameters ?? {}}
                change={(next, values) => {
                  setChosen(null);
                  change({ course: { ...next, name: course.name }, parameters: values });
                }}
              />
            </>
          ) : (
            <>
              <ItemPanel
                course={course}
                chosen={chosen}
                choose={setChosen}
                change={byHand}
                round={`${round}`}
              />
              <div className="mt-4 flex flex-wrap items-center gap-2">
                <span className="text-ink-2">at the rim</span>
                <Choice
                  label="At the rim"
                  options={rims}
                  words={rimWords}
                  value={course.rim ?? 'open'}
                  choose={(rim) => byHand({ ...course, rim })}
                />
              </div>
            </>
          )}
        </Panel>
      </div>
    </main>
  );
}

/** One course: made from a family, taken from a lesson, or one's own. */
export default function CoursePage() {
  const { id, family: familyId, slug } = useParams();
  const query = useCourses();
  if (query.isPending) return <Loading what="the course" />;
  if (!query.data) return <Failed error={query.error} again={() => void query.refetch()} />;
  const familyOf = (name: string | null | undefined) =>
    courseFamilies.find((family) => family.id === name) ?? null;
  const stored = query.data.courses.find((one) => String(one.id) === id);
  const lesson = query.data.lessons.find((one) => one.slug === slug);
  const family = familyOf(stored?.family ?? familyId);
  if (stored)
    return (
      <Editor
        key={stored.id}
        id={stored.id}
        revision={stored.revision}
        first={{ course: stored.course, parameters: stored.parameters }}
        family={family}
      />
    );
  // A lesson's course is copied: what is changed becomes a course of one's own.
  if (lesson)
    return (
      <Editor
        key={lesson.slug}
        id={null}
        revision={0}
        first={{ course: lesson.course, parameters: null }}
        family={null}
        lesson={lesson}
      />
    );
  if (family)
    return (
      <Editor
        key={family.id}
        id={null}
        revision={0}
        first={{ course: buildCourse(family), parameters: {} }}
        family={family}
      />
    );
  return (
    <main className="p-8">
      <h1 className="text-title font-bold">There is no such course.</h1>
      <p className="my-3 text-ink-2">It may have been removed.</p>
      <LinkButton main to="/courses">
        All courses
      </LinkButton>
    </main>
  );
}
