import { can, type Me } from '@crew/contract';
import { createContext, use, type ReactNode } from 'react';
import { Navigate, useLocation } from 'react-router';
import { useMe } from '../api/queries.ts';
import { ErrorNote, Loading, Page } from '../ui/layout.tsx';

const MeContext = createContext<Me | null>(null);

/** Who is signed in; only inside pages that need it. */
export function useWho(): Me {
  const me = use(MeContext);
  if (me === null) throw new Error('Sign in first.');
  return me;
}

/** Where each kind of access begins its day. */
export function homeOf(me: Pick<Me, 'access' | 'personId'>): string {
  if (can(me, 'client-page.read')) return '/project';
  return can(me, 'engagement.edit') ? '/engagements' : '/desk';
}

/** Its pages may ask who is signed in. */
export function SignedIn({ me, children }: { readonly me: Me; readonly children: ReactNode }) {
  return <MeContext value={me}>{children}</MeContext>;
}

/** The address without a path: on to the sign-in or to one's own place. */
export function Front() {
  const { data: me, error } = useMe();
  if (error) return <Page>{<ErrorNote error={error} />}</Page>;
  if (me === undefined) return <Page>{<Loading />}</Page>;
  return <Navigate to={me === null ? '/sign-in' : homeOf(me)} replace />;
}

/** Shows its pages to the signed-in crew, and sends everybody else where they belong. */
export function ForCrew({ children }: { readonly children: ReactNode }) {
  const { data: me, error } = useMe();
  const location = useLocation();
  if (error) return <Page>{<ErrorNote error={error} />}</Page>;
  if (me === undefined) return <Page>{<Loading />}</Page>;
  if (me === null) return <Navigate to="/sign-in" replace state={{ from: `${location.pathname}${location.search}` }} />;
  if (can(me, 'client-page.read')) return <Navigate to="/project" replace />;
  return <SignedIn me={me}>{children}</SignedIn>;
}
