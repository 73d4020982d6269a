import { act, renderHook } from '@testing-library/react';
import { useDraft } from './use-draft.ts';

interface Shown {
  readonly value: string;
  readonly at: number;
  readonly isMet?: boolean;
}

const draftOf = (saved: string, version: number) =>
  renderHook(({ value, at, isMet }: Shown) => useDraft(value, at, isMet), {
    initialProps: { value: saved, at: version } as Shown,
  });

test('it follows the saved value until somebody types', () => {
  const { result, rerender } = draftOf('Signs set', 3);
  rerender({ value: 'Posts set', at: 4 });
  expect(result.current).toMatchObject({ value: 'Posts set', base: 'Posts set', version: 4 });
});

test('from the first letter on it is theirs, with the version it began from', () => {
  const { result, rerender } = draftOf('Signs set', 3);
  act(() => result.current.change('Signs se'));
  rerender({ value: 'Posts set', at: 4 });
  act(() => result.current.change('Signs s'));
  expect(result.current).toMatchObject({ value: 'Signs s', base: 'Signs set', version: 3 });
});

test('dropped, it follows again', () => {
  const { result, rerender } = draftOf('Signs set', 3);
  act(() => result.current.change('Other'));
  rerender({ value: 'Posts set', at: 4 });
  act(() => result.current.drop());
  expect(result.current).toMatchObject({ value: 'Posts set', version: 4 });
});

test('met by another’s change it stays until one of the two was chosen', () => {
  const { result, rerender } = draftOf('Signs set', 3);
  act(() => result.current.change('Signs put up'));
  rerender({ value: 'Posts set', at: 4, isMet: true });
  expect(result.current.value).toBe('Signs put up');
  rerender({ value: 'Posts set', at: 4, isMet: false });
  expect(result.current).toMatchObject({ value: 'Posts set', version: 4 });
});
