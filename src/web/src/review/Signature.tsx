import { Box, Button, TextField, Typography } from '@mui/material';
import { useState } from 'react';
import { showMoment } from '../api/dates';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { type Review, useSign } from './useReview';

/** A lead's name under the round. It closes it; what came in while the page was open is not signed unseen. */
export function Signature({ page, isLead }: { page: Review; isLead: boolean }) {
  const sign = useSign(page);
  const [words, setWords] = useState('');
  const { signature, tally } = page;
  return (
    <Box component="section" aria-label="Sign the round">
      <Typography variant="h2">{signature ? 'Signed' : 'Sign the round'}</Typography>
      {signature ? (
        <Box sx={{ mt: 1 }}>
          <Box sx={{ fontWeight: 700, fontSize: 18 }}>{signature.by}</Box>
          <Box sx={{ color: c.bark }}>{showMoment(signature.at)}</Box>
          <Box sx={{ fontSize: 14.5, mt: 0.5 }}>
            Over {signature.records} {signature.records === 1 ? 'record' : 'records'}, the last of them number{' '}
            {signature.lastNumber}.
          </Box>
          {signature.isOwnWork && (
            <Box sx={{ fontSize: 14.5 }}>Some of it was the signer’s own work; the paper says so.</Box>
          )}
          {signature.words && <Box sx={{ mt: 0.5 }}>{signature.words}</Box>}
        </Box>
      ) : (
        <Box sx={{ display: 'grid', gap: 1.25, mt: 1 }}>
          <Box sx={{ fontSize: 14.5 }}>
            {page.total} {page.total === 1 ? 'record' : 'records'}. {tally.done} of {tally.planned} items done
            {tally.notTested > 0 && `, ${tally.notTested} not tested`}
            {tally.left > 0 && `, ${tally.left} left`}.
          </Box>
          {isLead && (
            <TextField
              label="A word under the round"
              multiline
              minRows={2}
              value={words}
              onChange={(event) => setWords(event.target.value)}
              helperText="It stands on the report."
              slotProps={{ htmlInput: { maxLength: 500 } }}
            />
          )}
          {page.whyNot && <Box sx={{ borderLeft: `4px solid ${c.bark}`, pl: 1.25 }}>{page.whyNot}</Box>}
          {isLead && (
            <Button
              variant="contained"
              disabled={page.whyNot != null || sign.isPending}
              onClick={() => sign.mutate(words)}
            >
              Sign and close the round
            </Button>
          )}
          <Box sx={{ color: c.muted, fontSize: 14 }}>
            Signing says that you looked at what asked for it. A closed round stays closed: a mistake found
            later is taken back in its own record, and papers say so.
          </Box>
          {sign.error && <Notice problem={sign.error} />}
        </Box>
      )}
    </Box>
  );
}
