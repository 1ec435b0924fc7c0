import { Box, Button, MenuItem, TextField, Typography } from '@mui/material';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, type Schema } from '../api/client';
import { Ring } from '../design/Ring';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { unitLabel } from './words';

/** The daily check: each terminal of the check box is measured and typed; what it says is Core's. */
export function CheckForm({ kitId, boxes }: { kitId: string; boxes: readonly Schema['CheckBoxChoice'][] }) {
  const queries = useQueryClient();
  const [boxId, setBoxId] = useState(boxes.find((it) => !it.trouble)?.id ?? boxes[0]?.id ?? '');
  const [read, setRead] = useState<Record<string, string>>({});
  const box = boxes.find((it) => it.id === boxId);
  const check = useMutation({
    mutationFn: () =>
      ask(
        api.POST('/api/v1/kit/{kitId}/check', {
          params: { path: { kitId } },
          body: {
            checkBoxId: boxId,
            read: Object.entries(read).map(([key, text]) => ({ key, text })),
          },
        }),
      ),
    onSuccess: () => {
      setRead({});
      void queries.invalidateQueries({ queryKey: ['kit'] });
      void queries.invalidateQueries({ queryKey: ['today'] });
    },
  });
  return (
    <Box component="section" aria-label="Daily check">
      <Typography variant="h2">Daily check</Typography>
      {!box || box.lines.length === 0 ? (
        <Box sx={{ color: c.bark, mt: 1 }}>
          No check box in the kit has a terminal that this instrument measures. A lead takes one in.
        </Box>
      ) : (
        <Box
          component="form"
          onSubmit={(event) => {
            event.preventDefault();
            check.mutate();
          }}
          sx={{ mt: 1.5, display: 'grid', gap: 1.25 }}
        >
          <TextField
            select
            size="small"
            label="With"
            value={boxId}
            onChange={(event) => setBoxId(event.target.value)}
            sx={{ maxWidth: 320 }}
          >
            {boxes.map((it) => (
              <MenuItem key={it.id} value={it.id} disabled={!!it.trouble}>
                {it.name}
                {it.trouble ? `: ${it.trouble}` : ''}
              </MenuItem>
            ))}
          </TextField>
          {box.lines.map((line) => (
            <Box key={line.key} sx={{ display: 'flex', gap: 2, alignItems: 'center', flexWrap: 'wrap' }}>
              <Box sx={{ flex: 1, minWidth: 170 }}>
                <Box sx={{ fontWeight: 600 }}>{line.name}</Box>
                <Box sx={{ color: c.muted, fontSize: 14 }}>
                  stated {line.value} ± {line.tolerance} {unitLabel(line.unit)}
                </Box>
              </Box>
              <TextField
                size="small"
                label={`Read, ${unitLabel(line.unit)}`}
                value={read[line.key] ?? ''}
                onChange={(event) => setRead({ ...read, [line.key]: event.target.value })}
                slotProps={{
                  htmlInput: {
                    inputMode: 'decimal',
                    autoComplete: 'off',
                    maxLength: 20,
                    'aria-label': `${line.name}, read`,
                  },
                }}
                sx={{ width: 170 }}
              />
            </Box>
          ))}
          <Box>
            <Button type="submit" variant="contained" disabled={check.isPending}>
              Judge and keep
            </Button>
          </Box>
        </Box>
      )}
      {check.error && (
        <Box sx={{ mt: 1.5 }}>
          <Notice problem={check.error} />
        </Box>
      )}
      {check.data && <Result it={check.data} />}
    </Box>
  );
}

function Result({ it }: { it: Schema['InstrumentChecked'] }) {
  return (
    <Box role="status" sx={{ mt: 2, display: 'flex', gap: 2 }}>
      <Ring state={it.isGood ? 'pass' : 'fail'} size={40} />
      <Box>
        <Box sx={{ fontWeight: 700 }}>
          {it.isGood ? 'Within its tolerances' : 'Out of tolerance: it is barred'}
        </Box>
        {it.lines.map((line) => (
          <Box
            key={line.key}
            sx={{ color: line.isGood ? c.bark : c.fail, fontWeight: line.isGood ? 400 : 600 }}
          >
            {line.name} {line.read}, {line.allowed} allowed
            {line.isNear && ', near its end'}
          </Box>
        ))}
        {it.warnings.map((line) => (
          <Box key={line} sx={{ color: c.advice }}>
            {line}
          </Box>
        ))}
        {!it.isGood && (
          <Box sx={{ mt: 0.5 }}>
            {it.flagged === 0
              ? 'Nothing was saved with it since its last good check.'
              : `${it.flagged} ${it.flagged === 1 ? 'record' : 'records'} measured with it since its last good check ${it.flagged === 1 ? 'waits' : 'wait'} for a lead.`}{' '}
            Check again with fresh leads; if it stays out, it goes to calibration.
          </Box>
        )}
      </Box>
    </Box>
  );
}
