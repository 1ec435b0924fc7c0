import { Box, Button, Typography } from '@mui/material';
import { Link } from 'react-router';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { roundPapers, useAskForPaper, useKeptPapers } from './kept';
import { KeptList } from './KeptList';

/** The papers of a round: to read now, and to make and keep as PDF. */
export function RoundPapers({ roundId }: { roundId: string }) {
  const kept = useKeptPapers(roundId);
  const make = useAskForPaper(roundId);
  return (
    <Box component="section" aria-label="Papers">
      <Typography variant="h2">Papers</Typography>
      {roundPapers.map((it) => (
        <Box key={it.paper} sx={{ display: 'flex', alignItems: 'center', gap: 1, minHeight: 48 }}>
          <Box sx={{ flex: 1, minWidth: 0 }}>
            {it.name}
            <Box sx={{ color: c.muted, fontSize: 14 }}>{it.about}</Box>
          </Box>
          <Button
            component={Link}
            to={`/papers/rounds/${roundId}?paper=${it.paper}`}
            color="inherit"
            aria-label={`Read: ${it.name}`}
          >
            Read
          </Button>
          <Button
            variant="outlined"
            color="inherit"
            aria-label={`PDF: ${it.name}`}
            onClick={() => make.mutate({ id: crypto.randomUUID(), paper: it.paper })}
          >
            PDF
          </Button>
        </Box>
      ))}
      <Button component={Link} to={`/labels?round=${roundId}`} color="inherit">
        Its labels
      </Button>
      {make.error && <Notice problem={make.error} />}
      {kept.error && !kept.data && <Notice problem={kept.error} onAgain={() => void kept.refetch()} />}
      {kept.data && kept.data.papers.length > 0 && <KeptList papers={kept.data.papers} />}
    </Box>
  );
}
