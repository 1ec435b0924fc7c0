import { Box } from '@mui/material';
import { c } from '../design/tokens';

/** The codes on paper: on the pile there is no screen in reach. */
export function PaperButton() {
  return (
    <Box component="a" href="/api/v1/papers/verdict-card?format=pdf" download sx={{ color: c.slate, py: 1 }}>
      Print the card with these codes
    </Box>
  );
}
