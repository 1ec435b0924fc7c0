import { Box } from '@mui/material';
import { c } from '../design/tokens';

/** The name, cut where the withe bends. */
export function Wordmark({ size = 21 }: { size?: number }) {
  return (
    <Box
      component="span"
      sx={{ fontSize: size, fontWeight: 750, letterSpacing: '-0.02em', lineHeight: 1, whiteSpace: 'nowrap' }}
    >
      osier<span style={{ color: c.reed }}>wand</span>
    </Box>
  );
}
