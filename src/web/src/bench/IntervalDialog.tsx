import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, TextField } from '@mui/material';
import { useId, useState } from 'react';
import { showDate } from '../api/dates';
import { c } from '../design/tokens';
import { useRun, useShown } from './useBench';
import { OnOffer } from './OnOffer';

/** When it comes back: as computed, with its reasons, or otherwise with a reason of one's own. What may be chosen comes from the rules. */
export function IntervalDialog({ onClose }: { onClose: () => void }) {
  const id = useId();
  const run = useRun();
  const card = useShown((shown) => shown.now.interval);
  const phrases = useShown(({ sheet }) => sheet.phrases);
  const [months, setMonths] = useState(card?.months ?? 0);
  const [reason, setReason] = useState(card?.reason ?? '');
  if (!card) return null;
  const offered = months > card.computedMonths ? phrases.longerIntervals : phrases.shorterIntervals;
  const isComputed = months === card.computedMonths;
  const isReady = isComputed || reason.trim() !== '';
  const take = () => {
    if (!isReady) return;
    onClose();
    void run
      .happen({
        kind: 'intervalChosen',
        months: isComputed ? null : months,
        reason: isComputed ? null : reason.trim(),
      })
      .catch(() => {});
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby={id}>
      <Box
        component="form"
        onSubmit={(event) => {
          event.preventDefault();
          take();
        }}
      >
        <DialogTitle id={id}>
          {card.tier} in
          <Box sx={{ fontSize: 15, fontWeight: 400, color: c.bark }}>
            Computed: {card.computed}, because {card.because.join('; ')}
          </Box>
        </DialogTitle>
        <DialogContent sx={{ display: 'grid', gap: 2, pt: '8px !important' }}>
          <Box
            role="radiogroup"
            aria-label={card.tier}
            sx={{ display: 'grid', gap: 1, gridTemplateColumns: { xs: '1fr 1fr', sm: 'repeat(3, 1fr)' } }}
          >
            {card.steps.map((step) => (
              <Button
                key={step.months}
                role="radio"
                aria-checked={months === step.months}
                variant={months === step.months ? 'contained' : 'outlined'}
                color="inherit"
                disabled={step.whyNot !== null}
                onClick={() => setMonths(step.months)}
                sx={{ flexDirection: 'column', lineHeight: 1.3, minHeight: 56 }}
              >
                <span>{step.text}</span>
                <Box component="span" sx={{ fontSize: 13 }}>
                  {step.months === card.computedMonths ? 'computed' : showDate(step.due)}
                </Box>
              </Button>
            ))}
          </Box>
          <Box sx={{ color: c.muted, fontSize: 14.5 }}>
            {[...new Set(card.steps.map((step) => step.whyNot))].map((why) => (
              <div key={why}>{why}</div>
            ))}
          </Box>
          {!isComputed && (
            <>
              <OnOffer phrases={offered} chosen={reason} onChoose={setReason} />
              <TextField
                fullWidth
                label="Why then; it stays with the date"
                value={reason}
                onChange={(event) => setReason(event.target.value)}
                slotProps={{ htmlInput: { maxLength: 300, autoComplete: 'off' } }}
              />
            </>
          )}
        </DialogContent>
        <DialogActions>
          <Button color="inherit" onClick={onClose}>
            Cancel
          </Button>
          <Button type="submit" variant="contained" disabled={!isReady}>
            {isComputed ? 'As computed' : 'Take this one'}
          </Button>
        </DialogActions>
      </Box>
    </Dialog>
  );
}
