import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { HandoffBoard, HandoffLine, HandoffSheet } from '@crew/contract';
import { idOf } from '../../../test/ids.ts';
import { openScreen } from '../../../test/screen.tsx';
import { handoffLine, handoffSheet, odalys, teo } from '../../../test/samples.ts';
import { HandoffsPage } from './HandoffsPage.tsx';

/** Received by somebody with an id that the contract takes. */
const received = { receiver: { id: idOf('m1'), name: 'Teo Marsh', initials: 'TM' } };
const clear = { ...received, gate: handoffSheet.gate.map((check) => ({ ...check, isClear: true })) };

const board = (lines: readonly HandoffLine[], pickUpMinutes: HandoffBoard['pickUpMinutes'] = { thisMonth: 400, lastMonth: 690 }) => ({
  'GET /handoffs': { lines, pickUpMinutes },
});
const flying: HandoffLine = {
  ...handoffLine,
  id: 'h2',
  state: 'handed-off',
  baton: 'handed-off',
  since: '2026-11-20T16:20:00Z',
  missing: [],
};
const returned: HandoffLine = { ...flying, id: 'h3', state: 'sent-back', baton: 'sent-back', question: 'Which wall is it?' };

/** Opens the page with one handoff beside the list. */
const openSheet = (sheet: HandoffSheet, me = odalys) =>
  openScreen(<HandoffsPage />, {
    path: '/handoffs',
    address: `/handoffs?handoff=${sheet.id}`,
    me,
    answers: { ...board([]), [`GET /handoffs/${sheet.id}`]: sheet },
  });
const press = async (name: string | RegExp): Promise<void> => userEvent.click(await screen.findByRole('button', { name }));
const button = (name: string | RegExp) => screen.findByRole<HTMLButtonElement>('button', { name });

test('who does not hold the next role, or is away, says so where the receiver is chosen', async () => {
  await openSheet({ ...handoffSheet, toRole: 'Designer' });
  await press(/Who receives it \(Designer\)/);
  const options = (await screen.findAllByRole('option')).map((option) => option.textContent);
  expect(options).toEqual(['Teo Marsh', 'Nadia Brooknot Designer, away until Fri 4 Dec']);
});

describe('the board', () => {
  const rowsOf = (title: string): HTMLElement[] => {
    const section = screen.getByRole('heading', { name: new RegExp(title) }).parentElement as HTMLElement;
    return within(section).getAllByRole('listitem');
  };

  test('groups what is in the air, what came back and what gets ready', async () => {
    await openScreen(<HandoffsPage />, { path: '/handoffs', answers: board([handoffLine, flying, returned]) });
    expect(rowsOf('Handed off, waiting')).toHaveLength(1);
    expect(rowsOf('Sent back')[0]?.textContent).toContain('“Which wall is it?”');
    expect(rowsOf('Getting ready')[0]?.textContent).toContain('Lead agrees');
    expect(screen.getByText('usually picked up in 6.7 working hours this month, 11.5 last month')).toBeTruthy();
  });

  test.each([
    ['Teo, who receives it', teo, 'Pick up', 'Open'],
    ['Odalys, who gave it', odalys, 'Open', 'Answer'],
  ])('says to %s whose turn it is', async (_who, me, inTheAir, cameBack) => {
    await openScreen(<HandoffsPage />, { path: '/handoffs', me, answers: board([flying, returned]) });
    expect(within(rowsOf('Handed off')[0] as HTMLElement).getByRole('button').textContent).toBe(inTheAir);
    expect(within(rowsOf('Sent back')[0] as HTMLElement).getByRole('button').textContent).toBe(cameBack);
  });

  test('with nothing in the air says what will stand here', async () => {
    await openScreen(<HandoffsPage />, { path: '/handoffs', answers: board([], { thisMonth: null, lastMonth: null }) });
    expect(screen.getByText('No handoffs in progress.')).toBeTruthy();
    expect(screen.getByText('nothing picked up yet this month')).toBeTruthy();
  });

  test('opens one beside the list and keeps it in the address', async () => {
    const page = await openScreen(<HandoffsPage />, {
      path: '/handoffs',
      me: teo,
      answers: { ...board([flying]), 'GET /handoffs/h2': { ...handoffSheet, ...flying } },
    });
    await press('Pick up');
    expect(page.address()).toBe('/handoffs?handoff=h2');
    expect(await screen.findByText('What goes along')).toBeTruthy();
  });
});

describe('what is read before passing it on', () => {
  test('what is done by whom, what is still open, who was involved', async () => {
    await openSheet({ ...handoffSheet, id: 'read' });
    const part = (await screen.findByText('What goes along')).closest('section') as HTMLElement;
    expect(
      within(part)
        .getAllByRole('listitem')
        .map((line) => line.textContent),
    ).toEqual([
      ...['StorylinePriya · 20 Nov✕', 'Mood sketchesstill open'],
      ...['Decided: No music under stop 7Priya Vance · 19 Nov✕', 'Open question: Who voices the conductor?with Harbour Museum✕'],
      ...['map.pdfStoryline · 2 kB✕', 'Who was involvedPriya 6.5 h'],
    ]);
  });

  test('what is left out of the packet is not handed off with it, and can be restored', async () => {
    const page = await openSheet({ ...handoffSheet, ...received, id: 'trim' });
    await press('Leave map.pdf out of the packet');
    expect(screen.queryByText('map.pdf')).toBeNull();
    await press('Restore');
    expect(screen.getByText('map.pdf')).toBeTruthy();
    await press('Leave map.pdf out of the packet');
    await userEvent.type(screen.getByLabelText(/Why can it pass/), 'In a hurry');
    page.network.answer('POST /handoffs/trim/hand-off', 200, handoffSheet);
    await press(/^Hand off/);
    expect(page.sent()[0]?.body).toMatchObject({ without: [idOf('f1')] });
  });

  test('once it is handed off the packet says that it is the one of then', async () => {
    await openSheet({ ...handoffSheet, ...flying, id: 'kept', packetAt: '2026-11-20T16:20:00Z' });
    expect(await screen.findByText('As it was at the handoff.')).toBeTruthy();
    expect(screen.getByText('was open')).toBeTruthy();
  });

  test('what picking it up today would do, and that somebody is missing', async () => {
    await openSheet({ ...handoffSheet, id: 'ahead' });
    const part = (await screen.findByText('If it is picked up today')).parentElement as HTMLElement;
    expect(part.textContent).toContain('Design starts today and ends Fri 18 Dec, 9 tasks are scheduled');
    expect(part.textContent).toContain('8 tasks · 50 h');
    expect(part.textContent).toContain('1 task is unassigned');
  });

  test('its turns so far, by the agency’s clock', async () => {
    const turn = {
      kind: 'handed-off',
      at: '2026-07-20T16:20:00Z',
      who: { id: 'o1', name: 'Odalys Renn', initials: 'OR' },
      words: 'The west wall.',
      changeId: null,
    } as const;
    await openSheet({ ...handoffSheet, id: 'turns', turns: [turn] });
    expect(await screen.findByText('handed off: “The west wall.”')).toBeTruthy();
    expect(screen.getByText('Mon 20 Jul, 17:20')).toBeTruthy();
  });
});

const undoableTurn = { kind: 'handed-off', at: '2026-07-20T16:20:00Z', who: null, words: '', changeId: 'change-7' } as const;

test('the last turn is undone from its line in the sheet', async () => {
  const before = { ...undoableTurn, changeId: null, at: '2026-07-19T16:20:00Z' };
  const page = await openSheet({ ...handoffSheet, id: 'undo', turns: [before, undoableTurn] });
  page.network.answer('POST /changes/change-7/undo', 200, { changeId: 'change-8', kept: [] });
  await press('Undo');
  expect(page.sent().map(({ request }) => request)).toEqual(['POST /changes/change-7/undo']);
  expect(await screen.findByText('Undone.')).toBeTruthy();
});

describe('the gate', () => {
  test('a word is given by a press and goes to the server', async () => {
    const page = await openSheet({ ...handoffSheet, id: 'word' });
    page.network.answer('PATCH /gate-checks/c2', 204);
    await press(/Lead agrees/);
    expect(page.sent()).toEqual([{ request: 'PATCH /gate-checks/c2', body: { isClear: true } }]);
    expect(await screen.findByText('“Lead agrees” is clear.')).toBeTruthy();
  });

  test('what is computed cannot be pressed', async () => {
    await openSheet({ ...handoffSheet, id: 'computed' });
    expect((await button(/All tasks done/)).disabled).toBe(true);
  });

  test('that is open stops a member, who is told what to do', async () => {
    await openSheet({ ...handoffSheet, id: 'member' }, teo);
    expect((await button('Hand off Concept')).disabled).toBe(true);
    expect(screen.getByText('1 check is open. Clear the gate, or ask a lead to let it pass.')).toBeTruthy();
  });

  test('that is open lets a lead pass with a reason, which is sent', async () => {
    const page = await openSheet({ ...handoffSheet, ...received, id: 'lead' });
    const give = await button('Hand off Concept');
    await userEvent.click(give);
    expect(await screen.findByText('Give a reason.')).toBeTruthy();
    expect(page.sent()).toEqual([]);
    await userEvent.type(screen.getByLabelText('1 check is open. Why can it pass anyway?'), 'Agreed by telephone.');
    await userEvent.type(screen.getByLabelText('Note for the receiver'), 'Mind the west wall.');
    page.network.answer('POST /handoffs/lead/hand-off', 200, handoffSheet);
    await userEvent.click(give);
    await screen.findByText('Concept handed off.');
    expect(page.sent()).toEqual([
      {
        request: 'POST /handoffs/lead/hand-off',
        body: { version: 4, words: 'Mind the west wall.', receiverId: idOf('m1'), reason: 'Agreed by telephone.' },
      },
    ]);
  });
});

describe('handing off', () => {
  test('asks for a receiver when the role has nobody', async () => {
    const page = await openSheet({ ...handoffSheet, ...clear, id: 'nobody', receiver: null });
    await press('Hand off Concept');
    expect(await screen.findByText('Choose who receives it.')).toBeTruthy();
    await press(/Who receives it \(Exhibit designer\)/);
    await userEvent.click(await screen.findByRole('option', { name: /^Nadia Brook/ }));
    page.network.answer('POST /handoffs/nobody/hand-off', 200, handoffSheet);
    await press('Hand off Concept');
    await waitFor(() => expect(page.sent()[0]?.body).toEqual({ version: 4, words: '', receiverId: idOf('n1') }));
  });

  test('again needs an answer to the question', async () => {
    const page = await openSheet({
      ...handoffSheet,
      ...clear,
      id: 'again',
      state: 'sent-back',
      baton: 'sent-back',
      question: 'Which wall is it?',
    });
    expect(await screen.findByText('Answer and hand off again')).toBeTruthy();
    await press('Hand off Concept');
    expect(await screen.findByText('Write your answer.')).toBeTruthy();
    expect(page.sent()).toEqual([]);
    await userEvent.type(screen.getByLabelText('Your answer'), 'The west one.');
    page.network.answer('POST /handoffs/again/hand-off', 200, handoffSheet);
    await press('Hand off Concept');
    await waitFor(() => expect(page.sent()[0]?.body).toMatchObject({ words: 'The west one.' }));
  });

  test('that met somebody else’s change keeps the words that were typed', async () => {
    const page = await openSheet({ ...handoffSheet, ...clear, id: 'kept' });
    await userEvent.type(await screen.findByLabelText('Note for the receiver'), 'Mind the west wall.');
    page.network.answer('POST /handoffs/kept/hand-off', 409, { code: 'changed-meanwhile', message: 'Somebody moved this handoff.' });
    page.network.answer('GET /handoffs/kept', 200, { ...handoffSheet, ...clear, id: 'kept', version: 5 });
    await press('Hand off Concept');
    expect(await screen.findByText('Somebody moved this handoff.')).toBeTruthy();
    expect((await screen.findByLabelText<HTMLTextAreaElement>('Note for the receiver')).value).toBe('Mind the west wall.');
    page.network.answer('POST /handoffs/kept/hand-off', 200, handoffSheet);
    await press('Hand off Concept');
    await waitFor(() => expect(page.sent().at(-1)?.body).toMatchObject({ version: 5, words: 'Mind the west wall.' }));
  });
});

describe('receiving', () => {
  const inTheAir = {
    ...handoffSheet,
    state: 'handed-off',
    baton: 'handed-off',
    since: '2026-11-20T16:20:00Z',
    canPickUp: true,
    canHandOff: false,
  } as const;

  test('picks it up with the version that was read', async () => {
    const page = await openSheet({ ...inTheAir, id: 'pick' }, teo);
    page.network.answer('POST /handoffs/pick/pick-up', 200, handoffSheet);
    await press('Pick up');
    expect(page.sent()).toEqual([{ request: 'POST /handoffs/pick/pick-up', body: { version: 4 } }]);
    expect(await screen.findByText('Design is picked up and starts today.')).toBeTruthy();
  });

  test('is undone from the notice that says it was taken', async () => {
    const page = await openSheet({ ...inTheAir, id: 'undone' }, teo);
    page.network.answer('POST /handoffs/undone/pick-up', 200, { ...handoffSheet, turns: [undoableTurn] });
    page.network.answer('POST /changes/change-7/undo', 200, { changeId: 'change-8', kept: [] });
    await press('Pick up');
    await screen.findByText('Design is picked up and starts today.');
    await press('Undo');
    await waitFor(() =>
      expect(page.sent().map(({ request }) => request)).toEqual(['POST /handoffs/undone/pick-up', 'POST /changes/change-7/undo']),
    );
  });

  test('the last one closes the engagement', async () => {
    const page = await openSheet({ ...inTheAir, id: 'last', to: null, onPickUp: null }, teo);
    page.network.answer('POST /handoffs/last/pick-up', 200, handoffSheet);
    await press('Pick up');
    expect(await screen.findByText('Closed: the engagement is finished.')).toBeTruthy();
  });

  test('sends it back with a question, not without one', async () => {
    const page = await openSheet({ ...inTheAir, id: 'back' }, teo);
    await press('Send back…');
    await press('Send back');
    expect(await screen.findByText('Give the question.')).toBeTruthy();
    expect(page.sent()).toEqual([]);
    await userEvent.type(screen.getByLabelText('Your question'), 'Which wall is it?');
    page.network.answer('POST /handoffs/back/send-back', 200, handoffSheet);
    await press('Send back');
    await waitFor(() => expect(page.sent()[0]?.body).toEqual({ version: 4, question: 'Which wall is it?' }));
  });

  test('gives it on to somebody else than who uses it', async () => {
    const page = await openSheet({ ...inTheAir, id: 'on' }, teo);
    await press('Pass on…');
    await press(/Who picks it up instead/);
    expect((await screen.findAllByRole('option')).map((option) => option.textContent)).toEqual([
      'Nadia Brooknot Exhibit designer, away until Fri 4 Dec',
    ]);
    await userEvent.click(screen.getByRole('option', { name: /^Nadia Brook/ }));
    page.network.answer('POST /handoffs/on/give-on', 200, handoffSheet);
    await press('Pass on');
    await waitFor(() => expect(page.sent()[0]?.body).toEqual({ version: 4, receiverId: idOf('n1') }));
  });

  test('“Cancel” goes back without sending anything', async () => {
    const page = await openSheet({ ...inTheAir, id: 'notyet' }, teo);
    await press('Pass on…');
    await press('Cancel');
    expect(await button('Pick up')).toBeTruthy();
    expect(page.sent()).toEqual([]);
  });
});

test('a handoff that cannot be read says so in the server’s words', async () => {
  const page = await openScreen(<HandoffsPage />, { path: '/handoffs', address: '/handoffs?handoff=gone', answers: board([]) });
  expect(await screen.findByText('Nothing answers /handoffs/gone here.')).toBeTruthy();
  await userEvent.click(screen.getByRole('button', { name: 'Close sheet' }));
  expect(page.address()).toBe('/handoffs');
});

test('an owner says after how long somebody is reminded, and can undo it; others are not asked', async () => {
  const owner = { ...odalys, access: 'owner' as const };
  const settings = {
    ...{ historyMonths: 24, remindHours: 8, remindLeadHours: 16, remindTaskHours: 8, remindTaskLeadHours: 24 },
    ...{ remindClientHours: 0, remindClientLeadHours: 16, remindLoggingHours: 8 },
  };
  const page = await openScreen(<HandoffsPage />, { path: '/handoffs', me: owner, answers: { ...board([]), 'GET /settings': settings } });
  page.network.answer('PATCH /settings', 200, { ...settings, remindHours: 4 });
  await userEvent.click(await screen.findByRole('button', { name: /Handoffs that wait: first reminder/ }));
  await userEvent.click(await screen.findByRole('option', { name: 'after 4 working hours' }));
  expect(await screen.findByText('Handoffs that wait: first reminder after 4 working hours.')).toBeTruthy();
  await userEvent.click(screen.getAllByRole('button', { name: 'Undo' }).at(-1) as HTMLElement);
  expect(page.sent().map(({ body }) => body)).toEqual([{ remindHours: 4 }, { remindHours: 8 }]);
  page.close();
  await openScreen(<HandoffsPage />, { path: '/handoffs', answers: board([]) });
  expect(screen.queryByText('Then tell the lead')).toBeNull();
});

test('while the receiver is away their stand-in is named, and picks it up', async () => {
  const standIn = { id: odalys.personId as string, name: odalys.name, initials: odalys.initials };
  const away = { ...handoffLine, state: 'handed-off' as const, standIn, canPickUp: true };
  const sheet = { ...handoffSheet, ...away };
  await openScreen(<HandoffsPage />, {
    path: '/handoffs',
    address: '/handoffs?handoff=h1',
    answers: { ...board([away]), 'GET /handoffs/h1': sheet },
  });
  expect(await screen.findByText('Teo is away. Odalys stands in and can pick it up.')).toBeTruthy();
  // In the list it is theirs, and the sheet has the button.
  expect(screen.getAllByRole('button', { name: 'Pick up' })).toHaveLength(2);
});
