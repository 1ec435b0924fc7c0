import { Box } from '@mui/material';
import { useState } from 'react';
import type { Schema } from '../api/client';
import { c } from '../design/tokens';
import { announceScan } from '../frame/scanner';
import { readingRhythm } from './benchKeys';
import type { BenchRun } from './run';

/** Takes a typed reading with its sign and unit: 0.08, >299M, 0.31mA. What is not understood stays in the field with the reason. */
export function ReadingField({ run, step }: { run: BenchRun; step: Schema['StepCard'] }) {
  const { typed: text, setTyped: setText } = run;
  const [fault, setFault] = useState<string | null>(null);
  const accept = async () => {
    if (readingRhythm.wasScan) {
      setText('');
      announceScan(text);
      return;
    }
    setText('');
    const refused = await run.type(step, text);
    setFault(refused);
    if (refused !== null) setText((since) => since || text);
    else if (!(document.activeElement instanceof HTMLInputElement && document.activeElement.value)) {
      (document.activeElement as HTMLElement | null)?.blur();
      document.dispatchEvent(new Event('osierwand:settle'));
    }
  };
  return (
    <Box sx={{ maxWidth: 190 }}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.75, justifyContent: 'flex-end' }}>
        <Box
          component="input"
          id="reading"
          aria-label={`Reading of ${step.name} in ${step.unit}`}
          aria-invalid={fault !== null}
          autoComplete="off"
          autoFocus={!step.measurable || text !== ''}
          value={text}
          onChange={(event: React.ChangeEvent<HTMLInputElement>) => {
            setText(event.target.value);
            setFault(null);
          }}
          onKeyDown={(event: React.KeyboardEvent) => {
            if (event.key === 'Enter') {
              event.preventDefault();
              if (text.trim()) void accept();
            } else if (event.key === 'Escape') {
              setText('');
              (event.target as HTMLElement).blur();
              document.dispatchEvent(new Event('osierwand:settle'));
            } else if (event.key.length === 1) readingRhythm.key(event.timeStamp);
          }}
          sx={{
            width: 104,
            height: 44,
            px: 1,
            font: 'inherit',
            fontSize: 19,
            textAlign: 'right',
            color: c.ink,
            bgcolor: c.raised,
            border: `2px solid ${fault ? c.fail : c.line}`,
            borderRadius: '6px',
            '&:focus': { outline: 'none', borderColor: fault ? c.fail : c.slate },
          }}
        />
        <Box sx={{ color: c.bark, minWidth: 30, textAlign: 'left' }}>{step.unit}</Box>
      </Box>
      {fault && (
        <Box role="alert" sx={{ color: c.fail, fontSize: 13.5, mt: 0.5, textAlign: 'left' }}>
          {fault}
        </Box>
      )}
    </Box>
  );
}
