import { Box, Button } from '@mui/material';
import { useState } from 'react';
import type { Schema } from '../api/client';
import { c } from '../design/tokens';
import { ClassDialog } from './ClassDialog';

/** The class that follows from what is seen, and the way to it for whoever is not sure. Nobody's class is taken for granted. */
export function ClassSaid(props: {
  seen: Schema['EvidenceChoice'] | undefined;
  onTake: (evidence: Schema['ClassEvidence']) => void;
}) {
  const [isAsking, setIsAsking] = useState(false);
  return (
    <Box sx={{ borderLeft: `4px solid ${c.reed}`, pl: 1.5 }}>
      {props.seen ? (
        <>
          <strong>Class {props.seen.classText}.</strong> {props.seen.remark}
        </>
      ) : (
        'The class follows from what is seen.'
      )}{' '}
      <Button size="small" onClick={() => setIsAsking(true)} sx={{ my: -0.75 }}>
        Not sure
      </Button>
      {isAsking && <ClassDialog onTake={props.onTake} onClose={() => setIsAsking(false)} />}
    </Box>
  );
}
