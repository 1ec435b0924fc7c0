import { Box, Button, Typography } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { Link, useParams } from 'react-router';
import { api, ask, type Schema } from '../api/client';
import { showDate, showDue } from '../api/dates';
import { Rail } from '../design/Rail';
import { Ring, ringWord } from '../design/Ring';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { TrendLine } from './TrendLine';
import { states } from './words';

/** An item's whole story: what it is, when it is due and why, how its values move, and every inspection as it was judged that day. */
export default function ItemPage() {
  const { itemId = '' } = useParams();
  const page = useQuery({
    queryKey: ['item', itemId],
    queryFn: () => ask(api.GET('/api/v1/register/{itemId}', { params: { path: { itemId } } })),
  });
  if (page.error)
    return (
      <Box sx={{ p: 3 }}>
        <Notice problem={page.error} onAgain={() => void page.refetch()} />
      </Box>
    );
  if (!page.data) return null;
  const item = page.data;
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', md: '290px minmax(0, 1fr)' }, flex: 1 }}>
      <Box component="aside" aria-label="The item" sx={{ p: 2.5, borderRight: `1px solid ${c.line}` }}>
        <Identity item={item} />
      </Box>
      <Box sx={{ p: { xs: 2, md: 3 }, bgcolor: c.surface, minWidth: 0 }}>
        {item.trends.length > 0 && (
          <Box component="section" aria-label="How its values move" sx={{ mb: 3 }}>
            <Typography variant="h2" sx={{ mb: 1 }}>
              How its values move
            </Typography>
            {item.trends.map((trend) => (
              <Trend key={trend.key} trend={trend} />
            ))}
          </Box>
        )}
        <Typography variant="h2" sx={{ mb: 1 }}>
          Inspections
        </Typography>
        {item.history.length === 0 && (
          <Typography sx={{ color: c.bark }}>
            Never inspected.{' '}
            {item.roundId ? 'Open it on the bench to begin.' : 'It waits for a round at its site.'}
          </Typography>
        )}
        {item.history.map((past, i) => (
          <Past key={past.id} past={past} open={i === 0} />
        ))}
      </Box>
    </Box>
  );
}

function Identity({ item }: { item: Schema['ItemPage'] }) {
  const latest = item.history[0];
  const over = (item.daysOver ?? 0) > 0;
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', gap: 1.75 }}>
      <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'center' }}>
        <Ring state={latest?.outcome ?? 'open'} size={48} />
        <Box>
          <Box sx={{ color: c.muted }}>{item.tag}</Box>
          <Typography variant="h1" sx={{ lineHeight: 1.15 }}>
            {item.name}
          </Typography>
        </Box>
      </Box>
      <Box sx={{ color: c.bark }}>
        {item.client}
        <br />
        {item.place}
      </Box>
      {item.state !== 'inService' && (
        <Box sx={{ color: c.fail, fontWeight: 700, textTransform: 'capitalize' }}>{states[item.state]}</Box>
      )}
      <Box
        component="dl"
        sx={{
          m: 0,
          display: 'grid',
          gridTemplateColumns: '70px 1fr',
          columnGap: 1.5,
          rowGap: 0.75,
          fontSize: 15,
        }}
      >
        {[
          { label: 'Class', value: item.classText },
          { label: 'Seen', value: item.evidence },
          ...item.facts,
        ].map((fact) => (
          <Box key={fact.label} sx={{ display: 'contents' }}>
            <Box component="dt" sx={{ color: c.muted }}>
              {fact.label}
            </Box>
            <Box component="dd" sx={{ m: 0 }}>
              {fact.value}
            </Box>
          </Box>
        ))}
      </Box>
      <Box sx={{ borderTop: `1px solid ${c.line}`, pt: 1.5 }}>
        <Box sx={{ color: c.muted, fontSize: 14 }}>Due</Box>
        <Box sx={{ fontWeight: 700, color: over ? c.fail : c.ink, fontSize: '1.15rem' }}>
          {item.due ? `${showDate(item.due)}, ${showDue(item.daysOver)}` : 'at once'}
        </Box>
        {item.visualDue && item.visualDue !== item.due && <Box>formal visual {showDate(item.visualDue)}</Box>}
        {item.because.length > 0 && (
          <Box component="ul" sx={{ m: 0, mt: 0.75, pl: 2.25, color: c.bark, fontSize: 14.5 }}>
            {item.because.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </Box>
        )}
      </Box>
      {item.roundId && item.state !== 'scrapped' && (
        <Button component={Link} to={`/rounds/${item.roundId}/bench/${item.id}`} variant="contained">
          Open on the bench
        </Button>
      )}
    </Box>
  );
}

function Trend({ trend }: { trend: Schema['TrendCard'] }) {
  const newest = trend.points.at(-1);
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: '1fr auto', lg: '190px minmax(0, 300px) minmax(120px, 1fr) 130px' },
        columnGap: 2.5,
        alignItems: 'center',
        borderBottom: `1px solid ${c.line}`,
        py: 1,
      }}
    >
      <Box>
        <strong>{trend.name}</strong>
        <Box sx={{ color: c.muted, fontSize: 13.5 }}>{trend.limitText}</Box>
      </Box>
      <Box sx={{ display: { xs: 'none', lg: 'block' } }}>
        {trend.rail && (
          <Rail
            scale={trend.rail}
            limit={trend.limit ?? null}
            isFloor={trend.isFloor}
            earlier={trend.points.slice(0, -1)}
            label={`${trend.name}, newest ${newest?.text}`}
            rod={
              newest
                ? {
                    si: newest.si,
                    tone: trend.advice ? 'advice' : 'pass',
                    bound: newest.isBound ? 'above' : undefined,
                  }
                : undefined
            }
          />
        )}
      </Box>
      <TrendLine points={trend.points} limit={trend.limit ?? null} name={trend.name} />
      <Box sx={{ textAlign: 'right', fontWeight: 700, fontSize: '1.15rem' }}>{newest?.text}</Box>
      {trend.advice && (
        <Box sx={{ gridColumn: '1 / -1', color: c.advice, fontWeight: 600, mt: 0.5 }}>{trend.advice}</Box>
      )}
    </Box>
  );
}

function Past({ past, open }: { past: Schema['PastInspectionCard']; open: boolean }) {
  return (
    <Box component="details" open={open} sx={{ borderBottom: `1px solid ${c.line}` }}>
      <Box
        component="summary"
        sx={{
          display: 'flex',
          gap: 1.75,
          alignItems: 'center',
          minHeight: 48,
          cursor: 'pointer',
          flexWrap: 'wrap',
        }}
      >
        <Ring state={past.outcome} size={26} />
        <Box sx={{ minWidth: 108 }}>{showDate(past.date)}</Box>
        <strong>{ringWord(past.outcome)}</strong>
        <Box sx={{ color: c.bark, flex: 1, minWidth: 160 }}>
          {past.kind}, {past.technician}
        </Box>
        <Box
          sx={{ color: c.muted, fontSize: 13.5 }}
          title="Position and fingerprint in the client's chained book of records"
        >
          no. {past.bookNumber} · {past.fingerprint}
        </Box>
      </Box>
      <Box sx={{ pl: 5.5, pb: 1.75 }}>
        {past.words.map((line) => (
          <Box key={line} sx={{ color: past.outcome === 'fail' ? c.fail : c.advice }}>
            {line}
          </Box>
        ))}
        <Box sx={{ color: c.muted, fontSize: 14, mb: 0.5 }}>Judged by {past.standard}</Box>
        {past.readings.map((reading, i) => (
          <Box
            key={`${reading.name} ${i}`}
            sx={{
              display: 'grid',
              gridTemplateColumns: '22px minmax(150px, 240px) 100px 1fr',
              gap: 1.25,
              alignItems: 'baseline',
              py: 0.35,
            }}
          >
            <Box sx={{ alignSelf: 'center' }}>
              <Ring
                state={
                  reading.status === 'pass'
                    ? reading.nearLimit
                      ? 'passWithAdvice'
                      : 'pass'
                    : reading.status === 'fail'
                      ? 'fail'
                      : reading.status === 'void'
                        ? 'notTested'
                        : 'undecided'
                }
                size={18}
              />
            </Box>
            <span>{reading.name}</span>
            <strong>{reading.text}</strong>
            <Box sx={{ color: c.muted, fontSize: 14 }}>{reading.limit}</Box>
          </Box>
        ))}
      </Box>
    </Box>
  );
}
