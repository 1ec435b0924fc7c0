import { useParams } from 'react-router';
import { api, ask } from '../api/client';
import { usePageTitle } from '../frame/usePageTitle';
import { ShortPaper } from './ShortPaper';

/** The paper of one inspection. */
export default function PaperPage() {
  const { inspectionId = '' } = useParams();
  usePageTitle('Paper');
  const path = { inspectionId };
  return (
    <ShortPaper
      address={`/api/v1/papers/inspections/${inspectionId}`}
      page={() =>
        ask<string>(
          api.GET('/api/v1/papers/inspections/{inspectionId}', { params: { path }, parseAs: 'text' }),
        )
      }
      pdf={() =>
        ask<Blob>(
          api.GET('/api/v1/papers/inspections/{inspectionId}', {
            params: { path, query: { format: 'pdf' } },
            parseAs: 'blob',
          }),
        )
      }
    />
  );
}
