import { Box, Button, Checkbox, FormControlLabel, MenuItem, TextField } from '@mui/material';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, type Schema } from '../api/client';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { KitLines } from './KitLines';
import { accuracyLine, numberOf, statedLine, type Line } from './lines';
import { isInstrument, isMain, kinds, oneOf } from './words';

type Details = Schema['KitDetails'];

const empty: Details = {
  kind: 'instrument',
  name: '',
  maker: null,
  model: null,
  serial: null,
  calibratedOn: null,
  calibrationDue: null,
  certificate: null,
  category: null,
  productStandard: null,
  nullsItself: true,
  accuracies: [],
  statedValues: [],
};

/** What a lead keeps of a thing: taking it in, and changing it. */
export function KitForm(props: {
  kept?: { id: string; details: Details };
  onDone: (id: string | null) => void;
}) {
  const queries = useQueryClient();
  const [it, setIt] = useState<Details>(props.kept?.details ?? empty);
  const [ranges, setRanges] = useState<Line[]>(() => it.accuracies.map(accuracyLine.of));
  const [stated, setStated] = useState<Line[]>(() => it.statedValues.map(statedLine.of));
  const set = (change: Partial<Details>) => setIt({ ...it, ...change });
  const send = useMutation({
    mutationFn: async () => {
      const body: Details = {
        ...it,
        accuracies: isInstrument(it.kind) ? ranges.map(accuracyLine.to) : [],
        statedValues: it.kind === 'checkBox' ? stated.map(statedLine.to) : [],
      };
      if (!props.kept) return (await ask(api.POST('/api/v1/kit', { body }))).id;
      await ask(api.POST('/api/v1/kit/{kitId}', { params: { path: { kitId: props.kept.id } }, body }));
      return null;
    },
    onSuccess: (id) => {
      void queries.invalidateQueries({ queryKey: ['kit'] });
      props.onDone(id);
    },
  });
  const text = (
    label: string,
    key: 'name' | 'maker' | 'model' | 'serial' | 'certificate' | 'productStandard',
  ) => (
    <TextField
      size="small"
      label={label}
      value={it[key] ?? ''}
      required={key === 'name'}
      onChange={(event) => set({ [key]: event.target.value || (key === 'name' ? '' : null) })}
      slotProps={{ htmlInput: { maxLength: 60 } }}
      sx={{ flex: '1 1 170px' }}
    />
  );
  const day = (label: string, key: 'calibratedOn' | 'calibrationDue') => (
    <TextField
      size="small"
      type="date"
      label={label}
      value={it[key] ?? ''}
      onChange={(event) => set({ [key]: event.target.value || null })}
      slotProps={{ inputLabel: { shrink: true } }}
      sx={{ flex: '0 1 180px' }}
    />
  );
  const isWhole = [...(isInstrument(it.kind) ? ranges : []), ...(it.kind === 'checkBox' ? stated : [])].every(
    (line) =>
      Object.entries(line.figures).every(
        ([key, figure]) => line.isFree.includes(key) || numberOf(figure) !== null,
      ),
  );
  return (
    <Box
      component="form"
      aria-label={props.kept ? 'Change it' : 'Take something in'}
      onSubmit={(event) => {
        event.preventDefault();
        send.mutate();
      }}
      sx={{ mt: 2, p: 2, border: `1px solid ${c.line}`, borderRadius: '6px', display: 'grid', gap: 1.75 }}
    >
      <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap' }}>
        <TextField
          select
          size="small"
          label="What it is"
          value={it.kind}
          disabled={!!props.kept}
          onChange={(event) => set({ kind: event.target.value as Details['kind'] })}
          sx={{ flex: '0 1 190px' }}
        >
          {kinds.map(({ kind }) => (
            <MenuItem key={kind} value={kind}>
              {oneOf(kind)}
            </MenuItem>
          ))}
        </TextField>
        {text('Name, as on records', 'name')}
        {text('Maker', 'maker')}
        {text('Model', 'model')}
        {text('Serial', 'serial')}
      </Box>
      <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap' }}>
        {day('Calibrated on', 'calibratedOn')}
        {day('Calibration due', 'calibrationDue')}
        {text('Certificate', 'certificate')}
        <TextField
          select
          size="small"
          label="Category marked"
          value={it.category ?? ''}
          onChange={(event) => set({ category: (event.target.value || null) as Details['category'] })}
          sx={{ flex: '0 1 180px' }}
        >
          <MenuItem value="">none legible</MenuItem>
          <MenuItem value="II">II, appliances</MenuItem>
          <MenuItem value="III">III, boards and outlets</MenuItem>
          <MenuItem value="IV">IV, origin of a supply</MenuItem>
        </TextField>
        {text('Product standard', 'productStandard')}
      </Box>
      {isInstrument(it.kind) && (
        <>
          {isMain(it.kind) && (
            <FormControlLabel
              control={
                <Checkbox
                  checked={it.nullsItself}
                  onChange={(event) => set({ nullsItself: event.target.checked })}
                />
              }
              label="It takes the lead’s null off by itself: its display shows the net figure"
            />
          )}
          <KitLines
            title="What its maker states, by test and range"
            kind={accuracyLine}
            lines={ranges}
            onChange={setRanges}
          />
        </>
      )}
      {it.kind === 'checkBox' && (
        <KitLines
          title="What it states, terminal by terminal"
          kind={statedLine}
          lines={stated}
          onChange={setStated}
        />
      )}
      {send.error && <Notice problem={send.error} />}
      <Box sx={{ display: 'flex', gap: 1.5 }}>
        <Button type="submit" variant="contained" disabled={send.isPending || !it.name.trim() || !isWhole}>
          {props.kept ? 'Keep the change' : 'Take it in'}
        </Button>
        <Button color="inherit" onClick={() => props.onDone(null)}>
          Leave it
        </Button>
      </Box>
    </Box>
  );
}
