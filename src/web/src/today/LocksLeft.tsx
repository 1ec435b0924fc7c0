import { Box, Typography } from '@mui/material';
import { Link } from 'react-router';
import type { Schema } from '../api/client';
import { c } from '../design/tokens';

/** Locks that somebody left on an item's supply: they stand here until it is restored. */
export function LocksLeft({ locks }: { locks: Schema['LockCard'][] }) {
  if (locks.length === 0) return null;
  return (
    <Box component="section" aria-label="Locks left on" sx={{ mt: 2 }}>
      <Typography variant="h2">Locks left on</Typography>
      {locks.map((it) => (
        <Box
          key={it.itemId}
          component={Link}
          to={`/register/${it.itemId}`}
          sx={{
            display: 'block',
            color: 'inherit',
            textDecoration: 'none',
            borderLeft: `4px solid ${c.fail}`,
            pl: 1.5,
            py: 0.5,
            mt: 1,
          }}
        >
          <Box sx={{ fontWeight: 700 }}>
            {it.tag} {it.name}
          </Box>
          <Box sx={{ color: c.bark, fontSize: 14.5 }}>{it.place}</Box>
          <Box sx={{ fontSize: 14.5, overflowWrap: 'anywhere' }}>{it.words}</Box>
        </Box>
      ))}
    </Box>
  );
}
