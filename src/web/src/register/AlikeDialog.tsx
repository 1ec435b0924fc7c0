import { Box, Button, Checkbox, Dialog, DialogActions, DialogContent, DialogTitle } from '@mui/material';
import { useState } from 'react';
import { api, ask, Problem, type Schema } from '../api/client';
import { c } from '../design/tokens';

export interface Offer {
  changes: Schema['FactChanges'];
  items: readonly Schema['AlikeItem'][];
  reason: string;
}

/** A correction that may hold for the others of the model: chosen by a person, device by device. */
export function AlikeDialog({ tag, offer, onClose }: { tag: string; offer: Offer; onClose: () => void }) {
  const [left, setLeft] = useState(offer.items);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [refused, setRefused] = useState<readonly string[]>([]);
  const [isBusy, setIsBusy] = useState(false);
  const correct = async () => {
    setIsBusy(true);
    const troubles: string[] = [];
    const done = new Set<string>();
    for (const item of left.filter((it) => chosen.has(it.id))) {
      try {
        await ask(
          api.POST('/api/v1/register/{itemId}/facts', {
            params: { path: { itemId: item.id } },
            body: {
              revision: item.revision,
              changes: offer.changes,
              reason: `As on ${tag}: ${offer.reason}`.slice(0, 500),
            },
          }),
        );
        done.add(item.id);
      } catch (problem) {
        troubles.push(`${item.tag}: ${problem instanceof Problem ? problem.detail : 'not changed'}`);
      }
    }
    setIsBusy(false);
    if (troubles.length === 0) return onClose();
    setLeft(left.filter((it) => !done.has(it.id)));
    setChosen(new Set([...chosen].filter((id) => !done.has(id))));
    setRefused(troubles);
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="alike">
      <DialogTitle id="alike">Others of this model</DialogTitle>
      <DialogContent>
        <Box sx={{ mb: 1.5 }}>
          What was corrected on {tag} is said of {left.length === 1 ? 'one other' : `${left.length} others`}{' '}
          otherwise. Tick those whose plate you know to say the same.{' '}
          {left.length > 1 && (
            <Button size="small" color="inherit" onClick={() => setChosen(new Set(left.map((it) => it.id)))}>
              I know all of them
            </Button>
          )}
        </Box>
        {left.map((it) => (
          <Box
            key={it.id}
            component="label"
            sx={{
              display: 'grid',
              gridTemplateColumns: '44px minmax(0, 1fr)',
              borderTop: `1px solid ${c.line}`,
              py: 0.75,
              cursor: 'pointer',
            }}
          >
            <Checkbox
              checked={chosen.has(it.id)}
              onChange={(_, is) =>
                setChosen((now) => {
                  const next = new Set(now);
                  if (is) next.add(it.id);
                  else next.delete(it.id);
                  return next;
                })
              }
            />
            <Box>
              <strong>{it.tag}</strong>{' '}
              <Box component="span" sx={{ color: c.muted }}>
                {it.where}
              </Box>
              {it.lines.map((line) => (
                <Box key={line} sx={{ fontSize: 14.5 }}>
                  {line}
                </Box>
              ))}
            </Box>
          </Box>
        ))}
        {refused.length > 0 && (
          <Box role="alert" sx={{ color: c.fail, mt: 1.5 }}>
            Not changed:
            {refused.map((line) => (
              <Box key={line}>{line}</Box>
            ))}
          </Box>
        )}
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={onClose}>
          Leave them
        </Button>
        <Button variant="contained" disabled={isBusy || chosen.size === 0} onClick={() => void correct()}>
          Correct {chosen.size === left.length ? (left.length === 1 ? 'it' : 'all') : chosen.size} too
        </Button>
      </DialogActions>
    </Dialog>
  );
}
