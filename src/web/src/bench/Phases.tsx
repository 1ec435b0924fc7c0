import { Box } from '@mui/material';
import { c } from '../design/tokens';
import { useShown } from './useBench';

const names = ['Find', 'Look', 'Measure', 'Run', 'Judge', 'Act'] as const;
const phaseOf = { look: 1, fuseAndFlex: 2, confirm: 2, pause: 2, measure: 2, function: 3 } as const;

/** The withe: the work as one rod, drawn as far as it has come. */
export function Phases() {
  const at = useShown(({ sheet, now }) => {
    const step = sheet.steps.find((it) => it.key === now.current);
    return step ? phaseOf[step.family] : 4;
  });
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
