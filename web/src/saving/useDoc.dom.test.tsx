/** @jest-environment jsdom */
import { afterEach, beforeEach, describe, expect, it, jest } from '@jest/globals';
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react';
import type { Doc } from './doc.ts';
import { noteKind } from './kinds.ts';
import { useDoc, useWaits } from './useDoc.ts';

interface Sent {
  text: string;
  revision: number;
  key: string | null;
}
let sent: Sent[];
let up: boolean;
let server: { revision: number; text: string };
let step = 0;

/** The server’s note, as its route keeps it. */
const answer = (status: number, body: object) =>
  Promise.resolve({ status, ok: status < 400, json: () => Promise.resolve(body) });

beforeEach(() => {
  jest.useFakeTimers();
  sent = [];
  up = true;
  server = { revision: 0, text: '' };
  step++;
  Object.assign(globalThis, {
    structuredClone: (value: unknown) => JSON.parse(JSON.stringify(value)) as unknown,
    fetch: (_: string, init: { body: string; headers: Record<string, string> }) => {
      if (!up) return Promise.reject(new TypeError('Failed to fetch'));
      const { text, revision } = JSON.parse(init.body) as Sent;
      sent.push({ text, revision, key: init.headers['idempotency-key'] ?? null });
      if (revision !== server.revision)
        return answer(409, { theirs: { revision: server.revision, value: server.text } });
      server = { revision: revision + 1, text };
      return answer(200, { revision: server.revision });
    },
  });
});
afterEach(async () => {
  cleanup();
  await pass(20_000);
  jest.useRealTimers();
});

const pass = (ms: number) => act(() => jest.advanceTimersByTimeAsync(ms));

function Note({ base, of = step }: { base?: { revision: number; value: string }; of?: number }) {
  const doc: Doc<{ team: number; lesson: string; step: string }, string> = useDoc(
    noteKind,
    { team: 1, lesson: 'tide-line', step: `step-${of}` },
    base ?? { revision: 0, value: '' },
  );
  const { things } = useWaits();
  return (
    <>
      <textarea
        value={doc.state.shown}
        onChange={({ target }) => doc.happen({ is: 'typed', value: target.value })}
      />
      <output>{doc.state.phase}</output>
      <p>{things.join(', ')}</p>
      <button type="button" onClick={() => doc.happen({ is: 'keep mine' })}>
        mine
      </button>
    </>
  );
}
const type = (value: string) => fireEvent.change(screen.getByRole('textbox'), { target: { value } });
const phase = () => screen.getByRole('status').textContent;
const shown = () => screen.getByRole<HTMLTextAreaElement>('textbox').value;

describe('a thing that is edited on a page', () => {
  it('is saved a second after the last letter, once, with a key', async () => {
    render(<Note />);
    for (const text of ['l', 'la', 'late']) {
      type(text);
      await pass(400);
    }
    expect([sent, phase()]).toEqual([[], 'typing']);
    await pass(1100);
    expect(sent).toMatchObject([{ text: 'late', revision: 0 }]);
    expect([sent[0]!.key!.length, phase()]).toEqual([24, 'idle']);
  });

  it('is saved when the page is left at once', async () => {
    const { unmount } = render(<Note />);
    type('left at once');
    unmount();
    await pass(0);
    expect(server.text).toBe('left at once');
  });

  it('is kept without a server, told, and sent with the same key when it is back', async () => {
    render(<Note />);
    up = false;
    type('offline');
    await pass(1500);
    expect(phase()).toBe('offline');
    expect(screen.getByText(`what you wrote in “step-${step}”`)).toBeTruthy();
    type('offline, and more');
    await pass(3000);
    up = true;
    await pass(15_000);
    expect(sent.map(({ text }) => text)).toEqual(['offline', 'offline, and more']);
    expect([phase(), server.text]).toEqual(['idle', 'offline, and more']);
  });

  it('goes on where it was left, though the page was closed and opened without a server', async () => {
    const first = render(<Note />);
    up = false;
    type('half a sentence');
    await pass(1500);
    first.unmount();
    await pass(5000);
    render(<Note />);
    expect([shown(), phase()]).toEqual(['half a sentence', 'offline']);
    up = true;
    await pass(15_000);
    expect(server.text).toBe('half a sentence');
  });

  it('follows what another tablet saves, and asks where both wrote the same line', async () => {
    const { rerender } = render(<Note />);
    server = { revision: 1, text: 'theirs' };
    rerender(<Note base={{ revision: 1, value: 'theirs' }} />);
    await pass(0);
    expect(shown()).toBe('theirs');
    server = { revision: 2, text: 'theirs, again' };
    type('mine');
    await pass(1500);
    expect([phase(), shown()]).toEqual(['conflict', 'mine']);
    fireEvent.click(screen.getByRole('button', { name: 'mine' }));
    await pass(100);
    expect([phase(), server]).toEqual(['idle', { revision: 3, text: 'mine' }]);
  });
});
