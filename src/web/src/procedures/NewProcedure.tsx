import { Box, Button, Typography } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { api, ask } from '../api/client';
import { c } from '../design/tokens';
import { usePageTitle } from '../frame/usePageTitle';
import { Waiting } from '../frame/Waiting';
import { Editor } from './Editor';
import { takenAlong } from './taken';

/** A procedure that is not saved yet. */
export default function NewProcedure() {
  usePageTitle('A new procedure');
  const goTo = useNavigate();
  const [procedure] = useState(takenAlong);
  // Its steps in words: the same reading that a file gets.
  const words = useQuery({
    queryKey: ['procedure words', procedure?.id],
    enabled: procedure !== null,
    queryFn: () => ask(api.POST('/api/v1/procedures/words', { body: procedure! })),
    staleTime: Infinity,
  });
  if (!procedure)
    return (
      <Box sx={{ p: 3, maxWidth: 680 }}>
        <Typography variant="h1">There is nothing to begin with</Typography>
        <Box sx={{ my: 2, color: c.bark }}>
          A new procedure is made from a device on the bench, from a file, or as a copy of another.
        </Box>
        <Button component={Link} to="/procedures" variant="contained">
          To the procedures
        </Button>
      </Box>
    );
  if (!words.data) return <Waiting what="Reading the plan" />;
  return (
    <Editor
      start={{ procedure, words: words.data.words }}
      basedOn={0}
      units={words.data.units}
      onSaved={(page) => void goTo(`/procedures/${page.procedure.id}`, { replace: true })}
      onClose={() => void goTo(-1)}
    />
  );
}
