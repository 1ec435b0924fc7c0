import { Box, Button, TextField, Typography } from '@mui/material';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, Problem, type Schema } from '../api/client';
import { Ring } from '../design/Ring';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { usePageTitle } from '../frame/usePageTitle';
import { Wordmark } from '../frame/Wordmark';
import { hasPasskeys, showPasskey } from './passkeys';
import { roleWords } from './roles';

/** Sign in by name and password; in a demo, by picking one of its people. */
export function SignIn({ hasEnded, onIn }: { hasEnded: boolean; onIn: () => void }) {
  usePageTitle('Sign in');
  const queries = useQueryClient();
  const [userName, setUserName] = useState('');
  const [password, setPassword] = useState('');
  const page = useQuery({ queryKey: ['sign-in'], queryFn: () => ask(api.GET('/api/v1/people/sign-in')) });
  const [displayName, setDisplayName] = useState('');
  const [initials, setInitials] = useState('');
  const [token, setToken] = useState('');
  const [code, setCode] = useState('');
  const isFirst = page.data?.needsFirstPerson === true;
  const isIn = (me: Schema['PersonCard']) => {
    onIn();
    queries.setQueryData(['me'], me);
  };
  const enter = useMutation({
    mutationFn: (demo: string | null) =>
      demo === null && isFirst
        ? ask(
            api.POST('/api/v1/people/first', { body: { token, userName, password, displayName, initials } }),
          )
        : demo === null
          ? ask(
              api.POST('/api/v1/people/sign-in', { body: { userName, password, code: code.trim() || null } }),
            )
          : ask(api.POST('/api/v1/people/demo-sign-in', { params: { query: { userName: demo } } })),
    onSuccess: isIn,
  });
  const byPasskey = useMutation({
    mutationFn: async () => {
      const offer = await ask(api.POST('/api/v1/people/passkey/offer'));
      const credential = await showPasskey(offer.options);
      return ask(api.POST('/api/v1/people/passkey', { body: { state: offer.state, credential } }));
    },
    onSuccess: isIn,
  });
  const problem = enter.error ?? byPasskey.error;
  const needsCode = enter.error instanceof Problem && (enter.error.extra.needs === 'code' || code !== '');
  return (
    <Box sx={{ minHeight: '100dvh', display: 'grid', gridTemplateColumns: { xs: '1fr', md: '5fr 7fr' } }}>
      <Box
        sx={{
          bgcolor: c.surface,
          borderRight: `1px solid ${c.line}`,
          p: { xs: 3, md: 7 },
          display: 'flex',
          flexDirection: 'column',
          justifyContent: 'center',
          gap: 2.5,
        }}
      >
        <Wordmark size={44} />
        <Typography sx={{ fontSize: '1.2rem', maxWidth: '26ch', color: c.bark }}>
          Inspect, test and judge electrical equipment, and say why.
        </Typography>
        <Box sx={{ display: 'flex', gap: 2, mt: 1 }} aria-hidden>
          <Ring state="pass" size={36} />
          <Ring state="passWithAdvice" size={36} />
          <Ring state="fail" size={36} />
          <Ring state="notTested" size={36} />
        </Box>
      </Box>
      <Box
        sx={{
          p: { xs: 3, md: 7 },
          display: 'flex',
          flexDirection: 'column',
          justifyContent: 'center',
          gap: 3,
          maxWidth: 560,
        }}
      >
        {hasEnded && (
          <Box role="status" sx={{ borderLeft: `4px solid ${c.advice}`, pl: 1.5 }}>
            The session is over. Run sheets are kept on this device for whoever entered them; sign in again to
            go on.
          </Box>
        )}
        <Typography variant="h1">{isFirst ? 'Set up this house' : 'Sign in'}</Typography>
        {isFirst && (
          <Typography sx={{ color: c.bark }}>
            Nobody has an account yet. The first one is a lead. The token stands beside the address where this
            house was started.
          </Typography>
        )}
        <Box
          component="form"
          onSubmit={(event) => {
            event.preventDefault();
            byPasskey.reset();
            enter.mutate(null);
          }}
          sx={{ display: 'flex', flexDirection: 'column', gap: 2 }}
        >
          <TextField
            label="Name"
            value={userName}
            onChange={(event) => setUserName(event.target.value)}
            autoComplete="username"
            autoFocus
            required
          />
          <TextField
            label="Password"
            type="password"
            value={password}
            onChange={(event) => setPassword(event.target.value)}
            autoComplete={isFirst ? 'new-password' : 'current-password'}
            helperText={
              isFirst ? 'At least 12 characters; a few words of your own are easy to keep.' : undefined
            }
            required
          />
          {needsCode && (
            <TextField
              label="Code from your phone, or a spare one"
              value={code}
              onChange={(event) => setCode(event.target.value)}
              autoComplete="one-time-code"
              autoFocus
              required
              slotProps={{ htmlInput: { inputMode: 'text', maxLength: 20 } }}
            />
          )}
          {isFirst && (
            <>
              <TextField
                label="Token of this house"
                value={token}
                onChange={(event) => setToken(event.target.value)}
                autoComplete="off"
                required
              />
              <TextField
                label="Full name, as on papers"
                value={displayName}
                onChange={(event) => setDisplayName(event.target.value)}
                required
              />
              <TextField
                label="Initials, as on labels"
                value={initials}
                onChange={(event) => setInitials(event.target.value)}
                required
              />
            </>
          )}
          <Button type="submit" variant="contained" disabled={enter.isPending}>
            {isFirst ? 'Make the first account' : 'Sign in'}
          </Button>
          {!isFirst && hasPasskeys() && (
            <Button
              variant="outlined"
              disabled={byPasskey.isPending}
              onClick={() => {
                enter.reset();
                byPasskey.mutate();
              }}
            >
              Sign in with a passkey
            </Button>
          )}
        </Box>
        {problem && <Notice problem={problem} />}
        {page.data?.demo && (
          <Box
            component="section"
            aria-label="Demo people"
            sx={{ borderTop: `1px solid ${c.line}`, pt: 2.5 }}
          >
            <Typography sx={{ color: c.muted, mb: 1.5 }}>
              This is a demo with invented people and equipment. Step in as
            </Typography>
            <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1.5 }}>
              {page.data.demoPeople.map((person) => (
                <Button
                  key={person.id}
                  variant="outlined"
                  color="info"
                  disabled={enter.isPending}
                  onClick={() => enter.mutate(person.userName)}
                >
                  {person.displayName}, {roleWords[person.role]}
                </Button>
              ))}
            </Box>
          </Box>
        )}
      </Box>
    </Box>
  );
}
