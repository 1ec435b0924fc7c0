import { Box } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, ask, unattended } from '../api/client';
import { showDate } from '../api/dates';
import { c } from '../design/tokens';
import { useMe } from '../people/SignedIn';

/** Stands over every screen while the last verification found that a book does not hold, or while none comes to an end. */
export function BooksBanner() {
  const me = useMe();
  const standing = useQuery({
    queryKey: ['standing'],
    queryFn: () => ask(api.GET('/api/v1/trust/standing', unattended)),
    refetchInterval: 300_000,
    staleTime: 60_000,
  });
  const { broken, unverifiedSince } = standing.data ?? {};
  if (!broken && !unverifiedSince) return null;
  return (
    <Box
      role="alert"
      sx={{ bgcolor: c.failWash, borderBottom: `2px solid ${c.fail}`, px: { xs: 1.5, md: 2.5 }, py: 1.25 }}
    >
      {broken ? (
        <>
          <strong>The books of records do not hold.</strong> {broken}.
        </>
      ) : (
        <>
          <strong>The books of records are not being verified.</strong> None was read to its end since{' '}
          {showDate(unverifiedSince!)}.
        </>
      )}{' '}
      {me.role === 'lead' ? (
        <Link to="/books" style={{ color: 'inherit' }}>
          {broken ? 'See what was found' : 'Verify them now'}
        </Link>
      ) : (
        'Tell a lead; what you save is kept all the same.'
      )}
    </Box>
  );
}
