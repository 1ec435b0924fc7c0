import { Button } from '@mui/material';
import type { UseMutationResult } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { PaperShown } from './PaperShown';

/** A paper as it stands now; as a PDF it is made in the background and kept. */
export function LongPaper<T extends { id: string }>(props: {
  address: string;
  asked: () => Promise<string>;
  make: UseMutationResult<unknown, Error, T>;
  /** What the PDF is asked by, under a number of its own: the same press asks once. */
  of: Omit<T, 'id'>;
}) {
  const { make } = props;
  const goTo = useNavigate();
  const [isShown, setShown] = useState(false);
  return (
    <PaperShown
      address={props.address}
      asked={props.asked}
      trouble={make.error ? make.error.message : null}
      onShown={() => setShown(true)}
    >
      <Button
        variant="contained"
        disabled={!isShown || make.isPending}
        onClick={() =>
          make.mutate({ ...props.of, id: crypto.randomUUID() } as T, {
            onSuccess: () => void goTo('/papers'),
          })
        }
      >
        Make the PDF
      </Button>
    </PaperShown>
  );
}
