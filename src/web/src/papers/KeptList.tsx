import { Box, Button, LinearProgress } from '@mui/material';
import { Link } from 'react-router';
import { showMoment } from '../api/dates';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { useMe } from '../people/SignedIn';
import { isUnderWay, type KeptPaper, sizeText, useCallOff } from './kept';

/** Papers as they were made, each with how far it is and what it does not know any more. */
export function KeptList(props: { papers: readonly KeptPaper[]; withRound?: boolean }) {
  const callOff = useCallOff();
  return (
    <Box>
      {props.papers.map((it) => (
        <One
          key={it.id}
          it={it}
          withRound={props.withRound ?? false}
          onCallOff={() => callOff.mutate(it.id)}
        />
      ))}
      {callOff.error && <Notice problem={callOff.error} />}
    </Box>
  );
}

function One(props: { it: KeptPaper; withRound: boolean; onCallOff: () => void }) {
  const { it } = props;
  const isHouse = useMe().role !== 'viewer';
  return (
    <Box
      component="article"
      aria-label={it.title}
      sx={{
        display: 'grid',
        gridTemplateColumns: 'minmax(0, 1fr) auto',
        gap: 1,
        alignItems: 'center',
        py: 1,
        borderBottom: `1px solid ${c.line}`,
      }}
    >
      <Box sx={{ minWidth: 0 }}>
        <Box sx={{ fontWeight: 600, overflowWrap: 'anywhere' }}>{it.title}</Box>
        {props.withRound && (
          <Box sx={{ color: c.bark, fontSize: 14.5 }}>
            {[it.client, it.site].filter(Boolean).join(' · ')}
            {isHouse && it.roundId && (
              <>
                {' · '}
                <Box component={Link} to={`/rounds/${it.roundId}`} sx={{ color: c.slate }}>
                  the round
                </Box>
              </>
            )}
          </Box>
        )}
        <Box role="status" sx={{ color: it.state === 'failed' ? c.fail : c.muted, fontSize: 14 }}>
          {showMoment(it.endedAt ?? it.askedAt)}, {it.askedBy}: {it.says}
        </Box>
        {it.since.map((line) => (
          <Box key={line} sx={{ borderLeft: `4px solid ${c.fail}`, pl: 1, mt: 0.5, fontSize: 14.5 }}>
            {line}
          </Box>
        ))}
        {it.state === 'making' && it.total > 0 && (
          <LinearProgress
            variant="determinate"
            value={(100 * it.done) / it.total}
            aria-label={`${it.title}: ${it.done} of ${it.total} records`}
            sx={{ mt: 0.75 }}
          />
        )}
      </Box>
      {it.state === 'ready' && (
        <Button
          component="a"
          href={`/api/v1/papers/kept/${it.id}/file`}
          download
          variant="outlined"
          color="inherit"
        >
          PDF{it.bytes ? `, ${sizeText(it.bytes)}` : ''}
        </Button>
      )}
      {isUnderWay(it) && isHouse && (
        <Button variant="text" color="inherit" onClick={props.onCallOff}>
          Call it off
        </Button>
      )}
    </Box>
  );
}
