import { Box, Button, MenuItem, TextField, Typography } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, type Schema } from '../api/client';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { useChange, useRound } from './useRound';

type Policy = Schema['Policy'];

/** By what this round is judged, chosen for it alone, and where it differs from the client's choices. */
export function Rules() {
  const { round, mayPlan } = useRound();
  const [changing, setChanging] = useState(false);
  return (
    <Box component="section" aria-label="Judged by">
      <Box sx={{ display: 'flex', alignItems: 'baseline' }}>
        <Typography variant="h2" sx={{ flex: 1 }}>
          Judged by
        </Typography>
        {mayPlan && (
          <Button
            size="small"
            color="inherit"
            onClick={() => setChanging(!changing)}
            aria-expanded={changing}
          >
            Change
          </Button>
        )}
      </Box>
      {round.judged.map((it, at) => (
        <Box
          key={it}
          sx={{
            border: `1px solid ${c.line}`,
            borderRadius: '6px',
            bgcolor: c.raised,
            px: 1.5,
            py: 0.75,
            mt: 0.75,
          }}
        >
          {it}{' '}
          <Box component="span" sx={{ color: c.muted }}>
            {at === 0 ? 'appliances' : 'medical'}
          </Box>
        </Box>
      ))}
      <Box sx={{ color: c.muted, fontSize: 13.5, mt: 0.75 }}>
        {round.supply} · {round.choices.join(' · ')}
      </Box>
      {round.hasOwnPolicy && (
        <Box sx={{ color: c.advice, fontSize: 14, mt: 0.5 }}>
          Differs from the client’s choices: {round.policyReason}
        </Box>
      )}
      {round.scopeWords && (
        <Box sx={{ mt: 1, fontSize: 14.5, whiteSpace: 'pre-wrap' }}>{round.scopeWords}</Box>
      )}
      {changing && <Change onDone={() => setChanging(false)} />}
    </Box>
  );
}

/** Every choice where schools differ, with what each of its ways is called. */
const choices: readonly {
  key: Exclude<keyof Policy, 'permanentReason' | 'permanentLeakage'>;
  label: string;
  of: readonly (readonly [string, string])[];
}[] = [
  {
    key: 'classII',
    label: 'Class II',
    of: [
      ['measure', 'measured'],
      ['lookOnly', 'looked at only, where allowed'],
    ],
  },
  {
    key: 'leakage',
    label: 'Leakage of appliances',
    of: [
      ['powered', 'powered'],
      ['alternative', 'alternative method'],
      ['none', 'none, where insulation may stand alone'],
    ],
  },
  {
    key: 'medicalMethod',
    label: 'Leakage of medical devices',
    of: [
      ['direct', 'direct'],
      ['differential', 'differential'],
      ['alternative', 'alternative'],
    ],
  },
  {
    key: 'medicalInsulation',
    label: 'Insulation of medical devices',
    of: [
      ['no', 'no'],
      ['yes', 'yes'],
      ['cordOnly', 'cord only'],
    ],
  },
  {
    key: 'newItem',
    label: 'New items',
    of: [
      ['lookOnly', 'look only'],
      ['full', 'in full'],
    ],
  },
  {
    key: 'fixings',
    label: 'Removable fixings',
    of: [
      ['leaveIn', 'stay in'],
      ['takeOut', 'may come out'],
    ],
  },
  {
    key: 'hardWired',
    label: 'Hard-wired equipment',
    of: [
      ['inScope', 'in scope'],
      ['out', 'out of scope'],
    ],
  },
];

function Change({ onDone }: { onDone: () => void }) {
  const { round } = useRound();
  const form = useQuery({ queryKey: ['round-form'], queryFn: () => ask(api.GET('/api/v1/rounds/form')) });
  const [it, setIt] = useState({
    name: round.name,
    startsOn: round.startsOn,
    endsOn: round.endsOn,
    standardId: round.standardId,
    medicalStandardId: round.medicalStandardId ?? '',
    scopeWords: round.scopeWords,
    reason: round.policyReason ?? '',
  });
  const [own, setOwn] = useState<Policy | null>(round.hasOwnPolicy ? round.policy : null);
  const send = useChange(async () => {
    await ask(
      api.POST('/api/v1/rounds/{roundId}/details', {
        params: { path: { roundId: round.id } },
        body: {
          name: it.name,
          startsOn: it.startsOn,
          endsOn: it.endsOn,
          standardId: it.standardId,
          medicalStandardId: it.medicalStandardId || null,
          scopeWords: it.scopeWords,
          policy: own,
          policyReason: own ? it.reason : null,
        },
      }),
    );
    onDone();
  });
  const text = (key: keyof typeof it, label: string, more?: object) => (
    <TextField
      size="small"
      label={label}
      value={it[key]}
      onChange={(event) => setIt({ ...it, [key]: event.target.value })}
      {...more}
    />
  );
  const standards = (scope: 'appliances' | 'medical') =>
    (form.data?.standards ?? []).filter((one) => one.scope === scope);
  return (
    <Box
      component="form"
      aria-label="Change the round"
      onSubmit={(event) => {
        event.preventDefault();
        send.mutate(undefined);
      }}
      sx={{ display: 'grid', gap: 1.5, mt: 1.5 }}
    >
      {text('name', 'Name', { required: true, slotProps: { htmlInput: { maxLength: 120 } } })}
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
        {text('startsOn', 'From', { type: 'date', slotProps: { inputLabel: { shrink: true } } })}
        {text('endsOn', 'Until', { type: 'date', slotProps: { inputLabel: { shrink: true } } })}
      </Box>
      {form.data && (
        <>
          {text('standardId', 'Appliances', {
            select: true,
            children: [...standards('appliances'), ...standards('medical')].map((one) => (
              <MenuItem key={one.id} value={one.id}>
                {one.name}
              </MenuItem>
            )),
          })}
          {text('medicalStandardId', 'Medical devices', {
            select: true,
            children: [{ id: '', name: 'no medical devices here' }, ...standards('medical')].map((one) => (
              <MenuItem key={one.id} value={one.id}>
                {one.name}
              </MenuItem>
            )),
          })}
        </>
      )}
      {text('scopeWords', 'Scope and exclusions, as agreed', {
        multiline: true,
        minRows: 2,
        slotProps: { htmlInput: { maxLength: 2000 } },
      })}
      <Button
        size="small"
        color="inherit"
        onClick={() => setOwn(own ? null : round.policy)}
        aria-pressed={!!own}
      >
        {own ? 'Take the client’s choices again' : 'Differ from the client’s choices'}
      </Button>
      {own && (
        <>
          {choices.map((choice) => (
            <TextField
              key={choice.key}
              select
              size="small"
              label={choice.label}
              value={own[choice.key] ?? choice.of[0]![0]}
              onChange={(event) => setOwn({ ...own, [choice.key]: event.target.value })}
            >
              {choice.of.map(([value, words]) => (
                <MenuItem key={value} value={value}>
                  {words}
                </MenuItem>
              ))}
            </TextField>
          ))}
          {text('reason', 'Why this round differs', {
            required: true,
            slotProps: { htmlInput: { maxLength: 300 } },
          })}
        </>
      )}
      {send.error && <Notice problem={send.error} />}
      <Box sx={{ display: 'flex', gap: 1 }}>
        <Button type="submit" variant="contained" disabled={send.isPending}>
          Keep
        </Button>
        <Button color="inherit" onClick={onDone}>
          Leave it
        </Button>
      </Box>
    </Box>
  );
}
