import { Box, Typography } from '@mui/material';
import { Link, useParams } from 'react-router';
import { c } from '../design/tokens';
import { Beside } from '../frame/Beside';
import { Notice } from '../frame/Notice';
import { usePageTitle } from '../frame/usePageTitle';
import { Waiting } from '../frame/Waiting';
import { RoundPapers } from '../papers/RoundPapers';
import { useMe } from '../people/SignedIn';
import { RecordLine } from './RecordLine';
import { Signature } from './Signature';
import { type ToReview, useReview } from './useReview';

/** A round before a lead signs it: what asks for a lead's eye, the gravest first, and the signature. */
export default function ReviewPage() {
  const { roundId = '' } = useParams();
  const review = useReview(roundId);
  const isLead = useMe().role === 'lead';
  usePageTitle(review.data ? `Review: ${review.data.name}` : 'Review');
  if (review.error && !review.data)
    return (
      <Box sx={{ p: 3 }}>
        <Notice problem={review.error} onAgain={() => void review.refetch()} />
      </Box>
    );
  if (!review.data) return <Waiting what="Reading every record of the round" />;
  const page = review.data;
  const first = page.records.filter((it) => it.mustBeSeen && !it.seen);
  const seen = page.records.filter((it) => it.seen);
  const rest = page.records.filter((it) => !it.mustBeSeen && !it.seen);
  const list = (title: string, about: string, records: readonly ToReview[]) =>
    records.length > 0 && (
      <Box component="section" aria-label={title} sx={{ mt: 2.5 }}>
        <Typography variant="h2">
          {title} <span style={{ fontWeight: 400 }}>({records.length})</span>
        </Typography>
        <Box sx={{ color: c.muted, fontSize: 14.5 }}>{about}</Box>
        {records.map((it) => (
          <RecordLine key={it.id} it={it} roundId={page.roundId} mayLook={isLead && !page.signature} />
        ))}
      </Box>
    );
  return (
    <Beside
      label="Signature"
      side={
        <>
          <Signature page={page} isLead={isLead} />
          <RoundPapers roundId={page.roundId} />
        </>
      }
    >
      <Typography variant="h1">Review</Typography>
      <Box sx={{ color: c.bark }}>
        <Box component={Link} to={`/rounds/${page.roundId}`} sx={{ color: c.slate }}>
          {page.name}
        </Box>{' '}
        · {page.client} · {page.site} · {page.stateText}
      </Box>
      {page.records.length === 0 && (
        <Typography sx={{ mt: 2 }}>
          {page.total === 0
            ? 'Nothing was saved in this round yet.'
            : 'Nothing asks for a look: every record says that all was good.'}
        </Typography>
      )}
      {list('To look at before signing', 'A person decided here, or something failed.', first)}
      {list('Worth a look', 'Nothing that has to be seen; the record says what is unusual.', rest)}
      {list('Looked at', 'By a lead, and kept with the round.', seen)}
      {page.plain > 0 && (
        <Typography sx={{ mt: 2.5, color: c.muted }}>
          {page.plain === 1 ? 'One more record says' : `${page.plain} more records say`} nothing but that all
          was good.
        </Typography>
      )}
    </Beside>
  );
}
