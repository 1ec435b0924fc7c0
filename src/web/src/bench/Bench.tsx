import { Box, Button, Typography } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { api, ask, type Schema } from '../api/client';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { BenchDesk } from './BenchDesk';
import { type Draft, inTheWay, park } from './draft';

/** How this technician works, kept on this device. */
const schoolKey = 'osierwand.school';

/** One item, start to finish. Opening another while one is half done is refused until that one is saved or parked. */
export function Bench() {
  const { roundId = '', itemId = '' } = useParams();
  const [, setParked] = useState(0);
  const [scope, setScope] = useState<{ item: string; scope: Schema['Scope'] } | null>(null);
  const wanted = scope?.item === itemId ? scope.scope : undefined;
  const [school, setSchool] = useState(() => localStorage.getItem(schoolKey) as Schema['School'] | null);
  const sheet = useQuery({
    queryKey: ['bench', itemId, roundId, wanted, school],
    queryFn: () =>
      ask(
        api.GET('/api/v1/bench/{itemId}', {
          params: {
            path: { itemId },
            query: { round: roundId, ...(wanted ? { scope: wanted } : {}), ...(school ? { school } : {}) },
          },
        }),
      ),
    // The sheet a technician works on does not change under the hands.
    placeholderData: (previous) => (previous?.item.id === itemId ? previous : undefined),
    staleTime: Infinity,
    gcTime: 0,
  });
  const blocker = inTheWay(itemId);
  if (blocker) return <OneAtATime draft={blocker} onParked={() => setParked((n) => n + 1)} />;
  if (sheet.error)
    return (
      <Box sx={{ p: 3 }}>
        <Notice problem={sheet.error} onAgain={() => void sheet.refetch()} />
      </Box>
    );
  if (!sheet.data) return null;
  return (
    <BenchDesk
      key={`${itemId}/${sheet.data.scope}`}
      sheet={sheet.data}
      onScope={(it) => setScope({ item: itemId, scope: it })}
      onSchool={(it) => {
        localStorage.setItem(schoolKey, it);
        setSchool(it);
      }}
      onRefresh={() => void sheet.refetch()}
    />
  );
}

function OneAtATime({ draft, onParked }: { draft: Draft; onParked: () => void }) {
  const navigate = useNavigate();
  return (
    <Box sx={{ p: { xs: 3, md: 6 }, maxWidth: 680 }} role="alert">
      <Typography variant="h1">{draft.tag} is still on the bench</Typography>
      <Typography sx={{ mt: 1.5, color: c.bark, fontSize: '1.1rem' }}>
        {draft.name} is half done. The plug of one thing and the case of another give false readings, so one
        item lies on the bench at a time.
      </Typography>
      <Box sx={{ display: 'flex', gap: 1.5, mt: 3, flexWrap: 'wrap' }}>
        <Button
          variant="contained"
          onClick={() => void navigate(`/rounds/${draft.roundId}/bench/${draft.itemId}`)}
          autoFocus
        >
          Back to {draft.tag}
        </Button>
        <Button
          variant="outlined"
          onClick={() => {
            park(draft);
            onParked();
          }}
        >
          Park it; it is unplugged and set aside
        </Button>
      </Box>
    </Box>
  );
}
