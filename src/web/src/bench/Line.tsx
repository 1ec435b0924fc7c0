import { Box } from '@mui/material';
import type { ReactNode } from 'react';

/** Something that must be known beside the steps. */
export function Line({ tone, children }: { tone: string; children: ReactNode }) {
  return (
    <Box role="status" sx={{ borderLeft: `4px solid ${tone}`, pl: 1.25, mb: 1, fontSize: 14.5 }}>
      {children}
    </Box>
  );
}
