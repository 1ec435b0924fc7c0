import { Box, TextField, Typography } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { useDeferredValue } from 'react';
import { useSearchParams } from 'react-router';
import { api, ask, type Schema } from '../api/client';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';

/** What strange readings usually mean, to be searched without an item at hand: by what the tester's display says. */
export default function Signs() {
  const [params, setParams] = useSearchParams();
  const say = params.get('say') ?? '';
  const asked = useDeferredValue(say);
  const signs = useQuery({
    queryKey: ['signs', asked],
    queryFn: ({ signal }) =>
      ask(api.GET('/api/v1/signs', { params: { query: asked ? { say: asked } : {} }, signal })),
    placeholderData: (previous) => previous,
    staleTime: Infinity,
  });
  return (
    <Box sx={{ p: { xs: 2, md: 3 }, bgcolor: c.surface, flex: 1 }}>
      <Box sx={{ display: 'flex', gap: 3, flexWrap: 'wrap', alignItems: 'flex-end', mb: 2.5 }}>
        <Box sx={{ flex: 1, minWidth: 280 }}>
          <Typography variant="h1">What a reading is telling</Typography>
          <Box sx={{ color: c.bark, mt: 0.5, maxWidth: '70ch' }}>
            Likely causes in the order to check them, cheapest first. They guide; the limit judges, and a
            competent person decides.
          </Box>
        </Box>
        <TextField
          label="What does the display say?"
          placeholder="earth open, L-N short, >500 Mohm"
          value={say}
          onChange={(event) =>
            setParams(event.target.value ? { say: event.target.value } : {}, { replace: true })
          }
          slotProps={{ htmlInput: { maxLength: 100 } }}
          sx={{ width: { xs: '100%', sm: 360 } }}
        />
      </Box>
      {signs.error && <Notice problem={signs.error} onAgain={() => void signs.refetch()} />}
      {signs.data?.length === 0 && (
        <Box role="status" sx={{ color: c.bark }}>
          Nothing known answers to “{say}”. Try fewer words, or the word on the display: open, short, low.
        </Box>
      )}
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: {
            xs: 'minmax(0, 1fr)',
            md: 'repeat(2, minmax(0, 1fr))',
            xl: 'repeat(3, minmax(0, 1fr))',
          },
          columnGap: 4,
          rowGap: 3,
        }}
      >
        {signs.data?.map((sign) => (
          <Sign key={sign.id} sign={sign} />
        ))}
      </Box>
    </Box>
  );
}

function Sign({ sign }: { sign: Schema['SignCard'] }) {
  return (
    <Box component="article" sx={{ borderTop: `2px solid ${c.bark}`, pt: 1 }}>
      <Typography variant="h2">{sign.seen}</Typography>
      <Box component="ol" sx={{ m: 0, mt: 0.5, pl: 2.75 }}>
        {sign.causes.map((cause) => (
          <li key={cause}>{cause}</li>
        ))}
      </Box>
      <Box sx={{ mt: 0.75 }}>
        <Box component="span" sx={{ color: c.reed, fontWeight: 700 }}>
          Next
        </Box>{' '}
        {sign.next}
      </Box>
    </Box>
  );
}
