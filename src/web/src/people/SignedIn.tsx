import { useQuery, useQueryClient } from '@tanstack/react-query';
import { createContext, type ReactNode, useContext, useEffect, useState } from 'react';
import { api, ask, onSignedOut, Problem, type Schema, unattended } from '../api/client';
import { instrument } from '../bench/instrument';
import { forgetRound } from '../frame/roundInHand';
import { Notice } from '../frame/Notice';
import { Waiting } from '../frame/Waiting';
import { SignIn } from './SignIn';

const Me = createContext<Schema['PersonCard'] | null>(null);

/** The signed-in person. Only below <SignedIn>. */
export function useMe() {
  const me = useContext(Me);
  if (!me) throw new Error('useMe is only for pages behind the sign-in');
  return me;
}

/** Ends everything that belongs to a person: the instrument, what was fetched for them, the round in their hand. */
export function useSignOut() {
  const queries = useQueryClient();
  return async () => {
    await instrument.leave();
    try {
      await ask(api.POST('/api/v1/people/sign-out'));
    } finally {
      forgetRound();
      queries.clear();
      window.location.assign('/');
    }
  };
}

/**
 * Shows its children to whoever is signed in, and the sign-in page to everybody else. The one place that handles the end of a session: a
 * 401
 * from whichever request shows the sign-in page, and the same address is there again afterwards.
 */
export function SignedIn({ children }: { children: ReactNode }) {
  const queries = useQueryClient();
  const [hasEnded, setHasEnded] = useState(false);
  const me = useQuery({
    queryKey: ['me'],
    queryFn: () => ask(api.GET('/api/v1/people/me', unattended)),
    staleTime: 60_000,
    refetchInterval: 60_000,
  });
  useEffect(
    () =>
      onSignedOut(() => {
        void instrument.leave();
        // Nobody was in, so nobody is put out: the question who is there was answered, no more.
        if (!queries.getQueryData(['me'])) return;
        setHasEnded(true);
        // Whatever was fetched belongs to whoever was signed in.
        queries.removeQueries({
          predicate: (query) => query.queryKey[0] !== 'me' && query.queryKey[0] !== 'sign-in',
        });
        void queries.resetQueries({ queryKey: ['me'] });
      }),
    [queries],
  );
  const isOut = me.error instanceof Problem && me.error.status === 401;
  if (isOut || (hasEnded && !me.data)) return <SignIn hasEnded={hasEnded} onIn={() => setHasEnded(false)} />;
  if (me.data) return <Me value={me.data}>{children}</Me>;
  if (me.error) return <Notice problem={me.error} onAgain={() => void me.refetch()} />;
  return <Waiting what="Opening Osierwand" />;
}
