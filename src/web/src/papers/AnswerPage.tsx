import { useParams } from 'react-router';
import { api, ask } from '../api/client';
import { usePageTitle } from '../frame/usePageTitle';
import { ShortPaper } from './ShortPaper';

/** What an inspector asks of one item, on one sheet: last check, condition, due. */
export default function AnswerPage() {
  const { itemId = '' } = useParams();
  usePageTitle('Last check');
  const path = { itemId };
  return (
    <ShortPaper
      address={`/api/v1/papers/items/${itemId}`}
      page={() =>
        ask<string>(api.GET('/api/v1/papers/items/{itemId}', { params: { path }, parseAs: 'text' }))
      }
      pdf={() =>
        ask<Blob>(
          api.GET('/api/v1/papers/items/{itemId}', {
            params: { path, query: { format: 'pdf' } },
            parseAs: 'blob',
          }),
        )
      }
    />
  );
}
