import { act, fireEvent, render, screen } from '@testing-library/react';
import { Link, MemoryRouter } from 'react-router';
import { PRESENCE_EACH_MS } from '@crew/contract';
import { scriptNetwork } from '../../test/network.ts';
import { usePresence } from './use-presence.ts';

const PLAN = '0b0b0b0b-0000-4000-8000-000000000001';
const TASK = '0b0b0b0b-0000-4000-8000-000000000002';
const plan = { kind: 'engagement', id: PLAN };
const task = { kind: 'task', id: TASK };

function Window() {
  usePresence();
  return [`/desk?task=${TASK}`, '/desk?task=new'].map((to) => (
    <Link key={to} to={to}>
      {to}
    </Link>
  ));
}

/** A window that stands at an address, and what it says of itself. */
function openAt(address: string) {
  const network = scriptNetwork();
  network.answer('POST /presence', 204);
  const { unmount } = render(
    <MemoryRouter initialEntries={[address]}>
      <Window />
    </MemoryRouter>,
  );
  /** One is said after the other, so the next ones come a moment later. */
  const said = async (): Promise<unknown[]> => {
    await act(async () => {
      for (let turn = 0; turn < 20; turn++) await Promise.resolve();
    });
    return network.asked.map(({ body }) => (body as { shown: unknown }).shown);
  };
  return { unmount, said };
}

const setHidden = (isHidden: boolean): void => {
  Object.defineProperty(document, 'visibilityState', { value: isHidden ? 'hidden' : 'visible', configurable: true });
  act(() => void document.dispatchEvent(new Event('visibilitychange')));
};

beforeEach(() => jest.useFakeTimers());
afterEach(() => {
  setHidden(false);
  jest.useRealTimers();
});

test('a window says what it shows, again from time to time, and that it is gone', async () => {
  const { said, unmount } = openAt(`/engagements/${PLAN}?task=${TASK}`);
  expect(await said()).toEqual([[plan, task]]);
  act(() => void jest.advanceTimersByTime(PRESENCE_EACH_MS));
  expect(await said()).toEqual([
    [plan, task],
    [plan, task],
  ]);
  unmount();
  expect((await said()).at(-1)).toEqual([]);
});

test('what is opened next takes the place of what was', async () => {
  const { said } = openAt(`/engagements/${PLAN}`);
  fireEvent.click(screen.getByText(`/desk?task=${TASK}`));
  expect((await said()).at(-1)).toEqual([task]);
  fireEvent.click(screen.getByText('/desk?task=new'));
  expect((await said()).at(-1)).toEqual([]);
});

test('a window that nobody looks at is nowhere', async () => {
  const { said } = openAt(`/engagements/${PLAN}`);
  setHidden(true);
  expect((await said()).at(-1)).toEqual([]);
  const before = (await said()).length;
  act(() => void jest.advanceTimersByTime(PRESENCE_EACH_MS * 3));
  expect(await said()).toHaveLength(before);
  setHidden(false);
  expect((await said()).at(-1)).toEqual([plan]);
});

test('where nothing is shared nothing is said', async () => {
  expect(await openAt('/desk').said()).toEqual([]);
});
