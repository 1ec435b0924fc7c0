import { Box, Button, TextField } from '@mui/material';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, type Schema } from '../api/client';
import { showDate } from '../api/dates';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { hasPasskeys, makePasskey } from './passkeys';

/** Keys that devices keep for this account, and another one for the device in hand. */
export function OwnPasskeys({ passkeys, onDone }: { passkeys: Schema['PasskeyCard'][]; onDone: () => void }) {
  const [name, setName] = useState('');
  const [password, setPassword] = useState('');
  const add = useMutation({
    mutationFn: async () => {
      const offer = await ask(api.POST('/api/v1/people/me/passkeys/offer', { body: { password } }));
      const credential = await makePasskey(offer.options);
      await ask(api.POST('/api/v1/people/me/passkeys', { body: { state: offer.state, name, credential } }));
    },
    onSuccess: () => {
      setName('');
      setPassword('');
      onDone();
    },
  });
  const remove = useMutation({
    mutationFn: (passkeyId: string) =>
      ask(api.POST('/api/v1/people/me/passkeys/{passkeyId}/remove', { params: { path: { passkeyId } } })),
    onSettled: onDone,
  });
  return (
    <Box sx={{ display: 'grid', gap: 1.5 }}>
      {passkeys.map((it) => (
        <Box
          key={it.id}
          sx={{ display: 'flex', gap: 2, alignItems: 'center', py: 1, borderTop: `1px solid ${c.line}` }}
        >
          <Box sx={{ flex: 1, minWidth: 0 }}>
            <Box sx={{ overflowWrap: 'anywhere' }}>{it.name}</Box>
            <Box sx={{ color: c.muted, fontSize: 14 }}>since {showDate(it.madeAt)}</Box>
          </Box>
          <Button
            size="small"
            variant="outlined"
            aria-label={`Remove ${it.name}`}
            disabled={remove.isPending}
            onClick={() => remove.mutate(it.id)}
          >
            Remove it
          </Button>
        </Box>
      ))}
      {remove.error && <Notice problem={remove.error} />}
      <Box sx={{ color: c.bark }}>
        {passkeys.length === 0 && 'None. '}A device that keeps one signs you in by finger, face or its own
        code, without password and code from the phone. Not for a tablet that goes from hand to hand.
      </Box>
      {hasPasskeys() ? (
        <Box
          component="form"
          onSubmit={(event) => {
            event.preventDefault();
            add.mutate();
          }}
          sx={{ display: 'grid', gap: 1.5, maxWidth: 420 }}
        >
          <TextField
            size="small"
            label="This device, in a word or two"
            value={name}
            onChange={(event) => setName(event.target.value)}
            slotProps={{ htmlInput: { maxLength: 60 } }}
            required
          />
          <TextField
            size="small"
            label="Your password, to add it"
            type="password"
            autoComplete="current-password"
            value={password}
            onChange={(event) => setPassword(event.target.value)}
            required
          />
          {add.error && <Notice problem={add.error} />}
          <Box>
            <Button type="submit" variant="outlined" disabled={add.isPending}>
              Add a passkey
            </Button>
          </Box>
        </Box>
      ) : (
        <Box sx={{ color: c.muted, fontSize: 14 }}>
          One can be added where this house is opened by its name over a secure connection.
        </Box>
      )}
    </Box>
  );
}
