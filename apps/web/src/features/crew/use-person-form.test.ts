import { act, renderHook, waitFor } from '@testing-library/react';
import type { AccessLinkMade, CrewMember } from '@crew/contract';
import { idOf } from '../../../test/ids.ts';
import { scriptNetwork, type Network } from '../../../test/network.ts';
import { jonah } from '../../../test/samples.ts';
import { usePersonForm, type PersonTyped } from './use-person-form.ts';

const onSaved = jest.fn<void, [AccessLinkMade | null]>();
const invited: AccessLinkMade = {
  ...{ personId: 'n1', name: 'Nora West', link: 'https://crew.example/welcome/abc', expiresAt: '2026-12-07T09:00:00Z', mailedTo: null },
};
let network: Network;
beforeEach(() => {
  onSaved.mockClear();
  network = scriptNetwork();
});

const open = (member: CrewMember | null) => renderHook(({ shown }) => usePersonForm(shown, onSaved), { initialProps: { shown: member } });
type Hook = ReturnType<typeof open>['result'];
const save = (hook: Hook): void => act(() => hook.current.form.submit());
const saved = (): Promise<void> => waitFor(() => expect(onSaved).toHaveBeenCalledTimes(1));
const faultAt = (hook: Hook, name: keyof PersonTyped): string | undefined => hook.current.form.bind(name).error;

describe('a new colleague', () => {
  test('with nothing typed every field says what it wants, and nothing is sent', async () => {
    const { result } = open(null);
    save(result);
    await waitFor(() => expect(faultAt(result, 'name')).toBe('Give the name.'));
    expect(faultAt(result, 'email')).toBe('Write the mail address, like odalys@quillmarsh.example.');
    expect(network.asked).toEqual([]);
  });

  test('is sent with roles, a role that was typed, and hours as minutes', async () => {
    network.answer('POST /invitations', 201, { links: [invited] });
    const { result } = open(null);
    act(() => result.current.form.set({ name: ' Nora West ', email: 'nora@quillmarsh.example' }));
    act(() => result.current.form.set({ newRole: ' Gilder ' }));
    act(() => result.current.toggleRole('Writer'));
    act(() => result.current.form.set({ week: ['7.5', '7:30', '7,5', '450m', '', '', ''] }));
    save(result);
    await saved();
    expect(onSaved).toHaveBeenCalledWith(invited);
    const nora = { name: 'Nora West', email: 'nora@quillmarsh.example', access: 'member', roles: ['Writer', 'Gilder'] };
    expect(network.asked[0]?.body).toEqual({ people: [{ ...nora, week: [450, 450, 450, 450, 0, 0, 0] }] });
  });

  test.each(['full', '25'])('“%s” are no hours of a day', async (typed) => {
    const { result } = open(null);
    act(() => result.current.form.set({ name: 'Nora', email: 'nora@quillmarsh.example' }));
    act(() => result.current.form.set({ week: [typed, '', '', '', '', '', ''] }));
    save(result);
    await waitFor(() => expect(faultAt(result, 'week')).toBe('Write hours as 7.5 or 7:30, or leave a day empty.'));
    expect(network.asked).toEqual([]);
  });

  test('a refusal stands at its field until that is changed', async () => {
    const message = 'Somebody signs in with this address already.';
    network.answer('POST /invitations', 409, { code: 'already-there', message, field: 'people.0.email' });
    const { result } = open(null);
    act(() => result.current.form.set({ name: 'Nora', email: 'jonah@quillmarsh.example' }));
    save(result);
    await waitFor(() => expect(faultAt(result, 'email')).toBe('Somebody signs in with this address already.'));
    expect(onSaved).not.toHaveBeenCalled();
    act(() => result.current.form.set({ email: 'nora@quillmarsh.example' }));
    await waitFor(() => expect(faultAt(result, 'email')).toBeUndefined());
  });
});

describe('one there is', () => {
  const refuseFor = (theirs: CrewMember): void =>
    network.answer('PATCH /crew/j1', 409, {
      ...{ code: 'changed-meanwhile', message: 'Somebody changed this person.', details: { current: theirs } },
    });

  test('begins as they are, and is saved with the version that was read', async () => {
    network.answer('PATCH /crew/j1', 200, { person: jonah, changeId: 'c1' });
    const { result } = open(jonah);
    expect(result.current.form.values).toMatchObject({
      ...{ name: 'Jonah Ferreira', roles: ['Installer'], week: ['7.5', '7.5', '7.5', '7.5', '', '', ''] },
    });
    act(() => result.current.toggleRole('Installer'));
    act(() => result.current.form.set({ standInId: idOf('petra') }));
    save(result);
    await saved();
    expect(network.asked[0]?.body).toMatchObject({ version: 4, roles: [], standInId: idOf('petra') });
  });

  test('changed by others meanwhile, both can be seen and one is kept', async () => {
    const theirs = { ...jonah, name: 'Jonah Ferreira Lima', version: 5 };
    refuseFor(theirs);
    const { result, rerender } = open(jonah);
    act(() => result.current.form.set({ name: 'J. Ferreira' }));
    rerender({ shown: theirs });
    save(result);
    await waitFor(() => expect(result.current.theirs).toEqual(theirs));
    expect(network.asked[0]?.body).toMatchObject({ version: 4 });
    expect(onSaved).not.toHaveBeenCalled();
    network.answer('PATCH /crew/j1', 200, { person: theirs, changeId: 'c1' });
    act(() => result.current.keepMine());
    await saved();
    expect(network.asked.filter(({ method }) => method === 'PATCH').at(-1)?.body).toMatchObject({ version: 5, name: 'J. Ferreira' });
  });

  test('using theirs, the form is theirs', async () => {
    refuseFor({ ...jonah, access: 'lead', version: 5 });
    const { result } = open(jonah);
    save(result);
    await waitFor(() => expect(result.current.theirs).not.toBeNull());
    act(() => result.current.keepTheirs());
    expect(result.current.form.values).toMatchObject({ access: 'lead', version: 5 });
    expect(result.current.theirs).toBeNull();
  });
});
