import { useState } from 'react';
import { useNavigate } from 'react-router';
import { teamPictures } from '@vigilum/core/classroom';
import type { OpenDoor } from '@vigilum/contract/types';
import { Labelled } from '../ui/fields.tsx';
import { Button, LinkButton } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { useEnter } from '../data/me.ts';
import { sentenceOf } from '../ui/sentenceOf.ts';
import { TeamPicture } from '../ui/TeamPicture.tsx';
import { Doorway, Refusal } from './Doorway.tsx';

/** How a team comes in: the code of its class, which team, and its picture. */
export default function DoorPage() {
  const navigate = useNavigate();
  const enter = useEnter();
  const [code, setCode] = useState('');
  const [door, setDoor] = useState<OpenDoor | null>(null);
  const [team, setTeam] = useState<OpenDoor['teams'][number] | null>(null);
  const [busy, setBusy] = useState(false);
  const [says, setSays] = useState<string | null>(null);
  const attempt = (work: () => Promise<void>) => {
    if (busy) return;
    setBusy(true);
    setSays(null);
    void work()
      .catch((error: unknown) => setSays(sentenceOf(error)))
      .finally(() => setBusy(false));
  };
  if (!door)
    return (
      <Doorway
        title="Which class are you?"
        below={<LinkButton to="/sign-in">I am a teacher: sign in</LinkButton>}
      >
        <form
          className="flex flex-col gap-4"
          onSubmit={(event) => {
            event.preventDefault();
            attempt(async () => setDoor(await api('POST /doors', { body: { code } })));
          }}
        >
          <Labelled label="class code: two words, your teacher says them">
            <input
              className="input h-14 w-full font-mono text-2xl"
              autoComplete="off"
              autoCapitalize="none"
              spellCheck={false}
              autoFocus
              maxLength={40}
              placeholder="tabo finu"
              value={code}
              onChange={(event) => setCode(event.target.value)}
            />
          </Labelled>
          <Refusal says={says} />
          <Button main type="submit" disabled={busy || code.trim() === ''}>
            On
          </Button>
        </form>
      </Doorway>
    );
  if (!team)
    return (
      <Doorway title="Which team are you?" school={`${door.school}, ${door.class}`}>
        <ul className="grid grid-cols-2 gap-2">
          {door.teams.map((one) => (
            <li key={one.id}>
              <Button className="min-h-14 w-full text-lg font-bold" onClick={() => setTeam(one)}>
                {one.name}
              </Button>
            </li>
          ))}
        </ul>
        <Button className="mt-4" onClick={() => setDoor(null)}>
          Another code
        </Button>
      </Doorway>
    );
  return (
    <Doorway title={`${team.name}: which picture is yours?`} school={door.class}>
      <ul className="grid grid-cols-4 gap-2" aria-label="Pictures">
        {teamPictures.map((picture) => (
          <li key={picture}>
            <Button
              className="h-auto min-h-20 w-full flex-col gap-1 px-1 py-2 text-sm leading-tight"
              disabled={busy}
              onClick={() =>
                attempt(async () => {
                  enter(await api('POST /doors/teams', { body: { code, team: team.id, picture } }));
                  void navigate(`/teams/${team.id}`, { replace: true });
                })
              }
            >
              <TeamPicture name={picture} size={34} />
              {picture}
            </Button>
          </li>
        ))}
      </ul>
      <div className="mt-4 flex flex-col gap-3">
        <Refusal says={says} />
        <p className="text-ink-2">It stands on your team’s card.</p>
        <Button
          onClick={() => {
            setTeam(null);
            setSays(null);
          }}
        >
          Another team
        </Button>
      </div>
    </Doorway>
  );
}
