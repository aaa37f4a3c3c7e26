import { useState } from 'react';
import { countOf } from '@vigilum/core/quantity';
import { Labelled } from '../ui/fields.tsx';
import { Button, LinkButton } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { useChange, useClasses, useKits, useLessons, useRobots, useSchool } from '../data/queries.ts';
import { NewClassForm } from '../setup/NewClassForm.tsx';
import { Failed, Loading } from '../ui/states.tsx';
import { KitStep } from './KitStep.tsx';
import { LessonStep } from './LessonStep.tsx';
import { RobotsStep } from './RobotsStep.tsx';
import { Step, type StepState } from './Step.tsx';

const steps = ['school', 'kit', 'robots', 'class', 'lesson'] as const;
type StepName = (typeof steps)[number];

/** The school’s name, which new classes take over. */
function SchoolStep({ name, done }: { name: string; done: () => void }) {
  const [typed, setTyped] = useState(name);
  const save = useChange(
    (school: string) => api('PUT /school', { body: { name: school } }),
    () => [{ what: 'class', class: 0, part: 'teams' }],
  );
  return (
    <form
      className="flex flex-wrap items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (typed.trim() !== '') void save.mutateAsync(typed.trim()).then(done, () => undefined);
      }}
    >
      <Labelled label="name of the school" className="min-w-56">
        <input
          className="input w-80 max-w-full"
          maxLength={120}
          autoComplete="organization"
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
        />
      </Labelled>
      <Button main type="submit" disabled={typed.trim() === '' || save.isPending}>
        Save the name
      </Button>
    </form>
  );
}

/** The first day on one page: school, kit, robots, class with its teams, first lesson; what is done and what is next. */
export default function FirstDayPage() {
  const school = useSchool();
  const kits = useKits();
  const robots = useRobots();
  const classes = useClasses();
  const lessons = useLessons();
  // What was chosen or opened again on this page; the rest is what is stored.
  const [kitSlug, setKit] = useState<string | null>(null);
  const [open, setOpen] = useState<StepName | null>(null);
  const [past, setPast] = useState<readonly StepName[]>([]);
  const [classId, setClass] = useState<number | null>(null);
  const asked = [school, kits, robots, classes, lessons];
  const failed = asked.find(({ isError }) => isError);
  if (failed?.error)
    return <Failed error={failed.error} again={() => asked.forEach((query) => void query.refetch())} />;
  if (!school.data || !kits.data || !robots.data || !classes.data || !lessons.data)
    return <Loading what="what is there already" />;
  const allKits = kits.data.kits.map(({ kit }) => kit);
  const built = robots.data.robots.filter(({ archived }) => !archived);
  const newest = built.at(-1)?.kit.slug;
  const kit = allKits.find(({ slug }) => slug === (kitSlug ?? newest));
  const ofKit = built.filter((robot) => robot.kit.slug === kit?.slug);
  const shown = classes.data.classes.filter(({ archived }) => !archived);
  const klass =
    shown.find(({ id }) => id === classId) ??
    shown.reduce<(typeof shown)[number] | undefined>((a, b) => (a && a.id > b.id ? a : b), undefined);
  const isDone: Record<StepName, boolean> = {
    school: school.data.name !== '',
    kit: kit !== undefined,
    robots: ofKit.length > 0,
    class: klass !== undefined,
    lesson: school.data.hours > 0,
  };
  const next = steps.find((step) => !isDone[step]) ?? null;
  const now = open ?? next;
  const stateOf = (step: StepName): StepState => (step === now ? 'now' : isDone[step] ? 'done' : 'later');
  const finish = (step: StepName) => {
    setPast([...past, step]);
    setOpen(null);
  };
  const figures: Record<StepName, string> = {
    school: school.data.name,
    kit: kit ? `${kit.name}, ${countOf(kit.sensors.length, 'sensor')}` : '',
    robots: ofKit.length > 0 ? countOf(ofKit.length, `${kit!.name} robot`) : '',
    class: klass ? `${klass.name}, ${countOf(klass.teams, 'team')}` : '',
    lesson: school.data.hours > 0 ? countOf(school.data.hours, 'lesson hour') : '',
  };
  const step = (name: StepName, n: number, title: string) => ({
    n,
    title,
    state: stateOf(name),
    figure: stateOf(name) === 'now' ? '' : figures[name],
    again: () => setOpen(name),
    takesFocus: past.length > 0,
  });
  return (
    <main className="flex flex-1 flex-col gap-3 px-6 py-3.5 max-sm:px-3">
      <header className="flex max-w-4xl flex-wrap items-center gap-x-4 gap-y-1">
        <h1 className="text-title font-bold">The first day</h1>
        <span className="text-ink-2">
          {next === null
            ? 'Everything is set up.'
            : `${steps.filter((name) => isDone[name]).length} of ${steps.length} done`}
        </span>
        {next === null ? (
          <LinkButton main className="ml-auto" to="/">
            Go to Today
          </LinkButton>
        ) : null}
      </header>
      <ol className="flex max-w-4xl flex-col gap-2">
        <Step {...step('school', 1, 'School')}>
          <SchoolStep name={school.data.name} done={() => finish('school')} />
        </Step>
        <Step {...step('kit', 2, 'Kit')}>
          <KitStep
            kits={allKits}
            take={(slug) => {
              setKit(slug);
              finish('kit');
            }}
          />
        </Step>
        <Step {...step('robots', 3, 'Robots')}>
          {kit ? <RobotsStep kit={kit} robots={built} done={() => finish('robots')} /> : null}
        </Step>
        <Step {...step('class', 4, 'Class and teams')}>
          <NewClassForm
            school={school.data.name}
            askSchool={false}
            kits={allKits}
            robots={robots.data.robots}
            {...(kit ? { kit: kit.slug } : {})}
            done={(id) => {
              setClass(id);
              finish('class');
            }}
          />
        </Step>
        <Step {...step('lesson', 5, 'First lesson')}>
          {klass ? <LessonStep klass={klass} kit={kit} lessons={lessons.data.lessons} /> : null}
        </Step>
      </ol>
    </main>
  );
}
