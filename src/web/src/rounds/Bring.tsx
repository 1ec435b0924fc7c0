import { Box, Button, Typography } from '@mui/material';
import { c } from '../design/tokens';
import { useRound } from './useRound';

/** The packing list, worked out from the run sheets; it prints as it stands. */
export function Bring() {
  const { round } = useRound();
  const left = round.rooms.reduce((sum, room) => sum + room.items.filter((it) => !it.outcome).length, 0);
  return (
    <Box component="section" aria-label="Packing list">
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1 }}>
        <Typography variant="h2" sx={{ flex: 1 }}>
          Bring
        </Typography>
        {round.packing.length > 0 && (
          <Button
            size="small"
            color="inherit"
            onClick={() => window.print()}
            sx={{ '@media print': { display: 'none' } }}
          >
            Print
          </Button>
        )}
      </Box>
      <Box sx={{ color: c.muted, fontSize: 13.5 }}>
        {left === 0
          ? 'Nothing is left to do.'
          : `worked out from ${left} run ${left === 1 ? 'sheet' : 'sheets'}`}
      </Box>
      {round.packing.map((it) => (
        <Box
          key={it.what}
          sx={{ display: 'flex', gap: 1.5, borderBottom: `1px solid ${c.line}`, py: 0.9, fontSize: 14.5 }}
        >
          <Box
            aria-hidden
            sx={{
              display: 'none',
              width: 14,
              height: 14,
              border: '1.5px solid',
              mt: 0.4,
              flex: 'none',
              '@media print': { display: 'block' },
            }}
          />
          <Box sx={{ flex: 1, minWidth: 0 }}>
            {it.what}
            {it.held && <Box sx={{ color: c.bark }}>{it.held}</Box>}
            {it.warning && <Box sx={{ color: c.advice, fontWeight: 600 }}>{it.warning}</Box>}
          </Box>
          <Box sx={{ color: c.bark, textAlign: 'right', maxWidth: '45%' }}>{it.for}</Box>
        </Box>
      ))}
    </Box>
  );
}
