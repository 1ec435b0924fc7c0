import { Box } from '@mui/material';
import { c } from '../design/tokens';

/** A page that is on its way says so; a blank one looks broken. */
export function Waiting({ what }: { what: string }) {
  return (
    <Box role="status" sx={{ p: { xs: 2.5, md: 4 }, color: c.muted }}>
      {what} …
    </Box>
  );
}
