import { useParams } from 'react-router';
import { api, ask } from '../api/client';
import { usePageTitle } from '../frame/usePageTitle';
import { useAskForRegister } from './kept';
import { LongPaper } from './LongPaper';

/** A client's register as it stands now. */
export default function RegisterPaperPage() {
  const { client = '' } = useParams();
  const make = useAskForRegister();
  usePageTitle('Register on paper');
  return (
    <LongPaper
      address={`/api/v1/papers/register?client=${encodeURIComponent(client)}`}
      asked={() =>
        ask<string>(api.GET('/api/v1/papers/register', { params: { query: { client } }, parseAs: 'text' }))
      }
      make={make}
      of={{ client }}
    />
  );
}
