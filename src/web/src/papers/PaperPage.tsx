import { Button } from '@mui/material';
import { useState } from 'react';
import { useParams } from 'react-router';
import { api, ask, Problem } from '../api/client';
import { usePageTitle } from '../frame/usePageTitle';
import { PaperShown } from './PaperShown';

/** The paper of one inspection. */
export default function PaperPage() {
  const { inspectionId = '' } = useParams();
  const [trouble, setTrouble] = useState<string | null>(null);
  const [isPrinting, setIsPrinting] = useState(false);
  const [title, setTitle] = useState<string | null>(null);
  usePageTitle('Paper');
  const path = { path: { inspectionId } };

  const keepPdf = async () => {
    setTrouble(null);
    setIsPrinting(true);
    try {
      const pdf = await ask<Blob>(
        api.GET('/api/v1/papers/inspections/{inspectionId}', {
          params: { ...path, query: { format: 'pdf' } },
          parseAs: 'blob',
        }),
      );
      const link = document.createElement('a');
      link.href = URL.createObjectURL(pdf);
      link.download = `${title ?? 'paper'}.pdf`;
      link.click();
      setTimeout(() => URL.revokeObjectURL(link.href), 60_000);
    } catch (problem) {
      setTrouble(
        problem instanceof Problem
          ? `${problem.message} ${problem.detail}`
          : 'The PDF did not arrive. Try again.',
      );
    } finally {
      setIsPrinting(false);
    }
  };

  return (
    <PaperShown
      address={`/api/v1/papers/inspections/${inspectionId}`}
      asked={() =>
        ask<string>(api.GET('/api/v1/papers/inspections/{inspectionId}', { params: path, parseAs: 'text' }))
      }
      trouble={trouble}
      onShown={setTitle}
    >
      <Button variant="contained" disabled={title === null || isPrinting} onClick={() => void keepPdf()}>
        {isPrinting ? 'Making the PDF' : 'PDF'}
      </Button>
    </PaperShown>
  );
}
