import { Box, Button, MenuItem, TextField } from '@mui/material';
import { api, ask, type Schema } from '../api/client';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { useChange, useRound } from './useRound';

type Offer = Schema['OfferedItems'];

/** What can be added at once, each with how much it is. */
export function AddItems() {
  const { round, mayPlan } = useRound();
  const add = useChange((it: Offer) =>
    ask(
      api.POST('/api/v1/rounds/{roundId}/items', {
        params: { path: { roundId: round.id } },
        body: { by: it.by, value: it.value ?? null, items: null },
      }),
    ),
  );
  if (!mayPlan) return null;
  const rules = round.offers.filter((it) => it.by !== 'room' && it.by !== 'kind' && it.count > 0);
  const pick = (by: 'room' | 'kind', label: string) => {
    const own = round.offers.filter((it) => it.by === by);
    return (
      own.length > 0 && (
        <TextField
          select
          size="small"
          label={label}
          value=""
          disabled={add.isPending}
          onChange={(event) => add.mutate(own.find((it) => it.value === event.target.value)!)}
          sx={{ minWidth: 150 }}
        >
          {own.map((it) => (
            <MenuItem key={it.value} value={it.value!}>
              {it.text}, {it.count}
            </MenuItem>
          ))}
        </TextField>
      )
    );
  };
  return (
    <Box component="section" aria-label="Add items" sx={{ mb: 2.5 }}>
      {!round.isPlanned && (
        <Box sx={{ color: c.bark, mb: 1 }}>
          Whatever is due at the site belongs to this round. Add something, and only what was added does.
        </Box>
      )}
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'center' }}>
        {rules.map((it) => (
          <Button
            key={it.by}
            size="small"
            variant="outlined"
            color="inherit"
            disabled={add.isPending}
            onClick={() => add.mutate(it)}
          >
            {it.text}: {it.count}
          </Button>
        ))}
        {pick('room', 'A whole room')}
        {pick('kind', 'A kind')}
      </Box>
      {add.error && <Notice problem={add.error} />}
    </Box>
  );
}
