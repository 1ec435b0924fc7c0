import { Box, Button } from '@mui/material';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, ask, type Schema } from '../api/client';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';

/** Still in use, and perhaps not for long: damage that was reported, and records of an instrument that drifted. */
export function Alongside(props: {
  reports: readonly Schema['ReportedCard'][];
  flags: readonly Schema['DriftCard'][];
  mayAct: boolean;
}) {
  if (props.reports.length + props.flags.length === 0) return null;
  return (
    <Box
      component="section"
      aria-label="Still in use"
      sx={{
        border: `1px solid ${c.line}`,
        borderLeft: `6px solid ${c.advice}`,
        borderRadius: '6px',
        p: 1.75,
        mb: 2.5,
      }}
    >
      <Box component="h2" sx={{ m: 0, mb: 0.5, fontSize: '1.05rem' }}>
        Still in use
      </Box>
      {props.reports.map((it) => (
        <Reported key={it.checkId} it={it} mayAct={props.mayAct} />
      ))}
      {props.flags.map((it) => (
        <Line key={it.flagId} it={it}>
          {it.why}
          <Box component="span" sx={{ color: c.muted }}>
            {' '}
            A lead decides <Link to={`/kit/${it.kitId}`}>at the instrument</Link>, or it is tested again.
          </Box>
        </Line>
      ))}
    </Box>
  );
}

function Line(props: {
  it: { itemId: string; tag: string; name: string; place: string; days: number };
  children: React.ReactNode;
}) {
  const { it } = props;
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: '1fr', md: '240px minmax(0, 1fr)' },
        columnGap: 2,
        alignItems: 'center',
        borderTop: `1px solid ${c.line}`,
        py: 0.75,
        fontSize: 15,
      }}
    >
      <Box>
        <Link to={`/register/${it.itemId}`} style={{ color: 'inherit', fontWeight: 700 }}>
          {it.tag} {it.name}
        </Link>
        <Box sx={{ color: c.muted, fontSize: 13.5 }}>
          {it.place}, {it.days === 0 ? 'today' : it.days === 1 ? 'a day ago' : `${it.days} days ago`}
        </Box>
      </Box>
      <Box sx={{ overflowWrap: 'anywhere' }}>{props.children}</Box>
    </Box>
  );
}

function Reported({ it, mayAct }: { it: Schema['ReportedCard']; mayAct: boolean }) {
  const queries = useQueryClient();
  const out = useMutation({
    mutationFn: () =>
      ask(api.POST('/api/v1/user-checks/{checkId}/take-out', { params: { path: { checkId: it.checkId } } })),
    onSettled: () =>
      Promise.all([
        queries.invalidateQueries({ queryKey: ['quarantine'] }),
        queries.invalidateQueries({ queryKey: ['user-checks'] }),
      ]),
  });
  return (
    <Line it={it}>
      {it.from}: {it.words}
      {mayAct && (
        <Button
          size="small"
          variant="outlined"
          color="error"
          sx={{ ml: 1.5 }}
          disabled={out.isPending}
          onClick={() => out.mutate()}
        >
          Take it out of use
        </Button>
      )}
      {out.error && <Notice problem={out.error} />}
    </Line>
  );
}
