import { Box, Button, MenuItem, TextField, Typography } from '@mui/material';
import { useState } from 'react';
import type { Schema } from '../api/client';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { keepMedium, keptMedium, usePrint } from './useLabels';

/** What lies in the printer, where the first label goes, and why one is printed once more. */
export function PrintLabels(props: {
  chosen: readonly string[];
  media: readonly Schema['MediumCard'][];
  reasons: readonly string[];
  needsReason: boolean;
  onPrinted: () => void;
}) {
  const { chosen, media } = props;
  const [id, setId] = useState(() => crypto.randomUUID());
  const [kept, setKept] = useState(keptMedium);
  const medium = media.find((it) => it.medium === kept) ?? media[0]!;
  const [used, setUsed] = useState('');
  const [reason, setReason] = useState('');
  const print = usePrint();
  const empty = Number(used || 0);
  const isPlace = Number.isInteger(empty) && empty >= 0 && empty < medium.places;
  const pages = Math.ceil((chosen.length + (isPlace ? empty : 0)) / medium.places);
  return (
    <Box
      component="form"
      aria-label="Print"
      onSubmit={(event) => {
        event.preventDefault();
        print.mutate(
          {
            id,
            inspections: [...chosen],
            medium: medium.medium,
            used: empty,
            reason: props.needsReason ? reason : null,
          },
          {
            onSuccess: () => {
              setId(crypto.randomUUID());
              setReason('');
              props.onPrinted();
            },
          },
        );
      }}
      sx={{ display: 'grid', gap: 1.5 }}
    >
      <Typography variant="h2">Print</Typography>
      <TextField
        select
        label="In the printer"
        value={medium.medium}
        onChange={(event) => {
          keepMedium(event.target.value);
          setKept(event.target.value);
        }}
      >
        {media.map((it) => (
          <MenuItem key={it.medium} value={it.medium}>
            {it.name}
          </MenuItem>
        ))}
      </TextField>
      {medium.places > 1 && (
        <TextField
          label="Labels used up on the first sheet"
          value={used}
          error={!isPlace}
          helperText={isPlace ? 'From the top left, row by row.' : `Between 0 and ${medium.places - 1}.`}
          onChange={(event) => setUsed(event.target.value.trim())}
          slotProps={{ htmlInput: { inputMode: 'numeric', maxLength: 3 } }}
        />
      )}
      {props.needsReason && (
        <>
          <TextField
            required
            label="Why once more"
            value={reason}
            onChange={(event) => setReason(event.target.value)}
            helperText="Two labels of one item are one too many: take the old one off."
            slotProps={{ htmlInput: { maxLength: 200 } }}
          />
          <Box sx={{ display: 'flex', gap: 0.5, flexWrap: 'wrap' }}>
            {props.reasons.map((it) => (
              <Button key={it} size="small" color="inherit" variant="outlined" onClick={() => setReason(it)}>
                {it}
              </Button>
            ))}
          </Box>
        </>
      )}
      <Button
        type="submit"
        variant="contained"
        disabled={
          chosen.length === 0 || !isPlace || print.isPending || (props.needsReason && reason.trim() === '')
        }
      >
        {chosen.length === 1 ? 'Print one label' : `Print ${chosen.length} labels`}
      </Button>
      <Box sx={{ color: c.muted, fontSize: 14 }}>
        {chosen.length > 0 &&
          (medium.places === 1
            ? 'At true size, one a page. Print without scaling.'
            : `${pages} ${pages === 1 ? 'sheet' : 'sheets'}, at true size. Print without scaling.`)}
      </Box>
      {print.error && <Notice problem={print.error} />}
    </Box>
  );
}
