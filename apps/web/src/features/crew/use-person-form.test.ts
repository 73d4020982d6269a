import { act, renderHook } from '@testing-library/react';
import { scriptNetwork } from '../../../test/network.ts';
import { jonah } from '../../../test/samples.ts';
import { usePersonForm, weekOf } from './use-person-form.ts';

test.each<[string, string[], number[] | null]>([
  ['decimals and clock times are minutes', ['7.5', '7:30', '7,5', '90m', '', '', ''], [450, 450, 450, 90, 0, 0, 0]],
  ['an empty day is no work', ['', '', '', '', '', '', ''], [0, 0, 0, 0, 0, 0, 0]],
  ['words are no hours', ['full', '', '', '', '', '', ''], null],
  ['a day has 24 hours', ['25', '', '', '', '', '', ''], null],
])('%s', (_rule, typed, expected) => {
  expect(weekOf(typed)).toEqual(expected);
});

describe('a new colleague', () => {
  test('with nothing typed every field says what it wants, and nothing is sent', async () => {
    const network = scriptNetwork();
    const { result } = renderHook(() => usePersonForm(null));
    await act(async () => expect(await result.current.save()).toBe(false));
    expect(Object.keys(result.current.faults)).toEqual(['name', 'email', 'password']);
    expect(network.asked).toEqual([]);
  });

  test('is sent with roles, a role that was typed, and hours as minutes', async () => {
    const network = scriptNetwork();
    network.answer('POST /crew', 201, jonah);
    const { result } = renderHook(() => usePersonForm(null));
    act(() =>
      result.current.change({
        name: ' Nora West ',
        email: 'nora@quillmarsh.example',
        password: 'a wall of ivy leaves',
        newRole: ' Gilder ',
      }),
    );
    act(() => result.current.toggleRole('Writer'));
    act(() => result.current.setDay(4, ''));
    await act(async () => expect(await result.current.save()).toBe(true));
    expect(network.asked[0]?.body).toEqual({
      ...{ name: 'Nora West', email: 'nora@quillmarsh.example', password: 'a wall of ivy leaves', access: 'member' },
      ...{ roles: ['Writer', 'Gilder'], week: [450, 450, 450, 450, 0, 0, 0] },
    });
  });

  test('a refusal stands at its field until something is changed', async () => {
    const network = scriptNetwork();
    network.answer('POST /crew', 409, { code: 'already-there', message: 'Somebody signs in with this address already.', field: 'email' });
    const { result } = renderHook(() => usePersonForm(null));
    act(() => result.current.change({ name: 'Nora', email: 'jonah@quillmarsh.example', password: 'a wall of ivy leaves' }));
    await act(async () => expect(await result.current.save()).toBe(false));
    expect(result.current.faults).toEqual({ email: 'Somebody signs in with this address already.' });
    act(() => result.current.change({ email: 'nora@quillmarsh.example' }));
    expect(result.current.faults).toEqual({});
  });
});

describe('one there is', () => {
  test('begins as they are, and is saved with the version that was read', async () => {
    const network = scriptNetwork();
    network.answer('PATCH /crew/j1', 200, jonah);
    const { result } = renderHook(() => usePersonForm(jonah));
    expect(result.current.form).toMatchObject({
      name: 'Jonah Ferreira',
      roles: ['Installer'],
      week: ['7.5', '7.5', '7.5', '7.5', '', '', ''],
    });
    act(() => result.current.toggleRole('Installer'));
    await act(async () => expect(await result.current.save({ isActive: false })).toBe(true));
    expect(network.asked[0]?.body).toMatchObject({ version: 4, roles: [], isActive: false });
  });

  test('changed by others meanwhile, both can be seen and one is chosen', async () => {
    const network = scriptNetwork();
    const theirs = { ...jonah, name: 'Jonah Ferreira Lima', version: 5 };
    network.answer('PATCH /crew/j1', 409, {
      code: 'changed-meanwhile',
      message: 'Somebody changed this person.',
      details: { current: theirs },
    });
    const { result, rerender } = renderHook(({ member }) => usePersonForm(member), { initialProps: { member: jonah } });
    act(() => result.current.change({ name: 'J. Ferreira' }));
    rerender({ member: theirs });
    await act(async () => expect(await result.current.save()).toBe(false));
    expect(network.asked[0]?.body).toMatchObject({ version: 4 });
    expect(result.current.theirs).toEqual(theirs);
    network.answer('PATCH /crew/j1', 200, theirs);
    await act(async () => expect(await result.current.keepMine()).toBe(true));
    expect(network.asked.filter(({ method }) => method === 'PATCH').at(-1)?.body).toMatchObject({ version: 5, name: 'J. Ferreira' });
  });

  test('taking theirs, the form is theirs', async () => {
    const network = scriptNetwork();
    const theirs = { ...jonah, access: 'lead' as const, version: 5 };
    network.answer('PATCH /crew/j1', 409, {
      code: 'changed-meanwhile',
      message: 'Somebody changed this person.',
      details: { current: theirs },
    });
    const { result } = renderHook(() => usePersonForm(jonah));
    await act(async () => expect(await result.current.save()).toBe(false));
    act(() => result.current.takeTheirs());
    expect(result.current.form.access).toBe('lead');
    expect(result.current.theirs).toBeNull();
  });
});
