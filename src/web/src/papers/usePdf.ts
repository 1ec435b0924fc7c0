import { useState } from 'react';
import { Problem } from '../api/client';

/** Asks for a short paper as PDF and hands it to the browser to keep. */
export function usePdf(get: () => Promise<Blob>) {
  const [trouble, setTrouble] = useState<string | null>(null);
  const [isPrinting, setIsPrinting] = useState(false);
  const keep = async (title: string) => {
    setTrouble(null);
    setIsPrinting(true);
    try {
      const link = document.createElement('a');
      link.href = URL.createObjectURL(await get());
      link.download = `${title}.pdf`;
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
  return { trouble, isPrinting, keep };
}
