import { TASK_STATUS, TASK_STATUS_WORDS, type TrackPhase } from '@crew/contract';
import { act, fireEvent, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useCallback } from 'react';
import { Autocomplete, Input, ListBox, ListBoxItem, TextField } from 'react-aria-components';
import { Baton, BATON_WORDS } from './Baton.tsx';
import { Choose, Field } from './Field.tsx';
import { TaskGlyph } from './marks.tsx';
import { dayScale, Track } from './Track.tsx';
import { useKey } from './use-key.ts';
import { forgetSteps, noticeToCome, notify, NoticeRegion, undoLast } from './toasts.tsx';

test.each(TASK_STATUS)('the glyph of %s says so to those who listen', (status) => {
  render(<TaskGlyph status={status} />);
  expect(screen.getByRole('img', { name: TASK_STATUS_WORDS[status] })).toBeTruthy();
});

test('every baton differs in shape, not only in colour', () => {
  const shapes = (Object.keys(BATON_WORDS) as (keyof typeof BATON_WORDS)[]).map((state) => {
    const { container, unmount } = render(<Baton state={state} />);
    const shape = container.innerHTML.replace(/var\(--[a-z-]+\)/g, 'colour').replace(BATON_WORDS[state], '');
    unmount();
    return shape;
  });
  expect(new Set(shapes).size).toBe(shapes.length);
});

test('a scale of whole days puts the end of the last day at 100', () => {
  const scale = dayScale('2026-09-01', '2026-09-10');
  expect([scale('2026-09-01'), scale('2026-09-06'), scale('2026-09-10', 'end')]).toEqual([0, 50, 100]);
});

test('a track draws a bar a phase and a baton a joint, and the overrun behind the promise', () => {
  const phases: TrackPhase[] = [
    {
      id: '1',
      name: 'Concept',
      state: 'running',
      start: '2026-09-01',
      finish: '2026-09-05',
      percent: 50,
      baton: 'getting-ready',
      stateLine: '',
    },
    { id: '2', name: 'Build', state: 'ahead', start: '2026-09-06', finish: '2026-09-10', percent: 0, baton: 'not-due', stateLine: '' },
  ];
  const { container } = render(
    <Track phases={phases} scale={dayScale('2026-09-01', '2026-09-10')} promise="2026-09-08" finish="2026-09-10" />,
  );
  expect(screen.getAllByRole('img')).toHaveLength(1);
  expect(container.querySelector('[title="planned past the promised date"]')).not.toBeNull();
});

test('a wrong field says what is wrong and is marked for screen readers', () => {
  render(<Field label="Hours" value="x" error="Write hours as 1.5." />);
  expect(screen.getByRole('textbox', { name: 'Hours' }).getAttribute('aria-invalid')).toBe('true');
  expect(screen.getByText('Write hours as 1.5.')).toBeTruthy();
});

test('a list of choices cannot be pressed before they are known, and opens as soon as they are', async () => {
  const list = (choices?: { id: string; name: string }[]) => (
    <Choose label="Client" choices={choices} value={null} onChange={() => undefined} />
  );
  const { rerender } = render(list());
  const button = screen.getByRole('button', { name: /Client/ });
  expect(button).toHaveProperty('disabled', true);
  expect(button.textContent).toContain('Loading …');
  rerender(list([{ id: 'loom', name: 'Greyfold Loom Mill' }]));
  await userEvent.click(button);
  expect(screen.getByRole('option', { name: 'Greyfold Loom Mill' })).toBeTruthy();
});

test('an empty list of choices opens anyway, and says that it is empty', async () => {
  render(<Choose label="Client" choices={[]} value={null} onChange={() => undefined} />);
  await userEvent.click(screen.getByRole('button', { name: /Client/ }));
  expect(screen.getByText('There are no options.')).toBeTruthy();
});

test('the last step is taken back as soon as it is saved when that was asked for before', async () => {
  const taken: string[] = [];
  render(<NoticeRegion />);
  act(() => notify('The step before.', { undo: () => Promise.resolve(void taken.push('the step before')) }));
  const came = noticeToCome();
  act(() => undoLast());
  expect(taken).toEqual([]);
  await act(async () => {
    notify('The last step.', { undo: () => Promise.resolve(void taken.push('the last step')) });
    came();
    await Promise.resolve();
  });
  expect(taken).toEqual(['the last step']);
  expect(screen.getByText('The step before.')).toBeTruthy();
  await act(async () => {
    undoLast();
    await Promise.resolve();
  });
  expect(taken).toEqual(['the last step', 'the step before']);
  for (const close of screen.getAllByRole('button', { name: 'Close notice' })) await userEvent.click(close);
});

test('a notice offers the way back and says when it was taken', async () => {
  let taken = 0;
  render(<NoticeRegion />);
  act(() => notify('Saved.', { undo: () => Promise.resolve(void taken++) }));
  await userEvent.click(screen.getByRole('button', { name: 'Undo' }));
  expect(taken).toBe(1);
  expect(await screen.findByText('Undone.')).toBeTruthy();
});

test('a step can be taken back when its notice is gone, and is then named; nobody undoes the steps of another', async () => {
  const taken: string[] = [];
  render(<NoticeRegion />);
  act(() => notify('Posts moved.', { undo: () => Promise.resolve(void taken.push('posts')) }));
  act(() => notify('Signs moved.', { undo: () => Promise.resolve(void taken.push('signs')) }));
  for (const close of screen.getAllByRole('button', { name: 'Close notice' })) await userEvent.click(close);
  await act(async () => undoLast());
  expect(taken).toEqual(['signs']);
  expect(await screen.findByText('Undone: Signs moved.')).toBeTruthy();
  act(() => forgetSteps());
  await act(async () => undoLast());
  expect(taken).toEqual(['signs']);
});

test('a notice goes after a while, but not while the pointer is on it', () => {
  jest.useFakeTimers();
  try {
    render(<NoticeRegion />);
    act(() => notify('Read me slowly.'));
    const region = screen.getByRole('status', { name: 'Messages' });
    fireEvent.pointerEnter(region);
    act(() => jest.advanceTimersByTime(60_000));
    expect(region.textContent).toContain('Read me slowly.');
    fireEvent.pointerLeave(region);
    act(() => jest.advanceTimersByTime(60_000));
    expect(region.textContent).not.toContain('Read me slowly.');
  } finally {
    jest.useRealTimers();
  }
});

test('a shortcut is none while somebody types, also where a list found by typing hands keys on to its rows', async () => {
  let times = 0;
  function Screen() {
    useKey(
      't',
      useCallback(() => void times++, []),
    );
    return (
      <>
        <Autocomplete>
          <TextField aria-label="Find">
            <Input />
          </TextField>
          <ListBox aria-label="Found">
            <ListBoxItem>Printer proof</ListBoxItem>
          </ListBox>
        </Autocomplete>
        <button>Elsewhere</button>
      </>
    );
  }
  render(<Screen />);
  await userEvent.type(screen.getByLabelText<HTMLInputElement>('Find'), '{ArrowDown}Pt');
  expect(screen.getByLabelText<HTMLInputElement>('Find').value).toBe('Pt');
  expect(times).toBe(0);
  screen.getByRole('button', { name: 'Elsewhere' }).focus();
  await userEvent.keyboard('t');
  expect(times).toBe(1);
});
