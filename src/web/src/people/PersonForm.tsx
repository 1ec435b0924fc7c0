import { Box, Button, MenuItem, TextField } from '@mui/material';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, type Schema } from '../api/client';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { roleSays, roleWords } from './roles';

/** Invites somebody, or gives somebody who is there another role. */
export function PersonForm({
  person,
  clients,
  onDone,
}: {
  /** Left out for an invitation. */
  person?: Schema['PersonRow'];
  clients: Schema['ClientName'][];
  onDone: (who: string, link: Schema['InviteLink'] | null) => void;
}) {
  const queries = useQueryClient();
  const [userName, setUserName] = useState('');
  const [displayName, setDisplayName] = useState('');
  const [initials, setInitials] = useState('');
  const [role, setRole] = useState(person?.role ?? 'technician');
  const [reads, setReads] = useState<string[]>(person ? [...person.clients] : []);
  const send = useMutation({
    mutationFn: async () => {
      const body = { role, clients: role === 'viewer' ? reads : [] };
      if (!person)
        return ask(api.POST('/api/v1/people', { body: { userName, displayName, initials, ...body } }));
      await ask(
        api.POST('/api/v1/people/{personId}/role', { params: { path: { personId: person.id } }, body }),
      );
      return null;
    },
    onSuccess: (link) => {
      void queries.invalidateQueries({ queryKey: ['people'] });
      onDone(person?.displayName ?? displayName, link);
    },
  });
  return (
    <Box
      component="form"
      aria-label={person ? `Role of ${person.displayName}` : 'Invite somebody'}
      onSubmit={(event) => {
        event.preventDefault();
        send.mutate();
      }}
      sx={{
        display: 'grid',
        gap: 1.5,
        ...(person ? {} : { border: `1px solid ${c.line}`, borderRadius: '6px', p: 2 }),
      }}
    >
      <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', alignItems: 'flex-start' }}>
        {!person && (
          <>
            <TextField
              size="small"
              label="Full name, as on papers"
              value={displayName}
              onChange={(event) => setDisplayName(event.target.value)}
              slotProps={{ htmlInput: { maxLength: 100 } }}
              sx={{ flex: 2, minWidth: 200 }}
              autoFocus
              required
            />
            <TextField
              size="small"
              label="Initials"
              value={initials}
              onChange={(event) => setInitials(event.target.value)}
              slotProps={{ htmlInput: { maxLength: 5 } }}
              sx={{ width: 100 }}
              required
            />
            <TextField
              size="small"
              label="Name to sign in by"
              value={userName}
              onChange={(event) => setUserName(event.target.value)}
              slotProps={{ htmlInput: { maxLength: 60 } }}
              sx={{ flex: 1, minWidth: 160 }}
              required
            />
          </>
        )}
        <TextField
          size="small"
          select
          label="Role"
          value={role}
          onChange={(event) => setRole(event.target.value)}
          helperText={roleSays[role]}
          sx={{ width: 300 }}
        >
          {Object.entries(roleWords).map(([value, words]) => (
            <MenuItem key={value} value={value}>
              {words}
            </MenuItem>
          ))}
        </TextField>
        {role === 'viewer' && (
          <TextField
            size="small"
            select
            label="Reads for"
            value={reads}
            onChange={(event) => setReads(event.target.value as unknown as string[])}
            slotProps={{ select: { multiple: true } }}
            sx={{ flex: 1, minWidth: 220 }}
            required
          >
            {clients.map((client) => (
              <MenuItem key={client.code} value={client.code}>
                {client.name}
              </MenuItem>
            ))}
          </TextField>
        )}
      </Box>
      {send.error && <Notice problem={send.error} />}
      <Box sx={{ display: 'flex', gap: 1.5 }}>
        <Button
          type="submit"
          size={person ? 'small' : 'medium'}
          variant="contained"
          disabled={send.isPending || (role === 'viewer' && reads.length === 0)}
        >
          {person ? 'Set the role' : 'Invite'}
        </Button>
        {!person && (
          <Button color="inherit" onClick={() => onDone('', null)}>
            Leave it
          </Button>
        )}
      </Box>
    </Box>
  );
}
