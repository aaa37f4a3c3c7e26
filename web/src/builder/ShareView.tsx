import { useMutation } from '@tanstack/react-query';
import { Copy, Download, Printer, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { lessonToJson, lessonToMarkdown } from '@vigilum/core/formats';
import { Labelled } from '../ui/fields.tsx';
import { Button, LinkButton } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { sentenceOf } from '../ui/sentenceOf.ts';
import { useRemoval } from '../data/removal.ts';
import { Panel } from '../ui/Panel.tsx';
import { saveFile } from '../ui/saveFile.ts';
import { useBuilder } from './BuilderLayout.tsx';

const sheets = [
  { to: 'handout', word: 'Handout', says: 'for a team: course, wiring, steps, a table to fill in, cautions' },
  {
    to: 'teacher',
    word: 'Teacher’s sheet',
    says: 'answer, common faults, what to look for, time plan, materials',
  },
  { to: 'poster', word: 'Wall poster', says: 'the aim, the course and the steps, to be read from afar' },
];

/** The lesson as files and on paper; a colleague's copy; the way out. */
export default function ShareView() {
  const { lesson, save } = useBuilder();
  const navigate = useNavigate();
  const [title, setTitle] = useState(`${lesson.title.slice(0, 110)}, copy`);
  const [from, setFrom] = useState(lesson.origin?.from ?? '');
  const removal = useRemoval('lessons', `“${lesson.title}” was taken off the list.`, () => [
    { what: 'lesson', lesson: lesson.slug, of: 0 },
  ]);
  const copy = useMutation({
    mutationFn: async () => {
      await save();
      return api('POST /lessons/:slug/copies', { slug: lesson.slug, body: { title, from } });
    },
    onSuccess: ({ lesson: made }) => void navigate(`/lessons/${made.slug}/build/steps`),
    onError: (error) => toast.error(sentenceOf(error)),
  });
  return (
    <div className="grid min-h-0 flex-1 content-start gap-4 overflow-y-auto lg:grid-cols-2">
      <Panel title="On paper">
        <ul className="flex flex-col gap-2">
          {sheets.map(({ to, word, says }) => (
            <li key={to} className="flex items-center gap-3">
              <LinkButton
                icon={Printer}
                className="w-44 justify-start"
                to={`/lessons/${lesson.slug}/print/${to}`}
              >
                {word}
              </LinkButton>
              <span className="text-ink-2">{says}</span>
            </li>
          ))}
        </ul>
      </Panel>
      <Panel title="As a file">
        <ul className="flex flex-col gap-2">
          <li className="flex items-center gap-3">
            <Button
              icon={Download}
              className="w-44 justify-start"
              onClick={() => saveFile(`${lesson.slug}.lesson.json`, 'application/json', lessonToJson(lesson))}
            >
              JSON
            </Button>
            <span className="text-ink-2">
              everything, for Vigilum and other programs; the schema is published
            </span>
          </li>
          <li className="flex items-center gap-3">
            <Button
              icon={Download}
              className="w-44 justify-start"
              onClick={() => saveFile(`${lesson.slug}.lesson.md`, 'text/markdown', lessonToMarkdown(lesson))}
            >
              Markdown
            </Button>
            <span className="text-ink-2">to read and edit as text; it can be imported again</span>
          </li>
        </ul>
        <p className="mt-3 text-ink-2">
          Files are imported from the list of lessons, with a look at them first.
        </p>
      </Panel>
      <Panel title="A copy of one’s own">
        <div className="flex flex-wrap items-end gap-3">
          <Labelled label="title of the copy" className="min-w-56 flex-1">
            <input
              className="input w-full"
              maxLength={120}
              value={title}
              onChange={(event) => setTitle(event.target.value)}
            />
          </Labelled>
          <Labelled label="taken over from">
            <input
              className="input w-48"
              maxLength={120}
              value={from}
              onChange={(event) => setFrom(event.target.value)}
            />
          </Labelled>
          <Button
            main
            icon={Copy}
            disabled={title.trim() === '' || copy.isPending}
            onClick={() => copy.mutate()}
          >
            Make the copy
          </Button>
        </div>
        <p className="mt-2 text-ink-2">
          {lesson.origin
            ? `This lesson is itself a copy of “${lesson.origin.title}”${lesson.origin.from ? `, taken over from ${lesson.origin.from}` : ''}.`
            : 'The copy remembers which lesson it came from.'}
        </p>
      </Panel>
      <Panel title="Off the list">
        <p className="mb-3 text-ink-2">
          Teams that are in the lesson keep it, with all they recorded. It can be brought back.
        </p>
        <Button
          icon={Trash2}
          onClick={() =>
            void save()
              .then(() => removal(lesson.slug))
              .then(() => navigate('/lessons'))
          }
        >
          Take the lesson off the list
        </Button>
      </Panel>
    </div>
  );
}
