import { Box, Button } from '@mui/material';
import type { Schema } from '../api/client';
import { Ring } from '../design/Ring';
import { c } from '../design/tokens';
import type { BenchRun } from './run';

/** The look, opened: most faults are found by eye and hand, so every point stands in the open. */
export function LookStep({
  sheet,
  run,
  onPrimary,
  onBad,
}: {
  sheet: Schema['BenchSheet'];
  run: BenchRun;
  onPrimary: () => void;
  onBad: () => void;
}) {
  const answerOf = (id: string) => run.draft.look.find((it) => it.pointId === id);
  const wheres = [...new Set(sheet.look.map((point) => point.where))];
  return (
    <Box
      component="section"
      aria-label="Look"
      aria-current="step"
      sx={{
        bgcolor: c.surface,
        boxShadow: `inset 6px 0 ${c.reed}`,
        borderBottom: `1px solid ${c.line}`,
        px: 2.5,
        py: 2,
      }}
    >
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1.75, mb: 1 }}>
        <Ring state="open" size={28} />
        <Box sx={{ flex: 1 }}>
          <Box sx={{ fontWeight: 700, fontSize: '1.1rem' }}>Look</Box>
          <Box sx={{ color: c.muted, fontSize: 13.5 }}>
            Unplugged and cool. Whole flex through the hand. A bad point ends the job: nothing is tested on
            visibly dangerous equipment.
          </Box>
        </Box>
        <Button variant="contained" onClick={onPrimary}>
          All good
        </Button>
        <Button variant="outlined" color="error" onClick={onBad}>
          Bad
        </Button>
      </Box>
      <Box sx={{ display: 'grid', gridTemplateColumns: '96px 1fr', rowGap: 0 }}>
        {wheres.map((where) => (
          <Box key={where} sx={{ display: 'contents' }}>
            <Box sx={{ color: c.muted, fontSize: 14, pt: 1.15, borderTop: `1px solid ${c.line}` }}>
              {where}
            </Box>
            <Box sx={{ borderTop: `1px solid ${c.line}` }}>
              {sheet.look
                .filter((point) => point.where === where)
                .map((point) => {
                  const answer = answerOf(point.id)?.answer;
                  return (
                    <Box key={point.id} sx={{ display: 'flex', alignItems: 'center', gap: 1, minHeight: 38 }}>
                      <Box
                        sx={{
                          flex: 1,
                          color: answer === 'doesNotApply' ? c.muted : c.ink,
                          textDecoration: answer === 'doesNotApply' ? 'line-through' : 'none',
                        }}
                      >
                        {point.text}
                      </Box>
                      <Button
                        size="small"
                        color="inherit"
                        aria-pressed={answer === 'doesNotApply'}
                        aria-label={`${point.text}: does not apply`}
                        sx={{ color: c.muted, fontWeight: 400, whiteSpace: 'nowrap' }}
                        onClick={() =>
                          run.setLook([
                            {
                              pointId: point.id,
                              answer: answer === 'doesNotApply' ? 'good' : 'doesNotApply',
                              words: null,
                            },
                          ])
                        }
                      >
                        {answer === 'doesNotApply' ? 'does not apply' : 'n/a'}
                      </Button>
                    </Box>
                  );
                })}
            </Box>
          </Box>
        ))}
      </Box>
    </Box>
  );
}
