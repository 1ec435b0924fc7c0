import { Box, Button, Typography } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import {
  foreignDrafts,
  openDrafts,
  removeUnreadable,
  type Unreadable,
  unreadableDrafts,
} from '../bench/drafts';
import { Ring } from '../design/Ring';
import { c } from '../design/tokens';
import { useMe } from '../people/SignedIn';

/** Half-done run sheets of this device: nothing is lost, and this says so. */
export function LeftOnBench() {
  const me = useMe();
  const kept = useQuery({
    queryKey: ['drafts', me.id],
    queryFn: async () => ({
      mine: await openDrafts(me.id),
      others: await foreignDrafts(me.id),
      unreadable: await unreadableDrafts(me.id),
    }),
    staleTime: 0,
    networkMode: 'always',
  });
  const drafts = kept.data?.mine ?? [];
  const others = kept.data?.others ?? 0;
  const unreadable = kept.data?.unreadable ?? [];
  if (drafts.length === 0 && others === 0 && unreadable.length === 0) return null;
  return (
    <Box sx={{ mt: 2 }}>
      {drafts.length + unreadable.length > 0 && <Typography variant="h2">Left on the bench</Typography>}
      {unreadable.map((it) => (
        <CannotBeRead key={it.id} it={it} onRemoved={() => void kept.refetch()} />
      ))}
      {others > 0 && (
        <Box sx={{ color: c.muted, fontSize: 14, py: 1 }}>
          {others} half-done {others === 1 ? 'sheet' : 'sheets'} of somebody else on this device; kept for
          them.
        </Box>
      )}
      {drafts.map((draft) => (
        <Box
          key={draft.key}
          component={Link}
          to={`/rounds/${draft.roundId}/bench/${draft.itemId}`}
          sx={{
            display: 'flex',
            gap: 1.5,
            py: 1.25,
            color: 'inherit',
            textDecoration: 'none',
            borderBottom: `1px solid ${c.line}`,
            '&:hover': { bgcolor: c.surface },
          }}
        >
          <Ring state="running" progress={0.4} size={24} />
          <span>
            <strong>{draft.tag}</strong> {draft.name}
            {draft.parked && <Box sx={{ color: c.muted, fontSize: 13.5 }}>parked</Box>}
          </span>
        </Box>
      ))}
    </Box>
  );
}

/** Broken on this device, or written by another version: nobody can say what it holds, so a person decides what becomes of it. */
function CannotBeRead({ it, onRemoved }: { it: Unreadable; onRemoved: () => void }) {
  const [isRemoving, setIsRemoving] = useState(false);
  const href = `data:application/json;charset=utf-8,${encodeURIComponent(JSON.stringify(it.kept))}`;
  return (
    <Box sx={{ borderLeft: `4px solid ${c.fail}`, pl: 1.5, py: 0.5, mt: 1, fontSize: 14.5 }}>
      <Link to={`/register/${it.itemId}`} style={{ color: 'inherit', fontWeight: 700 }}>
        {it.tag || 'An item'}
      </Link>
      <Box>
        A half-done sheet of it cannot be read. Whatever it held is not known any more: look at the item and
        test it anew.
      </Box>
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', mt: 0.75 }}>
        <Button
          component="a"
          variant="outlined"
          color="inherit"
          size="small"
          href={href}
          download={`sheet-${it.tag || 'unreadable'}.json`}
        >
          Keep it as a file
        </Button>
        {isRemoving ? (
          <Button
            variant="outlined"
            color="error"
            size="small"
            onClick={() => void removeUnreadable(it.id).then(onRemoved)}
          >
            Remove it from this device
          </Button>
        ) : (
          <Button color="inherit" size="small" onClick={() => setIsRemoving(true)}>
            Remove it
          </Button>
        )}
      </Box>
    </Box>
  );
}
