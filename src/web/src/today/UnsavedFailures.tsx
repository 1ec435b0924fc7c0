import { Box, Button, Typography } from '@mui/material';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { api, ask, type Schema } from '../api/client';
import { WordsDialog } from '../bench/WordsDialog';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';

/** For a lead: measurements that failed and that no record holds. Each stands on every run sheet of its item until it is measured again. */
export function UnsavedFailures() {
  const page = useQuery({
    queryKey: ['unsaved-failures'],
    queryFn: () => ask(api.GET('/api/v1/bench/unsaved-failures')),
  });
  if (!page.data || page.data.failures.length === 0) return null;
  return (
    <Box component="section" aria-label="Failed, not saved" sx={{ mt: 2 }}>
      <Typography variant="h2">Failed, not saved</Typography>
      {page.data.failures.map((failure) => (
        <One key={failure.id} failure={failure} explanations={page.data.explanations} />
      ))}
    </Box>
  );
}

function One({ failure, explanations }: { failure: Schema['UnsavedCard']; explanations: readonly string[] }) {
  const queries = useQueryClient();
  const [isAsking, setAsking] = useState(false);
  const explain = useMutation({
    mutationFn: (words: string) =>
      ask(
        api.POST('/api/v1/bench/unsaved-failures/{id}/explain', {
          params: { path: { id: failure.id } },
          body: { words },
        }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['unsaved-failures'] }),
  });
  return (
    <Box sx={{ borderLeft: `4px solid ${c.fail}`, pl: 1.5, py: 0.5, mt: 1, fontSize: 14.5 }}>
      <Link to={`/register/${failure.itemId}`} style={{ color: 'inherit', fontWeight: 700 }}>
        {failure.tag} {failure.name}
      </Link>
      <Box>{failure.text}.</Box>
      <Button size="small" color="inherit" sx={{ ml: -1.5 }} onClick={() => setAsking(true)}>
        Explain
      </Button>
      {explain.error && <Notice problem={explain.error} />}
      {isAsking && (
        <WordsDialog
          title={`${failure.tag}: why does this failure not count?`}
          offered={explanations}
          label="Reason"
          take="Save reason"
          note="The failure and your reason stay on record. The next run sheet of the item begins without it."
          onTake={(words) => {
            setAsking(false);
            explain.mutate(words);
          }}
          onClose={() => setAsking(false)}
        />
      )}
    </Box>
  );
}
