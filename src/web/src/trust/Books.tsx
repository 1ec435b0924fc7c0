import { Box, Button, Table, TableBody, TableCell, TableHead, TableRow, Typography } from '@mui/material';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, ask, type Schema } from '../api/client';
import { showDate, showTime } from '../api/dates';
import { Ring } from '../design/Ring';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { usePageTitle } from '../frame/usePageTitle';
import { Waiting } from '../frame/Waiting';
import { Trail } from './Trail';

/** Whether the books of records hold, a book to download, and what people did. For leads. */
export default function Books() {
  usePageTitle('Books');
  const queries = useQueryClient();
  const page = useQuery({ queryKey: ['books'], queryFn: () => ask(api.GET('/api/v1/trust')), staleTime: 0 });
  const verify = useMutation({
    mutationFn: () => ask(api.POST('/api/v1/trust/verify')),
    onSettled: () => {
      void queries.invalidateQueries({ queryKey: ['books'] });
      void queries.invalidateQueries({ queryKey: ['standing'] });
      void queries.invalidateQueries({ queryKey: ['trail'] });
    },
  });
  if (page.error && !page.data)
    return (
      <Box sx={{ p: 3 }}>
        <Notice problem={page.error} onAgain={() => void page.refetch()} />
      </Box>
    );
  if (!page.data) return <Waiting what="Fetching the books" />;
  const { last, books, keyId, publicKey } = page.data;
  return (
    <Box sx={{ p: { xs: 2, md: 3 }, display: 'grid', gap: 3, maxWidth: 1180 }}>
      <Box sx={{ display: 'flex', gap: 2.5, alignItems: 'center', flexWrap: 'wrap' }}>
        <Ring state={!last ? 'notTested' : last.breaks.length === 0 ? 'pass' : 'fail'} size={44} />
        <Box sx={{ flex: 1, minWidth: 260 }}>
          <Typography variant="h1">{title(last)}</Typography>
          <Box sx={{ color: c.bark }}>
            {last ? howFound(last) : 'The first verification runs a minute after the start.'}
          </Box>
        </Box>
        <Button variant="outlined" disabled={verify.isPending} onClick={() => verify.mutate()}>
          {verify.isPending ? 'Reading every record …' : 'Verify now'}
        </Button>
      </Box>
      {verify.error && <Notice problem={verify.error} />}
      {last && last.breaks.length > 0 && (
        <Box component="ul" sx={{ m: 0, pl: 2.5, color: c.fail, fontWeight: 600 }}>
          {last.breaks.map((it) => (
            <li key={it}>{it}</li>
          ))}
        </Box>
      )}
      <Box component="section" aria-label="Books of records" sx={{ overflowX: 'auto' }}>
        <Table size="small" sx={{ bgcolor: c.surface }}>
          <TableHead>
            <TableRow>
              <TableCell>Client</TableCell>
              <TableCell align="right">Records</TableCell>
              <TableCell>Head</TableCell>
              <TableCell>Signed</TableCell>
              <TableCell />
            </TableRow>
          </TableHead>
          <TableBody>
            {books.map((book) => (
              <TableRow key={book.clientCode}>
                <TableCell>
                  <strong>{book.client}</strong>
                </TableCell>
                <TableCell align="right" sx={{ fontVariantNumeric: 'tabular-nums' }}>
                  {book.records.toLocaleString('en-GB')}
                </TableCell>
                <TableCell sx={{ fontFamily: 'monospace', fontSize: 14 }}>{book.head}</TableCell>
                <TableCell>{signed(book)}</TableCell>
                <TableCell align="right">
                  <Button
                    size="small"
                    color="inherit"
                    component="a"
                    href={`/api/v1/trust/books/${book.clientCode}`}
                    download
                  >
                    Download the book
                  </Button>
                </TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
      </Box>
      <Box component="details" sx={{ color: c.bark }}>
        <Box component="summary" sx={{ cursor: 'pointer', py: 0.5 }}>
          The house’s public key, {keyId}: whoever has it can check a book that was downloaded
        </Box>
        <Box component="pre" sx={{ fontSize: 13, bgcolor: c.raised, p: 1.5, overflowX: 'auto' }}>
          {publicKey}
        </Box>
        Print it, or give it to the client: a key that lies outside this house is what an altered book cannot
        get round. Check with <code>./osierwand verify-chain --file BOOK --key KEY</code>.
      </Box>
      <Trail />
    </Box>
  );
}

const title = (last: Schema['VerificationCard'] | null | undefined) =>
  !last
    ? 'The books were not verified yet'
    : last.breaks.length === 0
      ? 'The books hold'
      : 'The books do not hold';

const howFound = (last: Schema['VerificationCard']) =>
  `${last.records.toLocaleString('en-GB')} records read on ${showDate(last.at)} at ${showTime(last.at)}, in ${
    last.seconds < 10 ? last.seconds.toFixed(1) : Math.round(last.seconds)
  } s. Each is held against the one before it, the signed heads and the register.`;

const signed = (book: Schema['BookCard']) =>
  book.records === 0
    ? 'nothing to sign'
    : book.signedAt
      ? `${book.signedNumber === book.records ? '' : `up to ${book.signedNumber}, `}${showDate(book.signedAt)}, ${showTime(book.signedAt)}`
      : 'not yet';
