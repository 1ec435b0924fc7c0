import { Box, Button, MenuItem, TextField } from '@mui/material';
import { useState } from 'react';
import { Link } from 'react-router';
import type { Schema } from '../api/client';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { useAskForRegister } from './kept';

/** A client's whole register, to read now or to make and keep as PDF. */
export function Registers({ clients }: { clients: readonly Schema['ClientName'][] }) {
  const [chosen, setChosen] = useState('');
  const make = useAskForRegister();
  const client = chosen || (clients[0]?.code ?? '');
  if (!client) return null;
  return (
    <Box
      component="section"
      aria-label="Register on paper"
      sx={{ borderBlock: `1px solid ${c.line}`, py: 1.5, mb: 1.5 }}
    >
      <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'center', flexWrap: 'wrap' }}>
        <Box sx={{ flex: '1 1 200px' }}>
          <b>Register on paper</b>
          <Box sx={{ color: c.muted, fontSize: 14 }}>
            all that a client owns, how it stands, when it is due
          </Box>
        </Box>
        {clients.length > 1 && (
          <TextField
            select
            size="small"
            label="Client"
            value={client}
            onChange={(event) => setChosen(event.target.value)}
            sx={{ minWidth: 220 }}
          >
            {clients.map((it) => (
              <MenuItem key={it.code} value={it.code}>
                {it.name}
              </MenuItem>
            ))}
          </TextField>
        )}
        <Button
          component={Link}
          to={`/papers/register/${client}`}
          color="inherit"
          aria-label="Read: Register"
        >
          Read
        </Button>
        <Button
          variant="outlined"
          color="inherit"
          aria-label="PDF: Register"
          disabled={make.isPending}
          onClick={() => make.mutate({ id: crypto.randomUUID(), client })}
        >
          PDF
        </Button>
      </Box>
      {make.error && <Notice problem={make.error} />}
    </Box>
  );
}
