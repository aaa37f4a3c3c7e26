import { Printer } from 'lucide-react';
import { NavLink, useParams, useSearchParams } from 'react-router';
import { sentence } from '@vigilum/core/expect';
import {
  materialsFor,
  needsOfLesson,
  sensorAt,
  stepFacts,
  stepsOf,
  thingsToRead,
  timePlan,
  valuesInWords,
  variantOf,
  type Lesson,
  type LessonStep,
} from '@vigilum/core/lesson';
import { formatNumber } from '@vigilum/core/quantity';
import { sensorWords, type Kit } from '@vigilum/core/sensing';
import { useQuery } from '@tanstack/react-query';
import { Labelled } from '../ui/fields.tsx';
import { Button } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { keys } from '../data/keys.ts';
import { useToday } from '../data/queries.ts';
import { MatDrawing } from '../run/MatDrawing.tsx';
import { BackLink } from '../ui/BackLink.tsx';
import { Markdown } from '../ui/Markdown.tsx';
import { Failed, Loading } from '../ui/states.tsx';
import { useDraftQuery } from './useDraft.ts';

const sheets = { handout: 'Handout', teacher: 'Teacher’s sheet', poster: 'Wall poster' } as const;
type Sheet = keyof typeof sheets;

function Wiring({ lesson, kit }: { lesson: Lesson; kit: Kit | undefined }) {
  return (
    <table className="sheet-table">
      <thead>
        <tr>
          <th>socket</th>
          <th>sensor</th>
          <th>set to</th>
          <th>called</th>
          <th>checked</th>
        </tr>
      </thead>
      <tbody>
        {needsOfLesson(lesson).map(({ kind, socket, name }) => (
          <tr key={socket}>
            <td>{socket}</td>
            <td>{kit?.sensors.find(({ modes }) => modes.some((mode) => mode.kind === kind))?.name ?? ''}</td>
            <td>{sensorWords[kind]}</td>
            <td>{name}</td>
            <td className="w-20">☐</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** A table to be filled in by hand: five looks at each thing that one step reads. */
function ReadingsTable({ lesson, step }: { lesson: Lesson; step: LessonStep }) {
  const { name, socket, kind } = sensorAt(lesson, step);
  const decides = stepsOf(lesson).some(
    (other) => other.kind === 'decide' && sensorAt(lesson, other).socket === socket,
  );
  return (
    <section>
      <h2>
        Readings of {name} ({sensorWords[kind]} on {socket})
      </h2>
      <table className="sheet-table">
        <thead>
          <tr>
            <th>what</th>
            {[1, 2, 3, 4, 5].map((n) => (
              <th key={n}>look {n}</th>
            ))}
            <th>mean</th>
          </tr>
        </thead>
        <tbody>
          {thingsToRead(lesson, step).map(({ name: thing }) => (
            <tr key={thing} className="h-10">
              <td>{thing}</td>
              {[1, 2, 3, 4, 5, 6].map((n) => (
                <td key={n} />
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {decides ? (
        <p>Our threshold: ____________ because ______________________________________________</p>
      ) : null}
    </section>
  );
}

function TrialsTable({ lesson }: { lesson: Lesson }) {
  const { trials } = lesson.floor;
  if (trials === 0) return null;
  return (
    <section>
      <h2>Trials on the floor</h2>
      <table className="sheet-table">
        <thead>
          <tr>
            <th>trial</th>
            <th>start</th>
            <th>what we changed</th>
            <th>predicted</th>
            <th>measured</th>
            <th>time, s</th>
          </tr>
        </thead>
        <tbody>
          {Array.from({ length: trials }, (_, i) => (
            <tr key={i} className="h-10">
              <td>{i + 1}</td>
              {[1, 2, 3, 4, 5].map((n) => (
                <td key={n} />
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

function Course({ lesson }: { lesson: Lesson }) {
  const { course } = lesson;
  return (
    <section className="sheet-course">
      <MatDrawing
        className="max-h-[8.5cm] w-full"
        course={course}
        label={`The course ${course.name}, to scale.`}
      />
      <p>
        {course.name}: {formatNumber(course.widthMm / 10)} × {formatNumber(course.heightMm / 10)} cm; a square
        is 10 cm.
      </p>
    </section>
  );
}

function Cautions({ lesson }: { lesson: Lesson }) {
  return (
    <section>
      <h2>Cautions</h2>
      <ul className="list-disc pl-6">
        {lesson.cautions.map((caution) => (
          <li key={caution}>{caution}</li>
        ))}
      </ul>
    </section>
  );
}

function Expected({ lesson }: { lesson: Lesson }) {
  return (
    <>
      <h2>The robot is expected to</h2>
      <ul className="list-disc pl-6">
        {lesson.expectations.map((expectation, i) => (
          <li key={i}>{sentence(expectation, lesson.course)}</li>
        ))}
      </ul>
    </>
  );
}

function Handout({
  lesson,
  kit,
  team,
  says,
}: {
  lesson: Lesson;
  kit: Kit | undefined;
  team: string;
  says: string;
}) {
  return (
    <>
      <header>
        <h1>{lesson.title}</h1>
        <p>
          Team: {team || '______________________'} {says ? `· ${says}` : ''}
        </p>
      </header>
      {stepsOf(lesson).some(({ text }) => text.includes(lesson.aim)) ? null : (
        <p className="text-lg">{lesson.aim}</p>
      )}
      <Course lesson={lesson} />
      <section>
        <h2>Wiring</h2>
        <Wiring lesson={lesson} kit={kit} />
      </section>
      {stepsOf(lesson)
        .filter(({ kind }) => kind !== 'wire' && kind !== 'prove')
        .map((step, i) => (
          <section key={step.id}>
            <h2>
              {i + 1}. {step.title || stepFacts[step.kind].word}
            </h2>
            {step.text ? <Markdown text={step.text} /> : null}
            {step.expects ? (
              <p>
                ☐ Done when: <Markdown inline text={step.expects} />
              </p>
            ) : null}
          </section>
        ))}
      <section>
        <Expected lesson={lesson} />
      </section>
      {stepsOf(lesson)
        .filter(({ kind }) => kind === 'read')
        .map((step) => (
          <ReadingsTable key={step.id} lesson={lesson} step={step} />
        ))}
      <TrialsTable lesson={lesson} />
      <Cautions lesson={lesson} />
    </>
  );
}

function TeacherSheet({ lesson, teams }: { lesson: Lesson; teams: number }) {
  const plan = timePlan(lesson);
  return (
    <>
      <header>
        <h1>{lesson.title}: for the teacher</h1>
        <p>{lesson.aim}</p>
      </header>
      <section>
        <h2>Time plan</h2>
        <table className="sheet-table">
          <thead>
            <tr>
              <th>minute</th>
              <th>step</th>
              <th>done when</th>
            </tr>
          </thead>
          <tbody>
            {plan.steps.map(({ step, fromMin, toMin }) => (
              <tr key={step.id}>
                <td>{toMin > fromMin ? `${fromMin}–${toMin}` : step.kind === 'homework' ? 'at home' : ''}</td>
                <td>{step.title || stepFacts[step.kind].word}</td>
                <td>
                  <Markdown inline text={step.expects} />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        <p>{plan.says}</p>
      </section>
      <section>
        <h2>Model answer</h2>
        <pre className="font-mono whitespace-pre-wrap">{lesson.modelScript.trimEnd()}</pre>
      </section>
      <section>
        <Expected lesson={lesson} />
        <p>
          Proved when {lesson.proof.runs} runs show a pass rate that is surely above{' '}
          {formatNumber(100 * lesson.proof.bar, 0)} %.
        </p>
      </section>
      {(lesson.faults ?? []).length > 0 ? (
        <section>
          <h2>Common faults, and what to look for</h2>
          {lesson.faults!.map(({ name, script }) => (
            <div key={name}>
              <h3>{name}</h3>
              <pre className="font-mono whitespace-pre-wrap">{script.trimEnd()}</pre>
            </div>
          ))}
        </section>
      ) : null}
      <section>
        <h2>Hints, in their order</h2>
        {stepsOf(lesson)
          .filter(({ hints }) => hints.length > 0)
          .map(({ id, title, hints }) => (
            <p key={id}>
              <strong>{title}:</strong> <Markdown inline text={hints.join(' · ')} />
            </p>
          ))}
      </section>
      <section>
        <h2>Materials for {teams} teams</h2>
        <table className="sheet-table">
          <tbody>
            {materialsFor(lesson, teams).map(({ name, count, note }) => (
              <tr key={name}>
                <td>{count}</td>
                <td>{name}</td>
                <td>{note}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
      <Cautions lesson={lesson} />
    </>
  );
}

function Poster({ lesson }: { lesson: Lesson }) {
  return (
    <div className="sheet-poster">
      <h1>{lesson.title}</h1>
      <p className="sheet-aim">{lesson.aim}</p>
      <Course lesson={lesson} />
      <ol>
        {stepsOf(lesson)
          .filter(({ kind }) => !['extend', 'homework'].includes(kind))
          .map((step) => (
            <li key={step.id}>{step.title || stepFacts[step.kind].word}</li>
          ))}
      </ol>
      <Cautions lesson={lesson} />
    </div>
  );
}

/** A lesson on paper: handout, teacher's sheet or poster; the usual values, or one team's own. */
export default function PrintSheet() {
  const { slug = '', sheet = 'handout' } = useParams();
  const [search, setSearch] = useSearchParams();
  const query = useDraftQuery(slug);
  const today = useToday();
  const klass = today.data?.periods[0]?.class.id;
  const variants = useQuery({
    enabled: klass !== undefined,
    queryKey: keys.variants(slug, klass ?? 0),
    queryFn: () => api('GET /lessons/:slug/variants/:class', { slug, class: klass ?? 0 }),
  });
  if (query.isPending) return <Loading what="the lesson" />;
  if (!query.data) return <Failed error={query.error} again={() => void query.refetch()} />;
  const { lesson: raw, kits } = query.data;
  const shown: Sheet = sheet in sheets ? (sheet as Sheet) : 'handout';
  const own = variants.data?.variants.filter(({ values }) => values !== null) ?? [];
  const chosen = own.find(({ team }) => String(team.id) === search.get('team'));
  const lesson = variantOf(raw, chosen?.values);
  const kit = kits.find((one) => one.slug === lesson.robot?.kit);
  return (
    <main className="flex flex-1 flex-col gap-3 px-6 py-2.5 max-sm:px-3 print:p-0">
      <header className="flex flex-wrap items-center gap-3 print:hidden">
        <BackLink to={`/lessons/${slug}/build/share`} title="Back to the builder" />
        <span className="text-title font-bold">Print</span>
        <nav aria-label="Sheets" className="flex flex-wrap gap-1">
          {Object.entries(sheets).map(([to, word]) => (
            <NavLink
              key={to}
              to={{ pathname: `/lessons/${slug}/print/${to}`, search: search.toString() }}
              className={({ isActive }) =>
                `flex min-h-11 items-center rounded-lg border px-3 ${isActive ? 'border-sea bg-sea-soft font-bold text-sea' : 'border-edge bg-sheet'}`
              }
            >
              {word}
            </NavLink>
          ))}
        </nav>
        {own.length > 0 ? (
          <Labelled beside label="for">
            <select
              className="input h-11 w-auto"
              value={chosen ? String(chosen.team.id) : ''}
              onChange={(event) =>
                setSearch(event.target.value ? { team: event.target.value } : {}, { replace: true })
              }
            >
              <option value="">everybody (usual values)</option>
              {own.map(({ team }) => (
                <option key={team.id} value={team.id}>
                  {team.name}
                </option>
              ))}
            </select>
          </Labelled>
        ) : null}
        <Button main icon={Printer} className="ml-auto" onClick={() => window.print()}>
          Print this sheet
        </Button>
      </header>
      <article aria-label={sheets[shown]} className={`print-sheet ${shown}`}>
        {shown === 'handout' ? (
          <Handout
            lesson={lesson}
            kit={kit}
            team={chosen?.team.name ?? ''}
            says={chosen?.values && raw.twist ? valuesInWords(raw.twist, chosen.values) : ''}
          />
        ) : shown === 'teacher' ? (
          <TeacherSheet lesson={lesson} teams={Math.max(1, today.data?.periods[0]?.teams.length ?? 8)} />
        ) : (
          <Poster lesson={lesson} />
        )}
      </article>
    </main>
  );
}
