import { Alert, Box, Button } from '@mui/material';
import { type ReactNode, useEffect, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { Problem } from '../api/client';
import { c } from '../design/tokens';

/** The page in the frame scrolls with the page around it. */
function heightOf(frame: HTMLIFrameElement | null) {
  const page = frame?.contentDocument?.documentElement;
  return page ? Math.ceil(page.getBoundingClientRect().height) + 2 : null;
}

/** A paper as the client gets it: the very page that is printed, in a frame of its own, with the ways to take it along. */
export function PaperShown(props: {
  /** Where the page is; it is asked for by the frame itself. */
  address: string;
  /** Asks for the same page once more, to hear why it was refused: a refusal is not let into the frame. */
  asked: () => Promise<unknown>;
  /** Hears the paper's own title once it is there. */
  onShown: (title: string) => void;
  /** What stands beside Print. */
  children: ReactNode;
  trouble: string | null;
}) {
  const { address, asked, onShown } = props;
  const frame = useRef<HTMLIFrameElement>(null);
  const goTo = useNavigate();
  const [isShown, setShown] = useState(false);
  const [why, setWhy] = useState<string | null>(null);
  const [height, setHeight] = useState(1100);

  useEffect(() => {
    const fitted = () => setHeight((now) => heightOf(frame.current) ?? now);
    window.addEventListener('resize', fitted);
    return () => window.removeEventListener('resize', fitted);
  }, []);

  const shown = () => {
    const page = frame.current?.contentDocument;
    if (page?.querySelector('h1')?.textContent) {
      setShown(true);
      onShown(page.title);
      setHeight((now) => heightOf(frame.current) ?? now);
      return;
    }
    asked().then(
      () => setWhy('The paper did not arrive. Load the page again.'),
      (problem: unknown) =>
        setWhy(
          problem instanceof Problem ? `${problem.message} ${problem.detail}` : 'The paper did not arrive.',
        ),
    );
  };

  return (
    <Box sx={{ flex: 1, bgcolor: c.paper, pb: 4, minWidth: 0 }}>
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
          disabled={!isShown}
          onClick={() => frame.current?.contentWindow?.print()}
        >
          Print
        </Button>
        {props.children}
      </Box>
      {props.trouble && (
        <Alert severity="error" sx={{ maxWidth: 828, mx: 'auto', mb: 2 }}>
          {props.trouble}
        </Alert>
      )}
      {why !== null ? (
        <Alert severity="error" sx={{ maxWidth: 828, mx: 'auto' }}>
          {why}
        </Alert>
      ) : (
        <Box
          component="iframe"
          key={address}
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
