import { Box, Button, Typography } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { api, ask, Problem, type Schema } from '../api/client';
import { showDate } from '../api/dates';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { usePageTitle } from '../frame/usePageTitle';
import { Waiting } from '../frame/Waiting';
import { takeAlong } from './taken';

/** How the house tests alike: each procedure with its version, for which device, and what to bring. */
export default function Procedures() {
  usePageTitle('Procedures');
  const goTo = useNavigate();
  const file = useRef<HTMLInputElement>(null);
  const [trouble, setTrouble] = useState<Error | null>(null);
  const list = useQuery({
    queryKey: ['procedures'],
    queryFn: () => ask(api.GET('/api/v1/procedures')),
    staleTime: 0,
  });
  if (list.error && !list.data)
    return (
      <Box sx={{ p: 3 }}>
        <Notice problem={list.error} onAgain={() => void list.refetch()} />
      </Box>
    );
  if (!list.data) return <Waiting what="Opening the procedures" />;
  const standing = list.data.rows.filter((row) => !row.retired);
  const retired = list.data.rows.filter((row) => row.retired);

  const read = async (chosen: File) => {
    setTrouble(null);
    try {
      const content: unknown = JSON.parse(await chosen.text());
      const procedure = await ask(api.POST('/api/v1/procedures/read', { body: content as never }));
      takeAlong(procedure);
      void goTo('/procedures/new');
    } catch (problem) {
      setTrouble(
        problem instanceof SyntaxError
          ? new Problem(0, 'This file is no procedure: nothing was taken from it.', 'It is not even JSON.')
          : (problem as Error),
      );
    }
  };

  return (
    <Box sx={{ p: { xs: 2, md: 3 }, maxWidth: 1180, width: '100%' }}>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'flex-end', flexWrap: 'wrap', mb: 2 }}>
        <Box sx={{ flex: 1, minWidth: 280 }}>
          <Typography variant="h1">Procedures</Typography>
          <Box sx={{ color: c.bark, mt: 0.5, maxWidth: '68ch' }}>
            A plan fixed and named, so that a team tests alike. It orders, adds and tightens; what the
            standard asks stays asked. A new one is made from a device on the bench:{' '}
            <em>Make a procedure of this</em>.
          </Box>
        </Box>
        {list.data.mayChange && (
          <>
            <input
              ref={file}
              type="file"
              accept="application/json,.json"
              hidden
              aria-label="A procedure’s file"
              onChange={(event) => {
                const chosen = event.target.files?.[0];
                event.target.value = '';
                if (chosen) void read(chosen);
              }}
            />
            <Button variant="outlined" color="inherit" onClick={() => file.current?.click()}>
              From a file
            </Button>
          </>
        )}
      </Box>
      {trouble && (
        <Box sx={{ mb: 2 }}>
          <Notice problem={trouble} />
        </Box>
      )}
      {standing.length === 0 && (
        <Box role="status" sx={{ color: c.bark, py: 3 }}>
          None yet. Everything is tested by its standard’s own plan.
        </Box>
      )}
      {standing.map((row) => (
        <Row key={row.id} row={row} />
      ))}
      {retired.length > 0 && (
        <Box component="details" sx={{ mt: 3 }}>
          <Box component="summary" sx={{ cursor: 'pointer', color: c.slate, minHeight: 44, pt: 1.25 }}>
            Retired: {retired.length}
          </Box>
          {retired.map((row) => (
            <Row key={row.id} row={row} />
          ))}
        </Box>
      )}
    </Box>
  );
}

function Row({ row }: { row: Schema['ProcedureListRow'] }) {
  return (
    <Box
      component={Link}
      to={`/procedures/${row.id}`}
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: '1fr', md: 'minmax(0, 1.6fr) minmax(0, 1fr) 220px' },
        columnGap: 3,
        rowGap: 0.25,
        py: 1.5,
        borderTop: `1px solid ${c.line}`,
        color: 'inherit',
        textDecoration: 'none',
        '&:hover strong': { textDecoration: 'underline' },
      }}
    >
      <Box>
        <strong>{row.name}</strong>
        <Box sx={{ color: c.bark, fontSize: 14.5 }}>
          {row.standard}
          {row.for && `, for ${row.for}`}
        </Box>
        {row.retired && <Box sx={{ color: c.advice, fontSize: 14.5 }}>{row.retired}</Box>}
      </Box>
      <Box sx={{ fontSize: 14.5 }}>
        {row.adapters.length > 0 ? `Bring: ${row.adapters.join(', ')}` : 'Nothing to bring'}
        <Box sx={{ color: row.leftOut > 0 ? c.advice : c.muted }}>
          {row.steps} {row.steps === 1 ? 'step' : 'steps'}
          {row.leftOut > 0 && `, ${row.leftOut} left out with a reason`}
        </Box>
      </Box>
      <Box sx={{ fontSize: 14.5, color: c.muted, textAlign: { md: 'right' } }}>
        Version {row.version}
        <Box>
          {row.by}, {showDate(row.at)}
        </Box>
      </Box>
    </Box>
  );
}
