import { Alert, Box, Button } from '@mui/material';
import { useEffect, useRef, useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { api, ask, Problem } from '../api/client';
import { c } from '../design/tokens';
import { usePageTitle } from '../frame/usePageTitle';

/** The page in the frame scrolls with the page around it. */
function heightOf(frame: HTMLIFrameElement | null) {
  const page = frame?.contentDocument?.documentElement;
  return page ? Math.ceil(page.getBoundingClientRect().height) + 2 : null;
}

/** A paper as the client gets it: the very page that is printed, in a frame of its own, with the ways to take it along. */
export default function PaperPage() {
  const { inspectionId = '' } = useParams();
  const address = `/api/v1/papers/inspections/${inspectionId}`;
  const frame = useRef<HTMLIFrameElement>(null);
  const goTo = useNavigate();
  const [state, setState] = useState<'loading' | 'shown' | { why: string }>('loading');
  const [height, setHeight] = useState(1100);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [isPrinting, setIsPrinting] = useState(false);
  usePageTitle('Paper');

  useEffect(() => {
    const fitted = () => setHeight((now) => heightOf(frame.current) ?? now);
    window.addEventListener('resize', fitted);
    return () => window.removeEventListener('resize', fitted);
  }, []);

  const shown = () => {
    const page = frame.current?.contentDocument;
    const title = page?.querySelector('h1')?.textContent;
    if (title) {
      setState('shown');
      setHeight((now) => heightOf(frame.current) ?? now);
      return;
    }
    // A refusal is not let into the frame: asked for once more, it says why.
    ask<string>(
      api.GET('/api/v1/papers/inspections/{inspectionId}', {
        params: { path: { inspectionId } },
        parseAs: 'text',
      }),
    ).then(
      () => setState({ why: 'The paper did not arrive. Load the page again.' }),
      (problem: unknown) =>
        setState({
          why:
            problem instanceof Problem ? `${problem.message} ${problem.detail}` : 'The paper did not arrive.',
        }),
    );
  };

  const keepPdf = async () => {
    setTrouble(null);
    setIsPrinting(true);
    try {
      const pdf = await ask<Blob>(
        api.GET('/api/v1/papers/inspections/{inspectionId}', {
          params: { path: { inspectionId }, query: { format: 'pdf' } },
          parseAs: 'blob',
        }),
      );
      const link = document.createElement('a');
      link.href = URL.createObjectURL(pdf);
      link.download = `${frame.current?.contentDocument?.title ?? 'paper'}.pdf`;
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
    <Box sx={{ flex: 1, bgcolor: c.paper, pb: 4 }}>
      <Box
        component="section"
        aria-label="Take it along"
        sx={{
          display: 'flex',
          gap: 1.5,
          flexWrap: 'wrap',
          alignItems: 'center',
          maxWidth: 860,
          mx: 'auto',
          px: 2,
          py: 2,
        }}
      >
        <Box component="h1" sx={{ m: 0, fontSize: '1.3rem', flex: 1, minWidth: 120 }}>
          Paper
        </Box>
        <Button color="inherit" variant="text" onClick={() => void goTo(-1)}>
          Back
        </Button>
        <Button
          color="inherit"
          variant="outlined"
          disabled={state !== 'shown'}
          onClick={() => frame.current?.contentWindow?.print()}
        >
          Print
        </Button>
        <Button variant="contained" disabled={state !== 'shown' || isPrinting} onClick={() => void keepPdf()}>
          {isPrinting ? 'Making the PDF' : 'PDF'}
        </Button>
      </Box>
      {trouble && (
        <Alert severity="error" sx={{ maxWidth: 828, mx: 'auto', mb: 2 }}>
          {trouble}
        </Alert>
      )}
      {typeof state === 'object' ? (
        <Alert severity="error" sx={{ maxWidth: 828, mx: 'auto' }}>
          {state.why}
        </Alert>
      ) : (
        <Box
          component="iframe"
          ref={frame}
          src={address}
          title="The paper"
          onLoad={shown}
          sx={{
            display: 'block',
            width: '100%',
            maxWidth: 860,
            height,
            mx: 'auto',
            border: 0,
            bgcolor: '#fff',
            colorScheme: 'light',
            boxShadow: '0 1px 10px rgb(0 0 0 / .14)',
          }}
        />
      )}
    </Box>
  );
}
