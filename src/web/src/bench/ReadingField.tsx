import { Box } from '@mui/material';
import { useState } from 'react';
import { c } from '../design/tokens';
import { useDesk } from './desk';
import type { Step } from './types';
import { useRun, useShown } from './useBench';

/** Typed text by step, so that another row drawn in between loses nothing. */
const kept = new Map<string, string>();

/** Takes a typed reading with its sign and unit: 0.08, >500M, 0.31mA. What is not understood stays in the field with the reason. */
export function ReadingField({ step, point }: { step: Step; point: string | null }) {
  const asksStanding = useShown(({ now }) => now.steps.find((it) => it.key === step.key)?.asksStanding);
  const run = useRun();
  const desk = useDesk();
  const place = `${run.key}/${step.key}`;
  const [text, setText] = useState(() => kept.get(place) ?? '');
  const [fault, setFault] = useState<string | null>(null);
  const change = (to: string) => {
    kept.set(place, to);
    setText(to);
    setFault(null);
  };
  const accept = async () => {
    const typed = text.trim();
    if (!typed) return;
    const refused = await run.faultOf(step.key, typed);
    if (refused !== null) return setFault(refused);
    // Kept as an event before the field lets go of it.
    const said = asksStanding ? [{ kind: 'standingSaid', isIsolated: true } as const] : [];
    const judged = run.happen(...said, {
      kind: 'read',
      step: step.key,
      source: 'typed',
      text: typed,
      switchedOn: true,
      point,
    });
    kept.delete(place);
    setText('');
    desk.setProbe(null);
    desk.choose(null);
    (document.activeElement as HTMLElement | null)?.blur();
    await judged.catch(() => {});
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
          inputMode="text"
          value={text}
          onChange={(event: React.ChangeEvent<HTMLInputElement>) => change(event.target.value)}
          onKeyDown={(event: React.KeyboardEvent) => {
            if (event.key === 'Enter' && !event.repeat) {
              event.preventDefault();
              void accept();
            } else if (event.key === 'Escape') {
              change('');
              (event.target as HTMLElement).blur();
            }
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
            border: `2px solid ${fault ? c.fail : c.edge}`,
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
