import { Box, Button, TextField } from '@mui/material';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask } from '../api/client';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import type { Procedure } from './editing';

/** What the procedure would make of a device's run sheet, before anybody runs it. */
export function TryOn({ procedure }: { procedure: Procedure }) {
  const [tag, setTag] = useState('');
  const tried = useMutation({
    mutationFn: () => ask(api.POST('/api/v1/procedures/try', { body: { procedure, tag: tag.trim() } })),
  });
  const preview = tried.data?.preview;
  return (
    <Box sx={{ borderTop: `1px solid ${c.line}`, pt: 2, display: 'grid', gap: 1 }}>
      <Box sx={{ display: 'flex', gap: 1 }}>
        <TextField
          size="small"
          sx={{ flex: 1 }}
          label="Try it on a device: its tag"
          value={tag}
          onChange={(event) => setTag(event.target.value)}
          onKeyDown={(event) => {
            if (event.key !== 'Enter') return;
            event.preventDefault();
            if (tag.trim()) tried.mutate();
          }}
          slotProps={{ htmlInput: { maxLength: 100, autoComplete: 'off' } }}
        />
        <Button variant="outlined" color="inherit" disabled={!tag.trim()} onClick={() => tried.mutate()}>
          Try
        </Button>
      </Box>
      {tried.error && <Notice problem={tried.error} />}
      {preview && (
        <Box role="status">
          <strong>{tried.data?.device}</strong>
          {preview.refusal ? (
            <Box sx={{ color: c.fail }}>{preview.refusal}</Box>
          ) : (
            <Box component="ol" sx={{ m: 0, mt: 0.5, pl: 2.75, fontSize: 14.5 }}>
              {preview.steps.map((step) => (
                <li key={step.name + step.detail}>
                  {step.name}
                  <Box component="span" sx={{ color: c.muted }}>
                    {[step.detail, step.limit].filter(Boolean).map((it) => ` · ${it}`)}
                  </Box>
                </li>
              ))}
            </Box>
          )}
          {preview.remarks.map((line) => (
            <Box key={line} sx={{ color: c.advice, fontSize: 14.5, mt: 0.5 }}>
              {line}
            </Box>
          ))}
        </Box>
      )}
    </Box>
  );
}
