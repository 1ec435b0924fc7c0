import { Button } from '@mui/material';
import { useState } from 'react';
import { PaperShown } from './PaperShown';
import { usePdf } from './usePdf';

/** A paper of one item, printed while one waits. */
export function ShortPaper(props: {
  address: string;
  page: () => Promise<unknown>;
  pdf: () => Promise<Blob>;
}) {
  const [title, setTitle] = useState<string | null>(null);
  const { trouble, isPrinting, keep } = usePdf(props.pdf);
  return (
    <PaperShown address={props.address} asked={props.page} trouble={trouble} onShown={setTitle}>
      <Button
        variant="contained"
        disabled={title === null || isPrinting}
        onClick={() => void keep(title ?? 'paper')}
      >
        {isPrinting ? 'Making the PDF' : 'PDF'}
      </Button>
    </PaperShown>
  );
}
