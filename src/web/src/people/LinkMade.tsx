import { Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import type { Schema } from '../api/client';
import { showDate, showTime } from '../api/dates';
import { c } from '../design/tokens';

/** A link is shown once: the server keeps no more than its digest. */
export function LinkMade({
  who,
  link,
  onClose,
}: {
  who: string;
  link: Schema['InviteLink'];
  onClose: () => void;
}) {
  const [isCopied, setIsCopied] = useState(false);
  const address = `${window.location.origin}/welcome#${link.token}`;
  return (
    <Box
      component="section"
      aria-label="A link was made"
      sx={{
        border: `2px solid ${c.reed}`,
        borderRadius: '6px',
        p: 2,
        bgcolor: c.raised,
        display: 'grid',
        gap: 1.25,
      }}
    >
      <Typography variant="h2">Give this link to {who}</Typography>
      <Box
        component="code"
        sx={{ overflowWrap: 'anywhere', fontSize: 14, bgcolor: c.paper, p: 1, userSelect: 'all' }}
      >
        {address}
      </Box>
      <Box sx={{ color: c.bark }}>
        It sets one password, once, until {showDate(link.endsAt)}, {showTime(link.endsAt)}. It is shown here
        only now: hand it over in person or by a way that only they read.
      </Box>
      <Box sx={{ display: 'flex', gap: 1.5 }}>
        <Button
          variant="contained"
          onClick={() => void navigator.clipboard.writeText(address).then(() => setIsCopied(true))}
        >
          {isCopied ? 'Copied' : 'Copy the link'}
        </Button>
        <Button color="inherit" onClick={onClose}>
          I have it
        </Button>
      </Box>
    </Box>
  );
}
