import { Box, Button, Table, TableBody, TableCell, TableRow, TextField, Typography } from '@mui/material';
import { useInfiniteQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, type Schema } from '../api/client';
import { showDate, showTime } from '../api/dates';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';

/** What people did, newest first: who, what, when, from where. */
export function Trail() {
  const [search, setSearch] = useState('');
  const trail = useInfiniteQuery({
    queryKey: ['trail', search],
    initialPageParam: null as number | null,
    queryFn: ({ pageParam }) =>
      ask(
        api.GET('/api/v1/trust/trail', {
          params: { query: { ...(pageParam ? { before: pageParam } : {}), ...(search ? { search } : {}) } },
        }),
      ),
    getNextPageParam: (page) => page.earlier ?? null,
    staleTime: 0,
  });
  const rows = trail.data?.pages.flatMap((page) => page.rows) ?? [];
  return (
    <Box component="section" aria-label="The trail">
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', flexWrap: 'wrap', mb: 1 }}>
        <Typography variant="h2" sx={{ flex: 1 }}>
          The trail
        </Typography>
        <TextField
          size="small"
          label="Person, deed or subject"
          value={search}
          onChange={(event) => setSearch(event.target.value)}
          slotProps={{ htmlInput: { maxLength: 100 } }}
        />
      </Box>
      {trail.error && <Notice problem={trail.error} onAgain={() => void trail.refetch()} />}
      {trail.isSuccess && rows.length === 0 && (
        <Box sx={{ color: c.bark }}>Nothing in the trail {search ? `holds “${search}”.` : 'yet.'}</Box>
      )}
      <Table size="small" sx={{ bgcolor: c.surface }}>
        <TableBody>
          {rows.map((row) => (
            <Entry key={row.id} row={row} />
          ))}
        </TableBody>
      </Table>
      {trail.hasNextPage && (
        <Button
          sx={{ mt: 1 }}
          color="inherit"
          disabled={trail.isFetching}
          onClick={() => void trail.fetchNextPage()}
        >
          Earlier
        </Button>
      )}
    </Box>
  );
}

function Entry({ row }: { row: Schema['TrailRow'] }) {
  const told = [row.before && `before ${JSON.stringify(row.before)}`, row.after && JSON.stringify(row.after)]
    .filter(Boolean)
    .join(', then ');
  return (
    <TableRow sx={{ '& td': { verticalAlign: 'top' } }}>
      <TableCell sx={{ whiteSpace: { md: 'nowrap' }, color: c.muted, width: { md: '1%' } }}>
        {showDate(row.at)}, {showTime(row.at)}
      </TableCell>
      <TableCell sx={{ whiteSpace: { md: 'nowrap' }, width: { md: '1%' } }}>
        {row.person || 'nobody signed in'}
      </TableCell>
      <TableCell>
        <strong>{row.what}</strong>{' '}
        <Box component="span" sx={{ overflowWrap: 'anywhere' }}>
          {row.subject}
        </Box>
        {told && (
          <Box component="details" sx={{ color: c.muted, fontSize: 13 }}>
            <Box component="summary" sx={{ cursor: 'pointer' }}>
              what exactly
            </Box>
            <Box sx={{ overflowWrap: 'anywhere' }}>{told}</Box>
          </Box>
        )}
      </TableCell>
      <TableCell sx={{ color: c.muted, display: { xs: 'none', md: 'table-cell' } }}>{row.address}</TableCell>
    </TableRow>
  );
}
