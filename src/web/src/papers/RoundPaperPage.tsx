import { Button } from '@mui/material';
import { useState } from 'react';
import { useNavigate, useParams, useSearchParams } from 'react-router';
import { api, ask } from '../api/client';
import { usePageTitle } from '../frame/usePageTitle';
import { roundPapers, useAskForPaper } from './kept';
import { PaperShown } from './PaperShown';

/** A paper of a round as it stands now; as a PDF it is made in the background and kept. */
export default function RoundPaperPage() {
  const { roundId = '' } = useParams();
  const [params] = useSearchParams();
  const goTo = useNavigate();
  const paper = roundPapers.find((it) => it.paper === params.get('paper'))?.paper ?? 'report';
  const [isShown, setShown] = useState(false);
  const make = useAskForPaper(roundId);
  usePageTitle('Paper');
  return (
    <PaperShown
      address={`/api/v1/papers/rounds/${roundId}?paper=${paper}`}
      asked={() =>
        ask<string>(
          api.GET('/api/v1/papers/rounds/{roundId}', {
            params: { path: { roundId }, query: { paper } },
            parseAs: 'text',
          }),
        )
      }
      trouble={make.error ? make.error.message : null}
      onShown={() => setShown(true)}
    >
      <Button
        variant="contained"
        disabled={!isShown || make.isPending}
        onClick={() =>
          make.mutate({ id: crypto.randomUUID(), paper }, { onSuccess: () => void goTo('/papers') })
        }
      >
        Make the PDF
      </Button>
    </PaperShown>
  );
}
