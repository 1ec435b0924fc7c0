import { Box, Button, Checkbox, FormControlLabel, TextField } from '@mui/material';
import { useRef, useState } from 'react';
import { c } from '../design/tokens';
import { useDesk } from './desk';
import { useRun, useShown } from './useBench';
import { amountOf } from '../frame/amount';

const number = (text: string) => (text.trim() === '' ? NaN : amountOf(text));

/** The outlet that is to power the item: one that was found good today, or its voltages, all on one line. What they say is Core's. */
export function OutletWork() {
  const outlet = useShown(({ now }) => now.outlet ?? null);
  const run = useRun();
  const desk = useDesk();
  if (!outlet) return null;
  return (
    <Box
      onClick={(event) => event.stopPropagation()}
      sx={{ gridColumn: { xs: '1 / -1', lg: '2 / -1' }, mt: 1.25, display: 'grid', gap: 1.5 }}
    >
      {outlet.offered.length > 0 && (
        <Box
          role="group"
          aria-label="Found good today"
          sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'center' }}
        >
          <Box sx={{ color: c.bark, fontSize: 14.5 }}>Found good today:</Box>
          {outlet.offered.map((it, at) => (
            <Button
              key={it.id}
              id={at === 0 ? 'outlet-kept' : undefined}
              size="small"
              variant="outlined"
              color="inherit"
              onClick={() => {
                void run.happen({ kind: 'outletKept', outlet: it.id }).catch(() => {});
                desk.choose(null);
              }}
            >
              {it.text}
            </Button>
          ))}
        </Box>
      )}
      <Measured key={outlet.room} pairs={outlet.pairs} room={outlet.room} />
    </Box>
  );
}

function Measured({ pairs, room }: { pairs: readonly string[]; room: string }) {
  const run = useRun();
  const desk = useDesk();
  const [name, setName] = useState('');
  const [isWorkbench, setIsWorkbench] = useState(false);
  const [volts, setVolts] = useState<Record<string, string>>({});
  const form = useRef<HTMLFormElement>(null);
  const isWhole = name.trim() !== '' && pairs.every((pair) => number(volts[pair] ?? '') >= 0);
  const take = async () => {
    if (!isWhole) return;
    const judged = run.happen({
      kind: 'outletChecked',
      name: name.trim(),
      room,
      isWorkbench,
      voltages: pairs.map((pair) => ({ pair, volts: number(volts[pair] ?? '') })),
    });
    setVolts({});
    // The next outlet is another one: figures under a name that was left standing would be believed of the wrong one.
    setName('');
    setIsWorkbench(false);
    (document.activeElement as HTMLElement | null)?.blur();
    await judged.catch(() => {});
    desk.choose(null);
  };
  /** Enter goes to the next empty field, and from the last one on. */
  const onward = () => {
    const fields = [
      ...(form.current?.querySelectorAll<HTMLInputElement>('input:not([type=checkbox])') ?? []),
    ];
    const open = fields.find((it) => it.value.trim() === '');
    if (open) open.focus();
    else void take();
  };
  return (
    <Box
      component="form"
      ref={form}
      onSubmit={(event) => {
        event.preventDefault();
        void take();
      }}
      // Not left to the form: while something is missing its button is off, and Enter would do nothing.
      onKeyDown={(event) => {
        if (event.key !== 'Enter' || (event.target as HTMLElement).tagName !== 'INPUT') return;
        event.preventDefault();
        if (!event.repeat) onward();
      }}
      sx={{ display: 'flex', gap: 1.25, flexWrap: 'wrap', alignItems: 'center' }}
    >
      {pairs.map((pair, at) => (
        <TextField
          key={pair}
          id={at === 0 ? 'reading' : undefined}
          size="small"
          label={`${pair}, V`}
          value={volts[pair] ?? ''}
          onChange={(event) => setVolts({ ...volts, [pair]: event.target.value })}
          error={(volts[pair] ?? '') !== '' && !(number(volts[pair] ?? '') >= 0)}
          sx={{ width: 104 }}
          slotProps={{ htmlInput: { inputMode: 'decimal', autoComplete: 'off' } }}
        />
      ))}
      <TextField
        size="small"
        label="Which outlet"
        placeholder="by the window"
        value={name}
        onChange={(event) => setName(event.target.value)}
        sx={{ flex: '1 1 180px' }}
        slotProps={{ htmlInput: { maxLength: 120, autoComplete: 'off' } }}
      />
      <FormControlLabel
        control={
          <Checkbox checked={isWorkbench} onChange={(event) => setIsWorkbench(event.target.checked)} />
        }
        label="items are brought to it"
      />
      <Button type="submit" variant="contained" disabled={!isWhole}>
        Judge it
      </Button>
    </Box>
  );
}

/** What stands at the outlet's line while it is not worked at. */
export function OutletSummary() {
  const outlet = useShown(({ now }) => now.outlet ?? null);
  if (!outlet) return null;
  if (outlet.trouble)
    return (
      <Box role="alert" sx={{ color: c.fail, fontWeight: 600, fontSize: 14.5 }}>
        {outlet.trouble}
      </Box>
    );
  return (
    <Box sx={{ color: c.bark, fontSize: 14.5 }}>
      {outlet.inUse ?? `${outlet.pairs.join(', ')}: before anything is powered from it`}
    </Box>
  );
}
