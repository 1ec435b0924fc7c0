import { Box, Typography } from '@mui/material';
import { Link, useParams } from 'react-router';
import { c } from '../design/tokens';
import { Beside } from '../frame/Beside';
import { Notice } from '../frame/Notice';
import { usePageTitle } from '../frame/usePageTitle';
import { Waiting } from '../frame/Waiting';
import { Band } from './Band';
import { GroupPanel } from './GroupPanel';
import { type Group, useEvidence } from './useEvidence';

const addressOf = (it: Group) => `/evidence/${it.kind}/${it.place}`;

/** What tests say of the intervals, group by group, and a lead's decision for the whole group. */
export default function Evidence() {
  usePageTitle('Evidence for intervals');
  const { kind, place } = useParams();
  const page = useEvidence();
  if (page.error && !page.data)
    return (
      <Box sx={{ p: 3 }}>
        <Notice problem={page.error} onAgain={() => void page.refetch()} />
      </Box>
    );
  if (!page.data) return <Waiting what="Counting what was found" />;
  const { groups, target } = page.data;
  const chosen = groups.find((it) => it.kind === kind && it.place === place) ?? groups[0];
  const end = Math.max(3 * target, ...groups.map((it) => Math.min(it.high, 6 * target)));
  return (
    <Beside
      label="The group"
      side={chosen && <GroupPanel of={chosen} key={addressOf(chosen)} />}
      width={480}
      isSideFirst={kind !== undefined}
    >
      <Typography variant="h1">Evidence for intervals</Typography>
      <Typography sx={{ color: c.bark, mb: 1.5 }}>{page.data.basis}</Typography>
      {groups.length === 0 && <Typography>Nothing was tested yet.</Typography>}
      {groups.map((it) => (
        <Row key={addressOf(it)} it={it} target={target} end={end} isChosen={it === chosen} />
      ))}
    </Beside>
  );
}

function Row(props: { it: Group; target: number; end: number; isChosen: boolean }) {
  const { it } = props;
  const asks = it.suggestion !== 'keep' && !it.whyNot;
  return (
    <Box
      component={Link}
      to={addressOf(it)}
      replace
      aria-current={props.isChosen || undefined}
      sx={{
        display: 'grid',
        gridTemplateColumns: {
          xs: 'minmax(0, 1fr) 130px',
          sm: 'minmax(0, 1fr) 92px minmax(90px, 180px)',
        },
        columnGap: 2,
        alignItems: 'center',
        minHeight: 58,
        px: 1.5,
        mx: -1.5,
        color: 'inherit',
        textDecoration: 'none',
        borderBottom: `1px solid ${c.line}`,
        borderLeft: `5px solid ${props.isChosen ? c.reed : 'transparent'}`,
        bgcolor: props.isChosen ? c.surface : 'transparent',
        '&:hover': { bgcolor: c.surface },
      }}
    >
      <Box sx={{ minWidth: 0, py: 0.75 }}>
        <Box sx={{ fontWeight: 700, overflowWrap: 'anywhere' }}>{it.name}</Box>
        <Box
          sx={{
            fontSize: 14.5,
            color: asks ? (it.suggestion === 'shorter' ? c.fail : c.pass) : c.bark,
            fontWeight: asks ? 600 : 400,
          }}
        >
          at {it.interval}; {it.says}
        </Box>
      </Box>
      <Box sx={{ fontSize: 14.5, textAlign: 'right', display: { xs: 'none', sm: 'block' } }}>
        {it.failures} of {it.inspections}
        <Box sx={{ color: c.muted, fontSize: 13.5 }}>failed</Box>
      </Box>
      <Band it={it} target={props.target} end={props.end} />
    </Box>
  );
}
