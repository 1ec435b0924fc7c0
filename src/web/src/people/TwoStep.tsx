import { Box, Button, TextField } from '@mui/material';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask } from '../api/client';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';

/** The second step: a code from an app on the phone at every sign-in, with spare ones on paper for the day it is lost. */
export function TwoStep({ isOn, spare, onDone }: { isOn: boolean; spare: number; onDone: () => void }) {
  const [code, setCode] = useState('');
  const [password, setPassword] = useState('');
  const offer = useMutation({ mutationFn: () => ask(api.POST('/api/v1/people/me/two-step')) });
  const confirm = useMutation({
    mutationFn: () => ask(api.POST('/api/v1/people/me/two-step/confirm', { body: { text: code } })),
    onSuccess: onDone,
  });
  const off = useMutation({
    mutationFn: () => ask(api.POST('/api/v1/people/me/two-step/off', { body: { password } })),
    onSuccess: () => {
      setPassword('');
      offer.reset();
      confirm.reset();
      onDone();
    },
  });
  if (confirm.data)
    return (
      <Box role="status">
        The codes are on. Write these spare codes down; each opens once, and they are shown only now:
        <Box component="pre" sx={{ fontSize: 16, bgcolor: c.raised, p: 1.5, my: 1 }}>
          {confirm.data.codes.join('\n')}
        </Box>
        <Button variant="outlined" onClick={() => confirm.reset()}>
          They are written down
        </Button>
      </Box>
    );
  if (isOn)
    return (
      <Box
        component="form"
        onSubmit={(event) => {
          event.preventDefault();
          off.mutate();
        }}
        sx={{ display: 'grid', gap: 1.5, maxWidth: 420 }}
      >
        <Box>On; {spare === 1 ? '1 spare code is' : `${spare} spare codes are`} left.</Box>
        <TextField
          size="small"
          label="Your password, to take them off"
          type="password"
          autoComplete="current-password"
          value={password}
          onChange={(event) => setPassword(event.target.value)}
          required
        />
        {off.error && <Notice problem={off.error} />}
        <Box>
          <Button type="submit" variant="outlined" color="inherit" disabled={off.isPending}>
            Take them off
          </Button>
        </Box>
      </Box>
    );
  if (!offer.data)
    return (
      <Box sx={{ display: 'grid', gap: 1.5, justifyItems: 'start' }}>
        <Box sx={{ color: c.bark }}>
          Off. With them a password that somebody saw or guessed opens nothing.
        </Box>
        {offer.error && <Notice problem={offer.error} />}
        <Button variant="outlined" disabled={offer.isPending} onClick={() => offer.mutate()}>
          Set them up
        </Button>
      </Box>
    );
  return (
    <Box
      component="form"
      onSubmit={(event) => {
        event.preventDefault();
        confirm.mutate();
      }}
      sx={{ display: 'grid', gap: 1.5, maxWidth: 420 }}
    >
      <Box>Show this to the app on your phone that makes one-time codes:</Box>
      <Box component="img" src={offer.data.picture} alt="Squares for the app’s camera" sx={{ width: 200 }} />
      <Box sx={{ fontSize: 14, color: c.muted, overflowWrap: 'anywhere' }}>
        or type into it: <strong>{offer.data.secret.replace(/(.{4})/g, '$1 ').trim()}</strong>
      </Box>
      <TextField
        size="small"
        label="The code it shows now"
        value={code}
        onChange={(event) => setCode(event.target.value)}
        autoComplete="one-time-code"
        slotProps={{ htmlInput: { inputMode: 'numeric', maxLength: 10 } }}
        required
      />
      {confirm.error && <Notice problem={confirm.error} />}
      <Box>
        <Button type="submit" variant="contained" disabled={confirm.isPending}>
          Turn them on
        </Button>
      </Box>
    </Box>
  );
}
