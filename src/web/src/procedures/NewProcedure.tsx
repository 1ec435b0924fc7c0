import { Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { c } from '../design/tokens';
import { usePageTitle } from '../frame/usePageTitle';
import { EditProcedure } from './Editor';
import { takenAlong } from './taken';

/** A procedure that is not saved yet. */
export default function NewProcedure() {
  usePageTitle('A new procedure');
  const goTo = useNavigate();
  const [procedure] = useState(takenAlong);
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
  return (
    <EditProcedure
      procedure={procedure}
      basedOn={0}
      onSaved={(page) => void goTo(`/procedures/${page.procedure.id}`, { replace: true })}
      onClose={() => void goTo(-1)}
    />
  );
}
