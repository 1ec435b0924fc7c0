import { useParams, useSearchParams } from 'react-router';
import { api, ask } from '../api/client';
import { usePageTitle } from '../frame/usePageTitle';
import { roundPapers, useAskForPaper } from './kept';
import { LongPaper } from './LongPaper';

/** A paper of a round as it stands now. */
export default function RoundPaperPage() {
  const { roundId = '' } = useParams();
  const [params] = useSearchParams();
  const paper = roundPapers.find((it) => it.paper === params.get('paper'))?.paper ?? 'report';
  const make = useAskForPaper(roundId);
  usePageTitle('Paper');
  return (
    <LongPaper
      address={`/api/v1/papers/rounds/${roundId}?paper=${paper}`}
      asked={() =>
        ask<string>(
          api.GET('/api/v1/papers/rounds/{roundId}', {
            params: { path: { roundId }, query: { paper } },
            parseAs: 'text',
          }),
        )
      }
      make={make}
      of={{ paper }}
    />
  );
}
