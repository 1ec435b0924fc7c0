import { Box } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { api, ask, type Schema } from '../api/client';
import { showDate } from '../api/dates';
import { c } from '../design/tokens';

/** Clients whose labels name a next date, and have items past it: whoever reads the label sees them out of compliance. */
export const useExpired = () =>
  useQuery({
    queryKey: ['labels', 'expired'],
    queryFn: () => ask(api.GET('/api/v1/papers/labels/expired')),
  });

export function ExpiredNote({ expired }: { expired: readonly Schema['ExpiredLabels'][] }) {
  return expired.map((it) => (
    <Box key={it.clientCode} role="note" sx={{ borderLeft: `4px solid ${c.fail}`, pl: 1.5, mt: 1.5 }}>
      <strong>{it.client}</strong>: {it.count} {it.count === 1 ? 'item is' : 'items are'} overdue since{' '}
      {showDate(it.oldest)} at the earliest, and their labels name a date. Whoever reads an expired date sees
      an item out of compliance.
    </Box>
  ));
}
