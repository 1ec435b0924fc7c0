import { Box, Button, TextField, Typography } from '@mui/material';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask } from '../api/client';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { usePageTitle } from '../frame/usePageTitle';
import { Waiting } from '../frame/Waiting';
import { Wordmark } from '../frame/Wordmark';

/** Where a link leads by which a person sets a password. The token stands after "#", so that it is in no server's log. */
export function Welcome() {
  usePageTitle('Set your password');
  const token = window.location.hash.slice(1);
  const [password, setPassword] = useState('');
  const [again, setAgain] = useState('');
  const link = useQuery({
    queryKey: ['link', token],
    queryFn: () => ask(api.POST('/api/v1/people/link/look', { body: { token } })),
    retry: false,
    staleTime: Infinity,
  });
  const take = useMutation({
    mutationFn: () => ask(api.POST('/api/v1/people/link', { body: { token, password } })),
    // The token is used up: the address must not lie about in the history.
    onSuccess: () => window.location.replace('/'),
  });
  const differs = again !== '' && again !== password;
  return (
    <Box sx={{ maxWidth: 520, mx: 'auto', p: { xs: 3, md: 6 }, display: 'grid', gap: 3 }}>
      <Wordmark size={36} />
      {link.isPending && <Waiting what="Looking at the link" />}
      {link.error && <Notice problem={link.error} />}
      {link.data && (
        <Box
          component="form"
          onSubmit={(event) => {
            event.preventDefault();
            if (password === again) take.mutate();
          }}
          sx={{ display: 'grid', gap: 2 }}
        >
          <Typography variant="h1">{link.data.displayName}</Typography>
          <Typography sx={{ color: c.bark }}>
            Set a password. You sign in as <strong>{link.data.userName}</strong>.
          </Typography>
          <input type="hidden" autoComplete="username" value={link.data.userName} readOnly />
          <TextField
            label="Password"
            type="password"
            autoComplete="new-password"
            value={password}
            onChange={(event) => setPassword(event.target.value)}
            helperText="At least 12 characters; a few words of your own are easy to keep."
            slotProps={{ htmlInput: { maxLength: 128 } }}
            autoFocus
            required
          />
          <TextField
            label="The same again"
            type="password"
            autoComplete="new-password"
            value={again}
            onChange={(event) => setAgain(event.target.value)}
            error={differs}
            helperText={differs ? 'The two differ.' : ' '}
            slotProps={{ htmlInput: { maxLength: 128 } }}
            required
          />
          {take.error && <Notice problem={take.error} />}
          <Button type="submit" variant="contained" disabled={take.isPending || password !== again}>
            Set it and go in
          </Button>
        </Box>
      )}
    </Box>
  );
}
