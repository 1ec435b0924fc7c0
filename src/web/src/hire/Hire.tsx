import { Box, Button, MenuItem, TextField, Typography } from '@mui/material';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { c } from '../design/tokens';
import { Beside } from '../frame/Beside';
import { Notice } from '../frame/Notice';
import { usePageTitle } from '../frame/usePageTitle';
import { Waiting } from '../frame/Waiting';
import { useMe } from '../people/SignedIn';
import { FleetList, StageList } from './FleetList';
import { Pile } from './Pile';
import { Readiness } from './Readiness';
import { SchoolDialog } from './SchoolDialog';
import { type Fleet, type Stage, useFleet } from './useFleet';

/** A hire fleet: how much of it is ready and what keeps the rest, beside the pile that comes back and the counter where it goes out. */
export default function Hire() {
  usePageTitle('Hire');
  const [params, setParams] = useSearchParams();
  const mayAct = useMe().role !== 'viewer';
  const fleet = useFleet(params.get('client'));
  if (fleet.error && !fleet.data)
    return (
      <Box sx={{ p: 3 }}>
        <Notice problem={fleet.error} onAgain={() => void fleet.refetch()} />
      </Box>
    );
  if (!fleet.data) return <Waiting what="Counting the fleet" />;
  const { client, verdicts } = fleet.data;
  const page = (
    <>
      <Head fleet={fleet.data} onClient={(code) => setParams({ client: code }, { replace: true })} />
      <Whole key={client.code} fleet={fleet.data} mayAct={mayAct} />
    </>
  );
  // Its owner sees the fleet; what comes back and goes out is the house's work.
  if (!mayAct) return <Box sx={{ p: { xs: 2, md: 3 }, maxWidth: 1100 }}>{page}</Box>;
  return (
    <Beside
      label="Pile and counter"
      width={400}
      isSideFirst
      side={<Pile key={client.code} client={client.code} verdicts={verdicts} />}
    >
      {page}
    </Beside>
  );
}

function Head({ fleet, onClient }: { fleet: Fleet; onClient: (code: string) => void }) {
  const me = useMe();
  const [isChoosing, setIsChoosing] = useState(false);
  const school = fleet.schools.find((it) => it.school === fleet.school);
  return (
    <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'center', flexWrap: 'wrap', mb: 2 }}>
      <Box sx={{ flex: '1 1 260px' }}>
        <Typography variant="h1">{fleet.client.name}</Typography>
        <Box sx={{ color: c.bark }}>
          {school?.text}.{' '}
          {me.role === 'lead' && (
            <Button size="small" color="inherit" onClick={() => setIsChoosing(true)} sx={{ minHeight: 44 }}>
              Choose
            </Button>
          )}
        </Box>
      </Box>
      {fleet.fleets.length > 1 && (
        <TextField
          select
          size="small"
          label="Fleet"
          value={fleet.client.code}
          onChange={(event) => onClient(event.target.value)}
          sx={{ minWidth: 200 }}
        >
          {fleet.fleets.map((it) => (
            <MenuItem key={it.code} value={it.code}>
              {it.name}
            </MenuItem>
          ))}
        </TextField>
      )}
      {isChoosing && <SchoolDialog fleet={fleet} onClose={() => setIsChoosing(false)} />}
    </Box>
  );
}

function Whole({ fleet, mayAct }: { fleet: Fleet; mayAct: boolean }) {
  const roundId = mayAct ? (fleet.roundId ?? null) : null;
  const [stage, setStage] = useState<Stage | null>(null);
  return (
    <>
      {fleet.callBack.total > 0 && (
        <Box sx={{ borderLeft: `4px solid ${c.fail}`, bgcolor: c.failWash, p: 1.5, mb: 2 }}>
          <FleetList title="Call back: with a customer, and must not be used" part={fleet.callBack} isLoud />
        </Box>
      )}
      <Readiness fleet={fleet} stage={stage} onStage={(it) => setStage(it === stage ? null : it)} />
      {stage ? (
        <StageList client={fleet.client.code} stage={stage} roundId={roundId} mayAct={mayAct} />
      ) : (
        <>
          {fleet.late.total > 0 && <FleetList title="Out past the day agreed" part={fleet.late} />}
          <FleetList
            title="Waits for the bench"
            part={fleet.bench}
            roundId={roundId}
            isForTheBench={mayAct}
          />
        </>
      )}
    </>
  );
}
