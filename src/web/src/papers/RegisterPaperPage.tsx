import { Button } from '@mui/material';
import { useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { api, ask } from '../api/client';
import { usePageTitle } from '../frame/usePageTitle';
import { useAskForRegister } from './kept';
import { PaperShown } from './PaperShown';

/** A client's register as it stands now; as a PDF it is made in the background and kept. */
export default function RegisterPaperPage() {
  const { client = '' } = useParams();
  const goTo = useNavigate();
  const [isShown, setShown] = useState(false);
  const make = useAskForRegister();
  usePageTitle('Register on paper');
  return (
    <PaperShown
      address={`/api/v1/papers/register?client=${encodeURIComponent(client)}`}
      asked={() =>
        ask<string>(api.GET('/api/v1/papers/register', { params: { query: { client } }, parseAs: 'text' }))
      }
      trouble={make.error ? make.error.message : null}
      onShown={() => setShown(true)}
    >
      <Button
        variant="contained"
        disabled={!isShown || make.isPending}
        onClick={() =>
          make.mutate({ id: crypto.randomUUID(), client }, { onSuccess: () => void goTo('/papers') })
        }
      >
        Make the PDF
      </Button>
    </PaperShown>
  );
}
