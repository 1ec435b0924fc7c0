import { Box, Button, Typography } from '@mui/material';
import { Link } from 'react-router';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { usePageTitle } from '../frame/usePageTitle';
import { Waiting } from '../frame/Waiting';
import { useMe } from '../people/SignedIn';
import { useKeptPapers } from './kept';
import { KeptList } from './KeptList';
import { Registers } from './Registers';

/** Papers of rounds as they were made and kept. */
export default function Papers() {
  usePageTitle('Papers');
  const isHouse = useMe().role !== 'viewer';
  const kept = useKeptPapers(null);
  if (kept.error && !kept.data)
    return (
      <Box sx={{ p: 3 }}>
        <Notice problem={kept.error} onAgain={() => void kept.refetch()} />
      </Box>
    );
  if (!kept.data) return <Waiting what="Looking for papers" />;
  return (
    <Box sx={{ p: { xs: 2, md: 3 }, maxWidth: 980, width: '100%' }}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 2 }}>
        <Typography variant="h1" sx={{ flex: 1 }}>
          Papers
        </Typography>
        {isHouse && (
          <Button component={Link} to="/labels" variant="outlined" color="inherit">
            Labels
          </Button>
        )}
      </Box>
      <Typography sx={{ color: c.bark, mb: 1.5 }}>
        {isHouse
          ? 'What was made of a round or a client, as it was made. A paper of a single item stands on the item’s page.'
          : 'What was made of signed rounds at your sites. The paper of a single item stands on the item’s page.'}
      </Typography>
      <Registers clients={kept.data.clients} />
      {kept.data.papers.length === 0 && (
        <Typography sx={{ color: c.muted }}>
          {isHouse ? 'Nothing was made yet. Open a round, and press PDF beside a paper.' : 'Nothing yet.'}
        </Typography>
      )}
      <KeptList papers={kept.data.papers} withRound />
      {kept.data.more && (
        <Typography sx={{ color: c.muted, mt: 1 }}>Older ones stand on the pages of their rounds.</Typography>
      )}
    </Box>
  );
}
