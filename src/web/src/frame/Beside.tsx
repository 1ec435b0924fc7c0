import { Box } from '@mui/material';
import type { ReactNode } from 'react';
import { c } from '../design/tokens';

/** A page with what is done about it at its side; on a phone that stands below, or above where it answers what was just chosen. */
export function Beside(props: {
  /** Names the side to whoever hears the page. */
  label: string;
  side: ReactNode;
  width?: number;
  isSideFirst?: boolean;
  children: ReactNode;
}) {
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: {
          xs: 'minmax(0, 1fr)',
          md: `minmax(0, 1fr) minmax(0, ${props.width ?? 340}px)`,
        },
        flex: 1,
      }}
    >
      <Box sx={{ p: { xs: 2, md: 3 }, minWidth: 0 }}>{props.children}</Box>
      <Box
        component="aside"
        aria-label={props.label}
        sx={{
          p: 2.5,
          minWidth: 0,
          bgcolor: c.surface,
          borderLeft: { md: `1px solid ${c.line}` },
          borderTop: { xs: `1px solid ${c.line}`, md: 0 },
          display: 'grid',
          gap: 3,
          alignContent: 'start',
          order: { xs: props.isSideFirst ? -1 : 0, md: 0 },
        }}
      >
        {props.side}
      </Box>
    </Box>
  );
}
