import { Box, Button, TextField, Typography } from '@mui/material';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { api, ask, type Schema } from '../api/client';
import { showDate, showTime } from '../api/dates';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { usePageTitle } from '../frame/usePageTitle';
import { Waiting } from '../frame/Waiting';
import { useMe } from '../people/SignedIn';
import { CheckForm } from './CheckForm';
import { DriftStrip } from './DriftStrip';
import { KitForm } from './KitForm';
import { LookForm } from './LookForm';
import { NullForm } from './NullForm';
import { isMain, unitLabel } from './words';

/** One thing of the kit: how it stands, its checks before use, and its story. */
export default function KitThing() {
  const { kitId = '' } = useParams();
  const page = useQuery({
    queryKey: ['kit', kitId],
    queryFn: () => ask(api.GET('/api/v1/kit/{kitId}', { params: { path: { kitId } } })),
    staleTime: 0,
  });
  usePageTitle(page.data?.card.name ?? 'Kit');
  if (page.error && !page.data)
    return (
      <Box sx={{ p: 3 }}>
        <Notice problem={page.error} onAgain={() => void page.refetch()} />
      </Box>
    );
  if (!page.data) return <Waiting what="Taking it out of the case" />;
  const { card, points, checkBoxes, drift, unsuited, checks, flags, details } = page.data;
  return (
    <Box sx={{ p: { xs: 2, md: 3 }, maxWidth: 1180, width: '100%' }}>
      <Head sheet={page.data} />
      <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', md: '7fr 5fr' }, gap: 3.5, mt: 2.5 }}>
        <Box sx={{ minWidth: 0, display: 'grid', gap: 3, alignContent: 'start' }}>
          {flags.length > 0 && <Flags flags={flags} kitId={kitId} />}
          {isMain(card.kind) && <CheckForm kitId={kitId} boxes={checkBoxes} />}
          {card.kind === 'testLead' && <NullForm kitId={kitId} card={card} />}
          {points.length > 0 && <LookForm kitId={kitId} card={card} points={points} />}
          {card.kind === 'checkBox' && <Stated lines={details.statedValues} />}
        </Box>
        <Box sx={{ minWidth: 0, display: 'grid', gap: 3, alignContent: 'start' }}>
          {drift.length > 0 && (
            <Box component="section" aria-label="Drift">
              <Typography variant="h2">Drift since calibration</Typography>
              {drift.map((line) => (
                <DriftStrip key={line.key} line={line} />
              ))}
            </Box>
          )}
          {unsuited.length > 0 && (
            <Box component="section" aria-label="Not fine enough for">
              <Typography variant="h2">Not fine enough for</Typography>
              <Box component="ul" sx={{ pl: 2.5, my: 1, color: c.advice }}>
                {unsuited.map((line) => (
                  <li key={line}>{line}</li>
                ))}
              </Box>
              <Box sx={{ color: c.bark }}>What is not named here it can still do.</Box>
            </Box>
          )}
          <Story checks={checks} />
        </Box>
      </Box>
    </Box>
  );
}

function Head({ sheet: { card, details } }: { sheet: Schema['KitSheet'] }) {
  const isLead = useMe().role === 'lead';
  const [changing, setChanging] = useState(false);
  return (
    <>
      <Box component={Link} to="/kit" sx={{ color: c.muted }}>
        Kit
      </Box>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'baseline', flexWrap: 'wrap' }}>
        <Typography variant="h1" sx={{ flex: 1 }}>
          {card.name}
        </Typography>
        {isLead && (
          <>
            <Button color="inherit" onClick={() => setChanging(!changing)} aria-expanded={changing}>
              Change
            </Button>
            <TakeOut id={card.id} />
          </>
        )}
      </Box>
      <Box sx={{ color: c.bark }}>
        {[
          card.kindText,
          [details.maker, details.model].filter(Boolean).join(' '),
          details.serial && `serial ${details.serial}`,
          details.category && `category ${details.category}`,
          details.productStandard,
          details.calibrationDue &&
            `calibrated ${details.calibratedOn ? `${showDate(details.calibratedOn)} ` : ''}to ${showDate(details.calibrationDue)}`,
          details.certificate && `certificate ${details.certificate}`,
        ]
          .filter(Boolean)
          .join(' · ')}
      </Box>
      <Box
        sx={{
          mt: 1.5,
          pl: 1.5,
          borderLeft: `4px solid ${card.trouble ? c.fail : card.warnings.length > 0 ? c.advice : c.reed}`,
        }}
      >
        <strong>
          {card.trouble ? 'Barred.' : card.fitness === 'deadWorkOnly' ? 'Dead work only.' : 'Fit for use.'}
        </strong>{' '}
        {card.trouble ?? card.warnings.join(' ')}
      </Box>
      {changing && <KitForm kept={{ id: card.id, details }} onDone={() => setChanging(false)} />}
    </>
  );
}

function TakeOut({ id }: { id: string }) {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const [reason, setReason] = useState<string | null>(null);
  const retire = useMutation({
    mutationFn: () =>
      ask(
        api.POST('/api/v1/kit/{kitId}/retire', {
          params: { path: { kitId: id } },
          body: { reason: reason! },
        }),
      ),
    onSuccess: () => {
      void queries.invalidateQueries({ queryKey: ['kit'] });
      void navigate('/kit');
    },
  });
  if (reason === null)
    return (
      <Button color="inherit" onClick={() => setReason('')}>
        Take out
      </Button>
    );
  return (
    <Box
      component="form"
      onSubmit={(event) => {
        event.preventDefault();
        retire.mutate();
      }}
      sx={{ display: 'flex', gap: 1, flexBasis: '100%', flexWrap: 'wrap' }}
    >
      <TextField
        autoFocus
        size="small"
        label="Why it is taken out of the kit"
        value={reason}
        onChange={(event) => setReason(event.target.value)}
        slotProps={{ htmlInput: { maxLength: 300 } }}
        sx={{ flex: 1, minWidth: 240 }}
      />
      <Button type="submit" variant="outlined" color="error" disabled={!reason.trim() || retire.isPending}>
        Take it out
      </Button>
      <Button color="inherit" onClick={() => setReason(null)}>
        Leave it
      </Button>
      {retire.error && <Notice problem={retire.error} />}
    </Box>
  );
}

/** What was measured with it since its last good check: nothing of it is changed, a lead says what becomes of each. */
function Flags({ flags, kitId }: { flags: Schema['FlagCard'][]; kitId: string }) {
  const isLead = useMe().role === 'lead';
  const queries = useQueryClient();
  const [decision, setDecision] = useState('');
  const [open, setOpen] = useState<string | null>(null);
  const seen = useMutation({
    mutationFn: (flagId: string) =>
      ask(api.POST('/api/v1/kit/flags/{flagId}/seen', { params: { path: { flagId } }, body: { decision } })),
    onSuccess: () => {
      setOpen(null);
      setDecision('');
    },
    onSettled: () => queries.invalidateQueries({ queryKey: ['kit', kitId] }),
  });
  return (
    <Box component="section" aria-label="Records to look at again">
      <Typography variant="h2">Records to look at again</Typography>
      <Box sx={{ color: c.bark, mb: 1 }}>{flags[0]!.why} Each record stands as it was saved.</Box>
      {flags.map((it) => (
        <Box key={it.id} sx={{ borderBottom: `1px solid ${c.line}`, py: 0.75 }}>
          <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'center', minHeight: 40, flexWrap: 'wrap' }}>
            <Box component={Link} to={`/register/${it.itemId}`} sx={{ color: 'inherit', fontWeight: 700 }}>
              {it.tag}
            </Box>
            <Box sx={{ flex: 1, minWidth: 120 }}>{it.name}</Box>
            <Box sx={{ color: c.muted }}>{showDate(it.day)}</Box>
            {isLead && (
              <Button size="small" color="inherit" onClick={() => setOpen(open === it.id ? null : it.id)}>
                Decide
              </Button>
            )}
          </Box>
          {open === it.id && (
            <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', pb: 0.5 }}>
              <TextField
                autoFocus
                size="small"
                label="What you decided"
                value={decision}
                onChange={(event) => setDecision(event.target.value)}
                slotProps={{ htmlInput: { maxLength: 300 } }}
                sx={{ flex: 1, minWidth: 220 }}
              />
              <Button
                variant="outlined"
                disabled={!decision.trim() || seen.isPending}
                onClick={() => seen.mutate(it.id)}
              >
                Keep it
              </Button>
              {seen.error && <Notice problem={seen.error} />}
            </Box>
          )}
        </Box>
      ))}
    </Box>
  );
}

function Stated({ lines }: { lines: readonly Schema['StatedValue'][] }) {
  return (
    <Box component="section" aria-label="What it states">
      <Typography variant="h2">What it states</Typography>
      {lines.map((it) => (
        <Box key={it.key} sx={{ display: 'flex', borderBottom: `1px solid ${c.line}`, py: 1 }}>
          <Box sx={{ flex: 1 }}>{it.name}</Box>
          <Box sx={{ fontVariantNumeric: 'tabular-nums' }}>
            {it.value} ± {it.tolerance} {unitLabel(it.unit)}
          </Box>
        </Box>
      ))}
    </Box>
  );
}

const did = { look: 'Looked at', daily: 'Daily check', null: 'Nulled' } as const;

function Story({ checks }: { checks: readonly Schema['KitCheckLine'][] }) {
  return (
    <Box component="section" aria-label="Its checks">
      <Typography variant="h2">Its checks</Typography>
      {checks.length === 0 && <Box sx={{ color: c.bark, mt: 1 }}>None is kept yet.</Box>}
      {checks.slice(0, 8).map((it) => (
        <Box key={it.at + it.kind} sx={{ borderBottom: `1px solid ${c.line}`, py: 0.75, fontSize: 14.5 }}>
          <Box sx={{ display: 'flex', gap: 1.5 }}>
            <Box sx={{ fontWeight: 600, color: it.isGood ? 'inherit' : c.fail }}>
              {did[it.kind]}
              {it.isGood ? '' : ', not good'}
            </Box>
            <Box sx={{ flex: 1, color: c.muted }}>{it.person}</Box>
            <Box sx={{ color: c.muted }}>
              {showDate(it.at)}, {showTime(it.at)}
            </Box>
          </Box>
          <Box sx={{ color: c.bark }}>{it.lines.join(' · ')}</Box>
        </Box>
      ))}
    </Box>
  );
}
