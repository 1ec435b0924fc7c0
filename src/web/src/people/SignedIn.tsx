import { useQuery } from '@tanstack/react-query';
import { createContext, type ReactNode, useContext } from 'react';
import { api, ask, Problem, type Schema } from '../api/client';
import { SignIn } from './SignIn';
import { Notice } from '../frame/Notice';

const Me = createContext<Schema['PersonCard'] | null>(null);

/** The signed-in person. Only below <SignedIn>. */
export function useMe() {
  const me = useContext(Me);
  if (!me) throw new Error('useMe is only for pages behind the sign-in');
  return me;
}

/** Shows its children to whoever is signed in, and the sign-in page to everybody else. */
export function SignedIn({ children }: { children: ReactNode }) {
  const me = useQuery({
    queryKey: ['me'],
    queryFn: () => ask(api.GET('/api/v1/people/me')),
    staleTime: 60_000,
  });
  if (me.data) return <Me value={me.data}>{children}</Me>;
  if (me.error instanceof Problem && me.error.status === 401) return <SignIn />;
  if (me.error) return <Notice problem={me.error} onAgain={() => void me.refetch()} />;
  return null;
}
