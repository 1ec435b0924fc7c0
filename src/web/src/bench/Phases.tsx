import { Box } from '@mui/material';
import type { Schema } from '../api/client';
import { c } from '../design/tokens';
import type { BenchRun } from './run';

const names = ['Find', 'Look', 'Measure', 'Run', 'Judge', 'Act'] as const;

function phaseOf(run: BenchRun, isSaved: boolean): number {
  if (isSaved) return 5;
  switch (run.current?.step.test) {
    case undefined:
      return 4;
    case 'visual':
      return 1;
    case 'functional':
      return 3;
    default:
      return 2;
  }
}

/** The withe: the work as one rod, drawn as far as it has come. */
export function Phases({ run, isSaved }: { sheet: Schema['BenchSheet']; run: BenchRun; isSaved: boolean }) {
  const at = phaseOf(run, isSaved);
  return (
    <Box
      component="ol"
      aria-label="Where the work stands"
      sx={{
        listStyle: 'none',
        m: 0,
        p: 0,
        mb: 1.25,
        display: 'grid',
        gridTemplateColumns: `repeat(${names.length}, 1fr)`,
        fontSize: 14,
      }}
    >
      {names.map((name, i) => (
        <Box
          component="li"
          key={name}
          aria-current={i === at ? 'step' : undefined}
          sx={{
            pt: 0.75,
            borderTop: i === at ? `4px dashed ${c.reed}` : `4px solid ${i < at ? c.reed : c.line}`,
            color: i === at ? c.ink : c.muted,
            fontWeight: i === at ? 700 : 400,
          }}
        >
          {name}
        </Box>
      ))}
    </Box>
  );
}
