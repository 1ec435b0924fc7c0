import { Box } from '@mui/material';
import { c } from '../design/tokens';
import { useShown } from './useBench';

const names = ['Find', 'Look', 'Measure', 'Run', 'Judge', 'Act'] as const;
const phaseOf = {
  look: 1,
  fuseAndFlex: 2,
  confirm: 2,
  pause: 2,
  prove: 2,
  dead: 2,
  outlet: 2,
  measure: 2,
  function: 3,
  check: 3,
  changeOver: 3,
  discharges: 3,
} as const;

/** The withe: the work as one rod, drawn as far as it has come. */
export function Phases() {
  const at = useShown(({ sheet, now }) => {
    const index = sheet.steps.findIndex((it) => it.key === now.current);
    const step = sheet.steps[index];
    if (!step) return 4;
    // What is made safe before the look is part of finding it.
    return index < sheet.steps.findIndex((it) => it.family === 'look') ? 0 : phaseOf[step.family];
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
