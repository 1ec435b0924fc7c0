import { Box, Button, Typography } from '@mui/material';
import type { ReactNode } from 'react';
import { ErrorBoundary, type FallbackProps } from 'react-error-boundary';
import { useLocation } from 'react-router';
import { c } from '../design/tokens';

/** A part of an update that is not on the server any more: only loading the page again helps. */
const isOldPage = (failure: unknown) =>
  failure instanceof Error &&
  /dynamically imported module|module script|Failed to fetch/i.test(failure.message);

function Failed({ error, resetErrorBoundary }: FallbackProps) {
  const old = isOldPage(error);
  return (
    <Box role="alert" sx={{ p: { xs: 3, md: 6 }, maxWidth: 680 }}>
      <Typography variant="h1">{old ? 'Osierwand was updated meanwhile' : 'This page failed'}</Typography>
      <Typography sx={{ mt: 1.5, color: c.bark, fontSize: '1.1rem' }}>
        {old
          ? 'This page belongs to the version before. Load it again; run sheets are kept on this device.'
          : 'What you entered on a run sheet is kept on this device. Try again; if it fails again, load the page anew.'}
      </Typography>
      <Box sx={{ display: 'flex', gap: 1.5, mt: 3, flexWrap: 'wrap' }}>
        <Button variant="contained" onClick={() => window.location.reload()}>
          Load the page again
        </Button>
        {!old && (
          <Button variant="outlined" color="inherit" onClick={resetErrorBoundary}>
            Try again
          </Button>
        )}
      </Box>
    </Box>
  );
}

/** One room's failure stays in that room, says what was kept, and has a way on. */
export function Guard({ children }: { children: ReactNode }) {
  const { pathname } = useLocation();
  return (
    <ErrorBoundary resetKeys={[pathname]} FallbackComponent={Failed}>
      {children}
    </ErrorBoundary>
  );
}
