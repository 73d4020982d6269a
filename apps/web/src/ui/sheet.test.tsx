import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Sheet } from './Sheet.tsx';

function open() {
  const closed: string[] = [];
  render(
    <main id="content">
      <header>
        <button>Hand off</button>
      </header>
      <div>
        <ul aria-label="Tasks" />
        <Sheet label="Task" line="Seed vault · 27" onClose={() => closed.push('closed')}>
          <p>Signs set</p>
        </Sheet>
      </div>
    </main>,
  );
  const list = screen.getByRole('list', { name: 'Tasks' });
  const head = screen.getByRole('button', { name: 'Hand off' }).parentElement as HTMLElement;
  return { closed, list, head };
}

test('beside the list, the list stays usable', () => {
  const { list, head } = open();
  expect([list.inert, head.inert]).not.toContain(true);
});

test('widened it is a page: what lies behind cannot be reached, until it is narrow again', async () => {
  const { list, head } = open();
  await userEvent.click(screen.getByRole('button', { name: 'Open full page' }));
  expect([list.inert, head.inert]).toEqual([true, true]);
  await userEvent.click(screen.getByRole('button', { name: 'Show beside list' }));
  expect([list.inert, head.inert]).toEqual([false, false]);
});

test.each([
  ['Escape', () => userEvent.keyboard('{Escape}')],
  ['its button', () => userEvent.click(screen.getByRole('button', { name: 'Close sheet' }))],
])('%s closes it', async (_by, close) => {
  const { closed } = open();
  await close();
  expect(closed).toEqual(['closed']);
});
