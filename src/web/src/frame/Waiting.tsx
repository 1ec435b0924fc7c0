import { Box } from '@mui/material';
import { useEffect } from 'react';
import { c } from '../design/tokens';
import { begin } from './idle';

/** A page that is on its way says so; a blank one looks broken. */
export function Waiting({ what }: { what: string }) {
  useEffect(begin, []);
  return (
    <Box role="status" sx={{ p: { xs: 2.5, md: 4 }, color: c.muted }}>
      {what} …
    </Box>
  );
}
