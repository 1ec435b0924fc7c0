import { Box, Button, Typography } from '@mui/material';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { api, ask, Problem, type Schema } from '../api/client';
import { showDate, showDue } from '../api/dates';
import { Rail } from '../design/Rail';
import { Ring, ringWord } from '../design/Ring';
import { c } from '../design/tokens';
import { FactsDialog } from '../bench/FactsDialog';
import { Notice } from '../frame/Notice';
import { useMe } from '../people/SignedIn';
import { Acts, HoldOf } from '../quarantine/HoldOf';
import { TakeBack } from '../review/TakeBack';
import { AlikeDialog, type Offer } from './AlikeDialog';
import { SystemOf } from './Members';
import { MoveDialog } from './MoveDialog';
import { Photos } from './Photos';
import { PublicLink } from './PublicLink';
import { HireOf } from '../hire/HireOf';
import { usePageTitle } from '../frame/usePageTitle';
import { Waiting } from '../frame/Waiting';
import { TrendLine } from './TrendLine';
import { states } from './words';

/** An item's whole story: what it is, when it is due and why, how its values move, and every inspection as it was judged that day. */
export default function ItemPage() {
  const { itemId = '' } = useParams();
  const isReader = useMe().role === 'viewer';
  const page = useQuery({
    queryKey: ['item', itemId],
    queryFn: () => ask(api.GET('/api/v1/register/{itemId}', { params: { path: { itemId } } })),
  });
  if (page.error && !page.data)
    return (
      <Box sx={{ p: 3 }}>
        <Notice problem={page.error} onAgain={() => void page.refetch()} />
      </Box>
    );
  if (!page.data) return <Waiting what="Fetching its story" />;
  const item = page.data;
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', md: '290px minmax(0, 1fr)' }, flex: 1 }}>
      <Box component="aside" aria-label="The item" sx={{ p: 2.5, borderRight: `1px solid ${c.line}` }}>
        <Identity item={item} />
        <PublicLink itemId={item.id} />
        <Box sx={{ mt: 2 }}>
          <Link to={`/papers/items/${item.id}`} style={{ color: 'inherit' }}>
            Last check on paper, for an inspector
          </Link>
        </Box>
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
            {item.roundId && !isReader
              ? 'Open it on the bench to begin.'
              : 'It waits for a round at its site.'}
          </Typography>
        )}
        {item.history.map((past, i) => (
          <Past key={past.id} past={past} open={i === 0} />
        ))}
        <Photos itemId={item.id} />
        {item.acts.length > 0 && (
          <Box component="section" aria-label="While it was out of use" sx={{ mt: 3 }}>
            <Typography variant="h2">While it was out of use</Typography>
            <Acts acts={item.acts} />
          </Box>
        )}
        {item.changes.length > 0 && <Changes changes={item.changes} />}
      </Box>
    </Box>
  );
}

/** Facts that were corrected: what they were stays. */
function Changes({ changes }: { changes: readonly Schema['ChangeCard'][] }) {
  return (
    <Box component="section" aria-label="Corrected facts" sx={{ mt: 3 }}>
      <Typography variant="h2" sx={{ mb: 1 }}>
        Corrected facts
      </Typography>
      {changes.map((change) => (
        <Box key={change.at} sx={{ borderBottom: `1px solid ${c.line}`, py: 1 }}>
          {change.lines.map((line) => (
            <Box key={line}>{line}</Box>
          ))}
          <Box sx={{ color: c.muted, fontSize: 14 }}>
            {showDate(change.at)}, {change.by}: {change.reason}
          </Box>
        </Box>
      ))}
    </Box>
  );
}

function CorrectFacts({ item }: { item: Schema['ItemPage'] }) {
  const [isOpen, setIsOpen] = useState(false);
  const [offer, setOffer] = useState<Offer | null>(null);
  const queries = useQueryClient();
  const form = useQuery({
    queryKey: ['class-evidence'],
    queryFn: () => ask(api.GET('/api/v1/register/evidence')),
    enabled: isOpen,
  });
  return (
    <>
      <Button size="small" variant="outlined" color="inherit" onClick={() => setIsOpen(true)}>
        Correct the facts
      </Button>
      {isOpen && form.data && (
        <FactsDialog
          tag={item.tag}
          fields={item.fields}
          evidence={form.data.evidence}
          reasons={form.data.reasons}
          onClose={() => setIsOpen(false)}
          onTake={async (changes, reason) => {
            try {
              await ask(
                api.POST('/api/v1/register/{itemId}/facts', {
                  params: { path: { itemId: item.id } },
                  body: { revision: item.revision, changes, reason },
                }),
              );
              await queries.invalidateQueries({ queryKey: ['item', item.id] });
              // The correction is kept; that others could not be asked for takes nothing from it.
              const alike = await ask(
                api.POST('/api/v1/register/{itemId}/alike', {
                  params: { path: { itemId: item.id } },
                  body: { changes },
                }),
              ).catch(() => null);
              if (alike?.changes && alike.items.length > 0)
                setOffer({ changes: alike.changes, items: alike.items, reason });
              return null;
            } catch (failure) {
              return failure instanceof Problem ? failure.detail : String(failure);
            }
          }}
        />
      )}
      {offer && <AlikeDialog tag={item.tag} offer={offer} onClose={() => setOffer(null)} />}
      {form.error && <Notice problem={form.error} />}
    </>
  );
}

function Identity({ item }: { item: Schema['ItemPage'] }) {
  const isReader = useMe().role === 'viewer';
  const [isMoving, setIsMoving] = useState(false);
  usePageTitle(`${item.tag} ${item.name}`);
  const latest = item.history.find((past) => !past.isTakenBack && past.outcome !== 'withdrawn');
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
      {item.state !== 'inService' && (
        <HoldOf item={{ id: item.id, tag: item.tag, name: item.name }} mayAct={!isReader} />
      )}
      <SystemOf item={item} mayChange={!isReader} />
      {item.leftFailure && (
        <Box role="note" sx={{ borderLeft: `4px solid ${c.fail}`, pl: 1.5 }}>
          {item.leftFailure}
        </Box>
      )}
      {!isReader && (
        <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
          <CorrectFacts item={item} />
          <Button size="small" variant="outlined" color="inherit" onClick={() => setIsMoving(true)}>
            Moved, dropped or wet
          </Button>
        </Box>
      )}
      {isMoving && (
        <MoveDialog
          itemId={item.id}
          tag={item.tag}
          room={item.fields.room ?? ''}
          revision={item.revision}
          rooms={[]}
          onClose={() => setIsMoving(false)}
        />
      )}
      <Box sx={{ borderTop: `1px solid ${c.line}`, pt: 1.5 }}>
        <Box sx={{ color: c.muted, fontSize: 14 }}>Due</Box>
        <Box sx={{ fontWeight: 700, color: over ? c.fail : c.ink, fontSize: '1.15rem' }}>
          {item.due ? `${showDate(item.due)}, ${showDue(item.daysOver)}` : 'at once'}
        </Box>
        {item.visualDue && item.visualDue !== item.due && <Box>formal visual {showDate(item.visualDue)}</Box>}
        {item.usersAsked && (
          <Box sx={{ color: c.bark, mt: 0.5 }}>
            {item.usersAsked}
            {item.userCheckedOn && ` One of them last said so on ${showDate(item.userCheckedOn)}.`}
          </Box>
        )}
        {item.because.length > 0 && (
          <Box component="ul" sx={{ m: 0, mt: 0.75, pl: 2.25, color: c.bark, fontSize: 14.5 }}>
            {item.because.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </Box>
        )}
      </Box>
      <HireOf itemId={item.id} isReader={isReader} />
      {!isReader && item.roundId && item.state !== 'scrapped' && (
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
        <Box sx={{ color: c.muted, fontSize: 13.5 }}>
          {[trend.detail, trend.limitText].filter(Boolean).join(' · ')}
        </Box>
      </Box>
      <Box sx={{ display: { xs: 'none', lg: 'block' } }}>
        {trend.rail && (
          <Rail
            scale={trend.rail}
            limit={trend.limit ?? null}
            set={trend.set}
            isFloor={trend.isFloor}
            earlier={trend.points.slice(0, -1)}
            label={`${trend.name}, newest ${newest?.text}`}
            rod={
              newest
                ? {
                    si: newest.si,
                    tone: newest.isOver ? 'fail' : trend.advice ? 'advice' : 'pass',
                    bound: newest.isBound ? 'above' : undefined,
                  }
                : undefined
            }
          />
        )}
      </Box>
      <TrendLine
        points={trend.points}
        limits={
          trend.limit == null
            ? []
            : trend.set == null
              ? [trend.limit]
              : [trend.set - trend.limit, trend.set + trend.limit]
        }
        name={trend.name}
      />
      <Box
        sx={{
          textAlign: 'right',
          fontWeight: 700,
          fontSize: '1.15rem',
          color: newest?.isOver ? c.fail : c.ink,
        }}
      >
        {newest?.text}
      </Box>
      {trend.since && (
        <Box sx={{ gridColumn: '1 / -1', color: c.bark, fontSize: 14.5, mt: 0.25 }}>{trend.since}</Box>
      )}
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
        <Box component="strong" sx={{ textDecoration: past.isTakenBack ? 'line-through' : 'none' }}>
          {ringWord(past.outcome)}
        </Box>
        {past.isTakenBack && <Box sx={{ color: c.advice }}>taken back</Box>}
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
        <Button
          component={Link}
          to={`/papers/inspections/${past.id}`}
          size="small"
          variant="outlined"
          color="inherit"
          sx={{ float: 'right', ml: 2 }}
        >
          Paper
        </Button>
        {past.mayBeTakenBack && (
          <Box sx={{ float: 'right', ml: 1 }}>
            <TakeBack inspectionId={past.id} what={`record ${past.bookNumber}`} size="small" />
          </Box>
        )}
        {past.flags.map((line) => (
          <Box key={line} sx={{ color: c.fail, fontWeight: 600 }}>
            {line}
          </Box>
        ))}
        {past.words.map((line) => (
          <Box key={line} sx={{ color: past.outcome === 'fail' ? c.fail : c.advice }}>
            {line}
          </Box>
        ))}
        <Box sx={{ color: c.muted, fontSize: 14, mb: 0.5 }}>
          Judged by {past.standard}
          {past.instrument && `; measured with ${past.instrument}`}
        </Box>
        {past.isolation.length > 0 && (
          <Box component="details" sx={{ color: c.bark, fontSize: 14.5, mb: 0.5 }}>
            <Box component="summary" sx={{ cursor: 'pointer' }}>
              Safe isolation, deed by deed
            </Box>
            <Box component="ol" sx={{ m: 0, pl: 2.5 }}>
              {past.isolation.map((line) => (
                <li key={line}>{line}</li>
              ))}
            </Box>
          </Box>
        )}
        {past.readings.map((reading, i) => (
          <Box
            key={`${reading.name} ${i}`}
            sx={{
              display: 'grid',
              gridTemplateColumns: {
                xs: '22px minmax(0, 1fr) auto',
                sm: '22px minmax(150px, 240px) 100px 1fr',
              },
              '& > :last-child': { gridColumn: { xs: '2 / -1', sm: 'auto' } },
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
            <span>
              {reading.name}
              {reading.detail && (
                <Box component="span" sx={{ color: c.muted, fontSize: 13.5, display: 'block' }}>
                  {reading.detail}
                </Box>
              )}
            </span>
            <Box component="strong" sx={{ textDecoration: reading.void ? 'line-through' : 'none' }}>
              {reading.text}
            </Box>
            <Box sx={{ color: c.muted, fontSize: 14 }}>
              {[
                reading.limit,
                reading.raw && `${reading.raw} shown`,
                reading.source === 'typed' ? 'typed' : null,
                reading.void && `voided: ${reading.void}`,
                reading.overridden && `overridden by ${reading.overridden}`,
              ]
                .filter(Boolean)
                .join(' · ')}
            </Box>
          </Box>
        ))}
      </Box>
    </Box>
  );
}
