import { act, renderHook, waitFor } from '@testing-library/react';
import { touches, type Topic } from '@crew/contract';
import { scriptNetwork, type Network } from '../../test/network.ts';
import { plan, taskSheet } from '../../test/samples.ts';
import { keepTouched } from './touched.ts';
import { refresh, refreshTouched, useCrew, useHandoffs, useCustomFields, usePlan, useTask } from './queries.ts';

test.each<[string, readonly Topic[], readonly Topic[], boolean]>([
  ['one engagement touches itself', ['engagement:a'], ['engagement:a'], true],
  ['and not another', ['engagement:a'], ['engagement:b'], false],
  ['and a list of all of them', ['engagement:a'], ['engagement'], true],
  ['a change of any touches each', ['engagement'], ['engagement:a'], true],
  ['a person is no engagement', ['person:a'], ['engagement:a', 'engagement'], false],
  ['everything touches everything', ['everything'], ['crew'], true],
  ['what shows everything is touched by anything', ['crew'], ['everything'], true],
  ['nothing touches nothing', [], ['everything'], false],
])('%s', (_rule, changed, asked, expected) => {
  expect(touches(changed, asked)).toBe(expected);
});

/** Four things that are shown, and how often each has been read. */
async function show(id: string): Promise<{ readonly network: Network; readonly reads: () => Record<string, number> }> {
  const network = scriptNetwork();
  network.answer(`GET /engagements/${id}/plan`, 200, { ...plan, engagement: { ...plan.engagement, id } });
  network.answer('GET /handoffs', 200, { lines: [] });
  network.answer('GET /crew', 200, { people: [], roles: [] });
  network.answer('GET /custom-fields', 200, []);
  const { result } = renderHook(() => [usePlan(id).data, useHandoffs().data, useCrew().data, useCustomFields().data]);
  await act(() => refresh(['everything']));
  expect(result.current.every((data) => data !== undefined)).toBe(true);
  const count = (path: string): number => network.asked.filter((asked) => asked.path === path).length;
  const first = {
    plan: count(`/engagements/${id}/plan`),
    handoffs: count('/handoffs'),
    crew: count('/crew'),
    fields: count('/custom-fields'),
  };
  return {
    network,
    reads: () => ({
      plan: count(`/engagements/${id}/plan`) - first.plan,
      handoffs: count('/handoffs') - first.handoffs,
      crew: count('/crew') - first.crew,
      fields: count('/custom-fields') - first.fields,
    }),
  };
}

test('only what a change has touched is read again', async () => {
  const { reads } = await show('topics-one');
  await act(() => refresh(['engagement:another']));
  expect(reads()).toEqual({ plan: 0, handoffs: 1, crew: 0, fields: 0 });
  await act(() => refresh(['engagement:topics-one']));
  expect(reads()).toEqual({ plan: 1, handoffs: 2, crew: 0, fields: 0 });
});

test('what an answer says it touched is read once; an answer that says nothing may have touched anything', async () => {
  const { reads } = await show('topics-two');
  keepTouched('engagement:topics-two');
  await act(() => refreshTouched());
  expect(reads()).toEqual({ plan: 1, handoffs: 1, crew: 0, fields: 0 });
  await act(() => refreshTouched());
  expect(reads()).toEqual({ plan: 1, handoffs: 1, crew: 0, fields: 0 });
  keepTouched('');
  await act(() => refreshTouched());
  expect(reads()).toEqual({ plan: 1, handoffs: 1, crew: 0, fields: 0 });
  keepTouched(null);
  await act(() => refreshTouched());
  expect(reads()).toEqual({ plan: 2, handoffs: 2, crew: 1, fields: 1 });
});

test('what is edited by its version is forgotten once it is touched while nobody looks: no old version is shown again', async () => {
  const network = scriptNetwork();
  const answer = (version: number): void => network.answer('GET /tasks/topics-t', 200, { ...taskSheet, id: 'topics-t', version });
  answer(1);
  const first = renderHook(() => useTask('topics-t').data?.version);
  await waitFor(() => expect(first.result.current).toBe(1));
  first.unmount();
  await act(() => refresh([`engagement:${taskSheet.engagement.id}`]));
  answer(2);
  const seen: (number | undefined)[] = [];
  const again = renderHook(() => seen.push(useTask('topics-t').data?.version));
  await waitFor(() => expect(seen.at(-1)).toBe(2));
  expect(seen).not.toContain(1);
  again.unmount();
});
