import { Box, Button } from '@mui/material';
import { Problem } from '../api/client';
import { c } from '../design/tokens';

/** A failure in words: what happened, what was kept, what to do. */
export function Notice({ problem, onAgain }: { problem: Error; onAgain?: () => void }) {
  const detail =
    problem instanceof Problem ? problem.detail : 'Reload the page; what you entered on a run sheet is kept.';
  return (
    <Box
      role="alert"
      sx={{
        borderLeft: `4px solid ${c.fail}`,
        bgcolor: c.failWash,
        p: 2,
        display: 'flex',
        gap: 2,
        alignItems: 'center',
        flexWrap: 'wrap',
      }}
    >
      <Box sx={{ flex: 1, minWidth: 220 }}>
        <strong>{problem.message}</strong> {detail}
      </Box>
      {onAgain && (
        <Button variant="outlined" color="error" onClick={onAgain}>
          Try again
        </Button>
      )}
    </Box>
  );
}
