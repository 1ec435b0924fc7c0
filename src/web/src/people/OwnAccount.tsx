import { Box, Button, TextField, Typography } from '@mui/material';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type ReactNode, useState } from 'react';
import { api, ask } from '../api/client';
import { showDate, showTime } from '../api/dates';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { usePageTitle } from '../frame/usePageTitle';
import { Waiting } from '../frame/Waiting';
import { OwnPasskeys } from './OwnPasskeys';
import { roleSays, roleWords } from './roles';
import { useMe } from './SignedIn';
import { TwoStep } from './TwoStep';

/** One's own account: where one is signed in, the password, the second step. */
export default function OwnAccount() {
  usePageTitle('Your account');
  const me = useMe();
  const queries = useQueryClient();
  const account = useQuery({
    queryKey: ['account', me.id],
    queryFn: () => ask(api.GET('/api/v1/people/me/account')),
    staleTime: 0,
  });
  const again = () => queries.invalidateQueries({ queryKey: ['account'] });
  const end = useMutation({
    mutationFn: (sessionId: string) =>
      ask(api.POST('/api/v1/people/me/sessions/{sessionId}/end', { params: { path: { sessionId } } })),
    onSettled: again,
  });
  if (account.error && !account.data)
    return (
      <Box sx={{ p: 3 }}>
        <Notice problem={account.error} onAgain={() => void account.refetch()} />
      </Box>
    );
  if (!account.data) return <Waiting what="Fetching your account" />;
  return (
    <Box sx={{ p: { xs: 2, md: 3 }, display: 'grid', gap: 3, maxWidth: 760 }}>
      <Box>
        <Typography variant="h1">{me.displayName}</Typography>
        <Box sx={{ color: c.bark }}>
          Signs in as {me.userName}; {roleWords[me.role]}. {roleSays[me.role]}
        </Box>
      </Box>
      <Part name="Signed in">
        {account.data.sessions.map((it) => (
          <Box
            key={it.id}
            sx={{ display: 'flex', gap: 2, alignItems: 'center', py: 1, borderTop: `1px solid ${c.line}` }}
          >
            <Box sx={{ flex: 1, minWidth: 0 }}>
              <Box sx={{ fontWeight: it.isThis ? 700 : 400, overflowWrap: 'anywhere' }}>
                {it.isThis ? 'This browser' : it.browser || 'a browser that says nothing of itself'}
              </Box>
              <Box sx={{ color: c.muted, fontSize: 14 }}>
                since {showDate(it.startedAt)}, {showTime(it.startedAt)}; last seen {showTime(it.seenAt)}
                {it.address && `, from ${it.address}`}
              </Box>
            </Box>
            {!it.isThis && (
              <Button size="small" variant="outlined" onClick={() => end.mutate(it.id)}>
                End it
              </Button>
            )}
          </Box>
        ))}
        {end.error && <Notice problem={end.error} />}
      </Part>
      {account.data.hasPassword ? (
        <>
          <Part name="Password">
            <Password userName={me.userName} onDone={again} />
          </Part>
          <Part name="Codes from your phone">
            <TwoStep isOn={account.data.hasTwoStep} spare={account.data.spareCodes} onDone={again} />
          </Part>
          <Part name="Passkeys">
            <OwnPasskeys passkeys={account.data.passkeys} onDone={again} />
          </Part>
        </>
      ) : (
        <Box sx={{ color: c.muted }}>Invented people of a demo have no password to change.</Box>
      )}
      <Box sx={{ color: c.muted, fontSize: 14 }}>
        Osierwand ships work of others: <a href="/notices.txt">what, and under which licences</a>.
      </Box>
    </Box>
  );
}

function Part({ name, children }: { name: string; children: ReactNode }) {
  return (
    <Box component="section" aria-label={name}>
      <Typography variant="h2" sx={{ mb: 1 }}>
        {name}
      </Typography>
      {children}
    </Box>
  );
}

function Password({ userName, onDone }: { userName: string; onDone: () => void }) {
  const [current, setCurrent] = useState('');
  const [next, setNext] = useState('');
  const change = useMutation({
    mutationFn: () => ask(api.POST('/api/v1/people/me/password', { body: { current, next } })),
    onSuccess: () => {
      setCurrent('');
      setNext('');
      onDone();
    },
  });
  return (
    <Box
      component="form"
      onSubmit={(event) => {
        event.preventDefault();
        change.mutate();
      }}
      sx={{ display: 'grid', gap: 1.5, maxWidth: 420 }}
    >
      <input type="hidden" autoComplete="username" value={userName} readOnly />
      <TextField
        size="small"
        label="The password you have"
        type="password"
        autoComplete="current-password"
        value={current}
        onChange={(event) => setCurrent(event.target.value)}
        required
      />
      <TextField
        size="small"
        label="The new one"
        type="password"
        autoComplete="new-password"
        value={next}
        onChange={(event) => setNext(event.target.value)}
        helperText="At least 12 characters; a few words of your own are easy to keep."
        slotProps={{ htmlInput: { maxLength: 128 } }}
        required
      />
      {change.error && <Notice problem={change.error} />}
      {change.isSuccess && <Box role="status">Changed. Every other browser was signed out.</Box>}
      <Box>
        <Button type="submit" variant="outlined" disabled={change.isPending}>
          Change it
        </Button>
      </Box>
    </Box>
  );
}
