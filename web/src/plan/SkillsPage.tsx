import { Pencil, Plus } from 'lucide-react';
import { useState } from 'react';
import { countOf } from '@vigilum/core/quantity';
import { skills as shippedSkills, type Skill } from '@vigilum/core/year';
import { Button, IconButton } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { useRemoval } from '../data/removal.ts';
import { useChange } from '../data/queries.ts';
import { CheckBox } from '../ui/CheckBox.tsx';
import { TextField } from '../ui/fields.tsx';
import { Panel } from '../ui/Panel.tsx';
import { RemoveButton } from '../ui/RemoveButton.tsx';
import { slugFor } from '../ui/slugFor.ts';
import { SkillMap } from '../year/SkillMap.tsx';
import { usePlan } from './PlanLayout.tsx';
import { planTouched } from './usePlan.ts';

function SkillForm({ begin, close }: { begin: Skill | null; close: () => void }) {
  const plan = usePlan();
  const [name, setName] = useState(begin?.name ?? '');
  const [shows, setShows] = useState(begin?.shows ?? '');
  const [needs, setNeeds] = useState<readonly string[]>(begin?.needs ?? []);
  const [lessons, setLessons] = useState<readonly string[]>(begin?.lessons ?? []);
  const taken = new Set(plan.skills.map(({ id }) => id));
  const fresh = () => {
    const stem = `own-${slugFor(name, 'skill').slice(0, 30)}`;
    for (let n = 1; ; n++)
      if (!taken.has(n === 1 ? stem : `${stem}-${n}`)) return n === 1 ? stem : `${stem}-${n}`;
  };
  const save = useChange(
    ({ id, ...body }: Skill & { lessons: string[] }) => api('PUT /own-skills/:skill', { skill: id, body }),
    () => planTouched(),
  );
  const toggle = (list: readonly string[], one: string, on: boolean) =>
    on ? [...list, one] : list.filter((other) => other !== one);
  return (
    <form
      className="flex flex-col gap-2.5"
      onSubmit={(event) => {
        event.preventDefault();
        save.mutate(
          {
            id: begin?.id ?? fresh(),
            name: name.trim(),
            shows: shows.trim(),
            needs: [...needs],
            lessons: [...lessons],
          },
          { onSuccess: close },
        );
      }}
    >
      <TextField label="name: what a team can do" most={60} value={name} change={setName} />
      <TextField label="what shows it" most={300} value={shows} change={setShows} />
      <details open={needs.length > 0}>
        <summary className="flex min-h-11 cursor-pointer items-center">
          comes after {needs.length === 0 ? 'nothing' : countOf(needs.length, 'skill')}
        </summary>
        {[...shippedSkills, ...plan.skills.filter(({ id }) => id !== begin?.id)].map((skill) => (
          <CheckBox
            key={skill.id}
            checked={needs.includes(skill.id)}
            change={(on) => setNeeds(toggle(needs, skill.id, on))}
          >
            {skill.name}
          </CheckBox>
        ))}
      </details>
      <details open={lessons.length > 0}>
        <summary className="flex min-h-11 cursor-pointer items-center">
          is shown by a proof in{' '}
          {lessons.length === 0 ? 'no lesson: you say who has it' : countOf(lessons.length, 'lesson')}
        </summary>
        {plan.lessons.map(({ slug, title }) => (
          <CheckBox
            key={slug}
            checked={lessons.includes(slug)}
            change={(on) => setLessons(toggle(lessons, slug, on))}
          >
            {title}
          </CheckBox>
        ))}
      </details>
      <div className="flex gap-2">
        <Button main type="submit" disabled={save.isPending || name.trim() === '' || shows.trim() === ''}>
          Save the skill
        </Button>
        <Button onClick={close}>Cancel</Button>
      </div>
    </form>
  );
}

/** The map of skills from left to right, with the lessons that give each; and those that a teacher adds. */
export default function PlanSkillsPage() {
  const plan = usePlan();
  const [editing, setEditing] = useState<string | null>(null);
  const remove = useRemoval('own-skills', 'The skill is removed.', () => planTouched());
  const close = () => setEditing(null);
  const map = [...shippedSkills, ...plan.skills];
  const giving = (skill: string) => plan.lessons.filter(({ gives }) => gives.includes(skill));
  return (
    <div
      className="grid min-h-0 flex-1 grid-cols-1 gap-3 lg:grid-cols-[minmax(0,1fr)_20rem] lg:grid-rows-[minmax(0,1fr)]"
      data-part="Skills"
    >
      <Panel title="Skills, left to right: what should come before what">
        <SkillMap
          skills={map}
          told={({ id }) => ({
            says: countOf(giving(id).length, 'lesson'),
            share: giving(id).length / Math.max(1, plan.lessons.length),
          })}
        />
      </Panel>
      <Panel
        title="Of our own"
        aside={countOf(plan.skills.length, 'skill')}
        footer={
          editing === null ? (
            <Button icon={Plus} onClick={() => setEditing('new')}>
              Add a skill
            </Button>
          ) : null
        }
      >
        {editing === null && plan.skills.length === 0 ? (
          <p className="text-ink-2">
            Add what your school looks for: a name, what shows it, what comes before it. A proof in the
            lessons that you name shows it; without any you say yourself who has it.
          </p>
        ) : null}
        {editing === 'new' ? <SkillForm begin={null} close={close} /> : null}
        <ul>
          {plan.skills.map((skill) => (
            <li key={skill.id} className="border-t border-line-soft py-1.5 first:border-t-0">
              {editing === skill.id ? (
                <SkillForm begin={skill} close={close} />
              ) : (
                <div className="flex items-start gap-1">
                  <span className="min-w-0 flex-1">
                    <b>{skill.name}</b>
                    <span className="block text-ink-2">{skill.shows}</span>
                  </span>
                  <IconButton
                    icon={Pencil}
                    label={`Change ${skill.name}`}
                    onClick={() => setEditing(skill.id)}
                  />
                  <RemoveButton title={`Remove ${skill.name}`} onClick={() => void remove(skill.id)} />
                </div>
              )}
            </li>
          ))}
        </ul>
      </Panel>
    </div>
  );
}
