/** @jest-environment jsdom */
import { afterEach, describe, expect, it, jest } from '@jest/globals';
import { act, cleanup, render, renderHook, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useHistory } from '../ui/useHistory.ts';
import { SavedMark } from './SavedMark.tsx';
import { Sides } from './Sides.tsx';
import { DocTrouble, Trouble } from './Trouble.tsx';
import { started, type Happening, type Saving } from './machine.ts';

afterEach(cleanup);

describe('the mark of what is saved', () => {
  it.each([
    ['idle', 'saved'],
    ['typing', 'saving …'],
    ['saving', 'saving …'],
    ['offline', 'kept here'],
    ['failed', 'not saved'],
    ['conflict', 'not saved'],
  ] as const)('says of %s: %s', (phase, says) => {
    render(<SavedMark phase={phase} />);
    expect(screen.getByText(says)).toBeTruthy();
    expect(screen.queryAllByText('saved')).toHaveLength(phase === 'idle' ? 1 : 0);
  });
});

describe('trouble with a save', () => {
  const state = (more: Partial<Saving<string>>): Saving<string> => ({
    ...started({ revision: 1, value: 'one' }),
    ...more,
  });

  it('is nothing while all is well', () => {
    const { container } = render(
      <Trouble state={state({ phase: 'offline' })} happen={() => undefined} what="this kit" />,
    );
    expect(container.textContent).toBe('');
  });

  it('is told with its fields', () => {
    const failed = state({
      phase: 'failed',
      says: 'Too long.',
      fields: [{ field: 'a', says: 'a is too long' }],
    });
    render(<Trouble state={failed} happen={() => undefined} what="this kit" />);
    expect(screen.getByRole('alert').textContent).toBe('Too long.a is too long');
  });

  it('names five fields at most', () => {
    const fields = Array.from({ length: 7 }, (_, i) => ({ field: `f${i}`, says: `field ${i}` }));
    render(
      <Trouble
        state={state({ phase: 'failed', says: 'x', fields })}
        happen={() => undefined}
        what="this kit"
      />,
    );
    expect(screen.getAllByRole('listitem').map((one) => one.textContent)).toEqual(
      [0, 1, 2, 3, 4].map((i) => `field ${i}`),
    );
  });

  it('puts the chosen side on a page that holds its own copy', async () => {
    const clash = state({ phase: 'conflict', shown: 'mine', theirs: { revision: 4, value: 'theirs' } });
    for (const [name, chosen] of [
      ['Keep mine', ['mine', 'mine']],
      ['Take theirs', ['theirs', 'theirs']],
    ] as const) {
      const put = jest.fn();
      const happen = jest.fn();
      render(<DocTrouble doc={{ state: clash, happen } as never} chosen={put} what="this kit" />);
      await userEvent.click(screen.getByRole('button', { name }));
      expect([put.mock.calls, happen.mock.calls.length]).toEqual([[chosen], 1]);
      cleanup();
    }
  });

  it('shows both sides of a conflict and asks for one', async () => {
    const happen = jest.fn<(event: Happening<string>) => void>();
    const clash = state({ phase: 'conflict', shown: 'mine', theirs: { revision: 4, value: 'theirs' } });
    render(
      <Trouble
        state={clash}
        happen={happen}
        what="this kit"
        sides={(mine, theirs) => <Sides mine={{ name: mine }} theirs={{ name: theirs }} />}
      />,
    );
    expect(screen.getByRole('row', { name: 'name mine theirs' })).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Keep mine' }));
    await userEvent.click(screen.getByRole('button', { name: 'Take theirs' }));
    expect(happen.mock.calls).toEqual([[{ is: 'keep mine' }], [{ is: 'take theirs' }]]);
  });

  it('lists only where the two differ, a dozen places at most', () => {
    const mine = { same: 1, list: [{ a: 1 }, { a: 2 }], gone: true };
    render(<Sides mine={mine} theirs={{ same: 1, list: [{ a: 1 }, { a: 3 }] }} />);
    expect(screen.getAllByRole('row').map((row) => row.textContent)).toEqual([
      'whereminetheirs',
      'list › 2 › a23',
      'gonetruenothing',
    ]);
    cleanup();
    const kit = (top: number, period: number) => ({
      drive: { topDegPerS: top },
      sensors: [{ name: 'eye', modes: [{ samplePeriodMs: period }] }],
    });
    render(<Sides mine={kit(1, 50)} theirs={kit(2, 20)} words={{ topDegPerS: 'full speed, deg/s' }} />);
    expect(screen.getAllByRole('rowheader').map((head) => head.textContent)).toEqual([
      'drive › full speed, deg/s',
      'sensors › eye › modes › 1 › sample period, ms',
    ]);
    cleanup();
    const many = (n: number) => Object.fromEntries(Array.from({ length: 30 }, (_, i) => [`k${i}`, i + n]));
    render(<Sides mine={many(0)} theirs={many(1)} />);
    expect(screen.getByText('… and 18 more')).toBeTruthy();
  });
});

describe('a value with its past', () => {
  it('goes back and forth, and a change after undo takes the future away', () => {
    const { result } = renderHook(() => useHistory('a'));
    act(() => result.current.change('b'));
    act(() => result.current.change('c'));
    act(() => result.current.amend('c2'));
    act(() => result.current.undo());
    expect([result.current.now, result.current.canRedo]).toEqual(['b', true]);
    act(() => result.current.redo());
    expect(result.current.now).toBe('c2');
    act(() => result.current.undo());
    act(() => result.current.change('d'));
    expect([result.current.now, result.current.canRedo]).toEqual(['d', false]);
    act(() => result.current.undo());
    act(() => result.current.undo());
    act(() => result.current.undo());
    expect([result.current.now, result.current.canUndo]).toEqual(['a', false]);
  });
});
