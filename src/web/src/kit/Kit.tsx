import { Box, Button, Typography } from '@mui/material';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { api, ask, type Schema } from '../api/client';
import { showDate, showTime } from '../api/dates';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { usePageTitle } from '../frame/usePageTitle';
import { Waiting } from '../frame/Waiting';
import { useMe } from '../people/SignedIn';
import { KitForm } from './KitForm';
import { KitRow } from './KitRow';
import { isMain, isSingle, kinds } from './words';

type Card = Schema['KitCard'];

/** What there is to measure with, whether it may be used, and the choice for the day. */
export default function Kit() {
  usePageTitle('Kit');
  const isLead = useMe().role === 'lead';
  const navigate = useNavigate();
  const [adding, setAdding] = useState(false);
  const page = useQuery({ queryKey: ['kit'], queryFn: () => ask(api.GET('/api/v1/kit')), staleTime: 0 });
  if (page.error && !page.data)
    return (
      <Box sx={{ p: 3 }}>
        <Notice problem={page.error} onAgain={() => void page.refetch()} />
      </Box>
    );
  if (!page.data) return <Waiting what="Opening the case" />;
  return (
    <Box sx={{ p: { xs: 2, md: 3 }, maxWidth: 1180, width: '100%' }}>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'baseline', flexWrap: 'wrap' }}>
        <Typography variant="h1" sx={{ flex: 1 }}>
          Kit
        </Typography>
        {isLead && (
          <Button
            variant="outlined"
            color="inherit"
            onClick={() => setAdding(!adding)}
            aria-expanded={adding}
          >
            Take something in
          </Button>
        )}
      </Box>
      {adding && (
        <KitForm
          onDone={(id) => {
            setAdding(false);
            if (id) void navigate(`/kit/${id}`);
          }}
        />
      )}
      <Choosing page={page.data} />
    </Box>
  );
}

/** The list with a mark before each thing that is taken along; nothing is chosen before it is said. */
function Choosing({ page }: { page: Schema['KitPage'] }) {
  const queries = useQueryClient();
  const { items, until, last } = page;
  const start = items.filter((it) => (until ? it.isToday : last.includes(it.id)) && !it.trouble);
  const [marked, setMarked] = useState<ReadonlySet<string>>(() => new Set(start.map((it) => it.id)));
  const choose = useMutation({
    mutationFn: () => ask(api.POST('/api/v1/kit/today', { body: { items: [...marked] } })),
    onSettled: () => {
      void queries.invalidateQueries({ queryKey: ['kit'] });
      void queries.invalidateQueries({ queryKey: ['today'] });
    },
  });
  const mark = (it: Card) => {
    const next = new Set(marked);
    if (next.has(it.id)) next.delete(it.id);
    else {
      if (isSingle(it.kind))
        items.filter((other) => other.kind === it.kind).forEach((other) => next.delete(other.id));
      next.add(it.id);
    }
    choose.reset();
    setMarked(next);
  };
  const chosen = items.filter((it) => marked.has(it.id));
  const isNew = chosen.some((it) => !it.isToday) || items.some((it) => it.isToday && !marked.has(it.id));
  const instrument = chosen.find((thing) => isMain(thing.kind));
  return (
    <>
      <Box
        component="section"
        aria-label="Kit for today"
        sx={{
          mt: 2,
          p: 2,
          bgcolor: c.surface,
          border: `1px solid ${c.line}`,
          borderLeft: `6px solid ${until && !isNew ? c.reed : c.advice}`,
          borderRadius: '6px',
          display: 'flex',
          gap: 2,
          alignItems: 'center',
          flexWrap: 'wrap',
          position: { md: 'sticky' },
          top: { md: 8 },
          zIndex: 2,
        }}
      >
        <Box sx={{ flex: 1, minWidth: 260 }}>
          <Box sx={{ fontWeight: 700 }}>
            {until && !isNew
              ? `Chosen for today, until ${showDate(until)}, ${showTime(until)}`
              : until
                ? 'Another kit than you chose'
                : 'Nothing is chosen for today'}
          </Box>
          <Box sx={{ color: c.bark }}>
            {chosen.length > 0
              ? chosen.map((it) => it.name).join(', ')
              : 'Mark a tester or a meter, its lead, and whatever else goes along. Every record names it.'}
          </Box>
        </Box>
        <Button
          variant={isNew || !until ? 'contained' : 'outlined'}
          disabled={!instrument || choose.isPending || (!isNew && !!until)}
          onClick={() => choose.mutate()}
        >
          Take this kit
        </Button>
        {choose.error && <Notice problem={choose.error} />}
      </Box>
      {page.flagged > 0 && (
        <Box sx={{ mt: 1.5, color: c.advice, fontWeight: 600 }}>
          {page.flagged} {page.flagged === 1 ? 'record was' : 'records were'} measured with an instrument that
          failed its check since: a lead looks at them on the instrument’s page.
        </Box>
      )}
      {kinds.map(({ kind, many }) => {
        const own = items.filter((it) => it.kind === kind);
        return (
          own.length > 0 && (
            <Box component="section" aria-label={many} key={kind} sx={{ mt: 2.5 }}>
              <Typography variant="h2" sx={{ mb: 0.5 }}>
                {many}
              </Typography>
              {own.map((it) => (
                <KitRow key={it.id} it={it} isMarked={marked.has(it.id)} onMark={() => mark(it)} />
              ))}
            </Box>
          )
        );
      })}
    </>
  );
}
