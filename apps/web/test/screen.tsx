import { render, screen, waitFor } from '@testing-library/react';
import type { Me } from '@crew/contract';
import { useEffect, type ReactNode } from 'react';
import { RouterProvider } from 'react-aria-components';
import { MemoryRouter, Route, Routes, useHref, useLocation, useNavigate } from 'react-router';
import { mutate, SWRConfig } from 'swr';
import { ForCrew } from '../src/session/session.tsx';
import { NoticeRegion } from '../src/ui/toasts.tsx';
import { forgetOwn } from '../src/api/in-turn.ts';
import { scriptNetwork, type Network } from './network.ts';
import { odalys } from './samples.ts';

/** A screen somebody has open: what it asked the network for, and the address it is at. */
export interface OpenScreen {
  readonly network: Network;
  readonly address: () => string;
  readonly close: () => void;
  /** What was sent to change something, in order. */
  readonly sent: () => readonly { readonly request: string; readonly body: unknown }[];
}

interface Opening {
  /** As in the application's own routes: `/templates/:id`. */
  readonly path: string;
  /** Where somebody goes; the path itself when left out. */
  readonly address?: string;
  readonly me?: Me;
  /** What the network answers, by request. */
  readonly answers: Readonly<Record<string, unknown>>;
}

/** Opens a screen of the crew as somebody, and waits until it is there. */
export const openScreen = (element: ReactNode, { me = odalys, answers, ...opening }: Opening): Promise<OpenScreen> =>
  openPage(<ForCrew>{element}</ForCrew>, { ...opening, answers: { 'GET /session': me, ...answers } });

/** Opens a page anybody may see, with an empty memory of what was read before, and waits until it is there. */
export async function openPage(element: ReactNode, { path, address = path, answers }: Omit<Opening, 'me'>): Promise<OpenScreen> {
  const network = scriptNetwork();
  for (const [request, body] of Object.entries(answers)) network.answer(request, 200, body);
  forgetOwn();
  await mutate(() => true, undefined, { revalidate: false });
  // What the screen before asked for last is remembered until the next turn of the event loop.
  await new Promise((resolve) => setTimeout(resolve));
  let place = address;
  const { unmount: close } = render(
    <SWRConfig value={{ dedupingInterval: 0, revalidateOnFocus: false }}>
      <MemoryRouter initialEntries={[address]}>
        <Frame onArrive={(next) => (place = next)}>
          <Routes>
            <Route path={path} element={element} />
            <Route path="*" element={<p>elsewhere</p>} />
          </Routes>
        </Frame>
      </MemoryRouter>
    </SWRConfig>,
  );
  await waitFor(() => {
    if (screen.queryByRole('status', { name: 'Loading' }) !== null || network.asked.length < 1) throw new Error('still loading');
  });
  return {
    close,
    network,
    address: () => place,
    sent: () =>
      network.asked.filter(({ method }) => method !== 'GET').map(({ method, path: to, body }) => ({ request: `${method} ${to}`, body })),
  };
}

/** As around every page of the application: links go by the router, notices are shown. */
function Frame({ children, onArrive }: { readonly children: ReactNode; readonly onArrive: (address: string) => void }) {
  const navigate = useNavigate();
  const { pathname, search } = useLocation();
  useEffect(() => {
    onArrive(`${pathname}${search}`);
  });
  return (
    <RouterProvider navigate={(to) => void navigate(to)} useHref={useHref}>
      <main id="content">{children}</main>
      <NoticeRegion />
    </RouterProvider>
  );
}
