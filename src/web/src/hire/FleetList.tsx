import { Box, Button, Typography } from '@mui/material';
import { Link } from 'react-router';
import { showMoment } from '../api/dates';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { type FleetPart, type Stage, useStage } from './useFleet';

/** Items of a fleet, the longest where it is on top. */
export function FleetList(props: {
  title: string;
  part: FleetPart;
  /** An open round to test them in; null where there is none. */
  roundId?: string | null;
  isForTheBench?: boolean;
  isLoud?: boolean;
}) {
  const { roundId } = props;
  const { items, total } = props.part;
  return (
    <Box component="section" aria-label={props.title} sx={{ mb: 2.5 }}>
      <Typography variant="h2" sx={{ color: props.isLoud ? c.fail : c.ink, mb: 0.5 }}>
        {props.title} ({total})
      </Typography>
      {props.isForTheBench && items.length > 0 && !roundId && (
        <Box sx={{ color: c.bark, mb: 0.5 }}>
          No round is open at their site: a lead opens one, then they are tested.
        </Box>
      )}
      {items.length === 0 && <Box sx={{ color: c.muted }}>Nothing.</Box>}
      {items.map((it) => (
        <Box
          key={it.itemId}
          component="article"
          aria-label={`${it.tag} ${it.name}`}
          sx={{
            display: 'flex',
            gap: 1.5,
            alignItems: 'center',
            borderTop: `1px solid ${c.line}`,
            py: 0.5,
            minHeight: 44,
          }}
        >
          <Box sx={{ flex: 1, minWidth: 0, overflowWrap: 'anywhere' }}>
            <Link to={`/register/${it.itemId}`} style={{ color: 'inherit', fontWeight: 700 }}>
              {it.tag}
            </Link>{' '}
            {it.name}
            <Box sx={{ color: it.callBack ? c.fail : c.bark, fontSize: 14 }}>{it.callBack ?? it.why}</Box>
          </Box>
          {it.since && (
            <Box
              sx={{
                color: c.muted,
                fontSize: 13.5,
                whiteSpace: 'nowrap',
                display: { xs: 'none', sm: 'block' },
              }}
            >
              since {showMoment(it.since)}
            </Box>
          )}
          {props.isForTheBench && roundId && (
            <Button
              size="small"
              variant="outlined"
              color="inherit"
              component={Link}
              to={`/rounds/${roundId}/bench/${it.itemId}`}
            >
              Test it
            </Button>
          )}
        </Box>
      ))}
      {total > items.length && (
        <Box sx={{ color: c.bark, fontSize: 14 }}>and {total - items.length} more that came later.</Box>
      )}
    </Box>
  );
}

export function StageList(props: { client: string; stage: Stage; roundId: string | null; mayAct: boolean }) {
  const list = useStage(props.client, props.stage);
  if (list.error) return <Notice problem={list.error} onAgain={() => void list.refetch()} />;
  if (!list.data) return null;
  const name = list.data.items[0]?.stageText ?? 'Nothing there';
  return (
    <FleetList
      title={name}
      part={list.data}
      roundId={props.roundId}
      isForTheBench={props.mayAct && (props.stage === 'forTheBench' || props.stage === 'onTheBench')}
    />
  );
}
