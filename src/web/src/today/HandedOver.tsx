import { Box, Button, Typography } from '@mui/material';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useNavigate } from 'react-router';
import { api, ask, Problem, type Schema } from '../api/client';
import { showDate } from '../api/dates';
import { freshRuling } from '../bench/benchRun';
import { hasWork, newDraft, readDraft, storeDraft } from '../bench/drafts';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { useMe } from '../people/SignedIn';

type Handed = Schema['HandedCard'];

/** Run sheets that another bench handed over and nobody has ended. One that this device holds already is among "Left on the bench". */
export function HandedOver() {
  const me = useMe();
  const page = useQuery({
    queryKey: ['handed-over', me.id],
    queryFn: async () => {
      const all = await ask(api.GET('/api/v1/bench/handed-over'));
      const kept = await Promise.all(all.map((it) => readDraft(me.id, it.roundId, it.itemId)));
      return all.filter(
        (it, i) => !kept[i]?.events.some((event) => event.kind === 'takenOver' && event.handOver === it.id),
      );
    },
    staleTime: 0,
  });
  if (!page.data || page.data.length === 0) return null;
  return (
    <Box component="section" aria-label="Handed over" sx={{ mt: 2 }}>
      <Typography variant="h2">Handed over</Typography>
      {page.data.map((it) => (
        <One key={it.id} it={it} />
      ))}
    </Box>
  );
}

function One({ it }: { it: Handed }) {
  const me = useMe();
  const navigate = useNavigate();
  const queries = useQueryClient();
  const take = useMutation({
    mutationFn: () => takeOver(it, me.id),
    onSuccess: () => navigate(`/rounds/${it.roundId}/bench/${it.itemId}`),
    onError: () => queries.invalidateQueries({ queryKey: ['handed-over'] }),
  });
  const leave = useMutation({
    mutationFn: () => leaveToLead(it, take.error!.message),
    onSettled: () => queries.invalidateQueries({ queryKey: ['handed-over'] }),
  });
  // Its round was closed or the item scrapped meanwhile: nobody can go on with it, and it must not lie here for ever.
  const isStranded = take.error instanceof Problem && [404, 422].includes(take.error.status);
  return (
    <Box
      sx={{ borderLeft: `4px solid ${it.failures.length > 0 ? c.fail : c.line}`, pl: 1.5, py: 0.5, mt: 1 }}
    >
      <Box sx={{ fontWeight: 700 }}>
        {it.tag} {it.name}
      </Box>
      <Box sx={{ fontSize: 14.5 }}>{it.words}</Box>
      {it.failures.map((line) => (
        <Box key={line} sx={{ fontSize: 14.5, color: c.fail }}>
          {line}
        </Box>
      ))}
      <Box sx={{ color: c.muted, fontSize: 14 }}>
        {it.isMine ? 'taken over by you, not ended; from ' : ''}
        {it.person}, {showDate(it.at)}
        {it.takenBy && `; ${it.takenBy} has it and has not ended it`}
      </Box>
      <Button
        variant="outlined"
        size="small"
        sx={{ mt: 0.75 }}
        disabled={take.isPending}
        onClick={() => take.mutate()}
      >
        Take {it.tag} {it.takenBy ? `from ${it.takenBy}` : 'over'}
      </Button>
      {take.error && <Notice problem={take.error} />}
      {isStranded && (
        <Button size="small" color="inherit" disabled={leave.isPending} onClick={() => leave.mutate()}>
          Leave it to the lead’s review
        </Button>
      )}
      {leave.error && <Notice problem={leave.error} />}
    </Box>
  );
}

/** The sheet comes to this device, whole; a sheet of one's own of the same item is ended first, as they would be one. */
async function takeOver(it: Handed, personId: string): Promise<void> {
  const own = await readDraft(personId, it.roundId, it.itemId);
  if (own && hasWork(own.events))
    throw new Error(
      `You have a half-done sheet of ${it.tag} yourself. Save or discard it, then take this one over.`,
    );
  // Asked first: an item that cannot be laid on the bench is not taken from where it is.
  const ruling = await freshRuling(it.itemId, it.roundId);
  await storeDraft({ ...newDraft(personId, ruling), events: await fetchEvents(it), parked: true });
}

const fetchEvents = async (it: Handed) =>
  (await ask(api.POST('/api/v1/bench/handed-over/{id}/take', { params: { path: { id: it.id } } }))).events;

/** Kept whole at the server, as every sheet that ends without a record. */
async function leaveToLead(it: Handed, why: string): Promise<void> {
  const events = await fetchEvents(it);
  await ask(
    api.POST('/api/v1/bench/{itemId}/discard', {
      params: { path: { itemId: it.itemId } },
      body: { id: crypto.randomUUID(), roundId: it.roundId, events, reason: `handed over, and ${why}` },
    }),
  );
}
