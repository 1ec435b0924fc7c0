import { Box, Button, Checkbox, FormControlLabel, MenuItem, TextField, Typography } from '@mui/material';
import { useMutation, useQuery } from '@tanstack/react-query';
import { type FormEvent, type ReactNode, useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { api, ask, Problem, type Schema } from '../api/client';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { usePageTitle } from '../frame/usePageTitle';
import { ClassSaid } from '../register/ClassSaid';
import { AppliedParts, type More } from '../register/PlateMore';
import { moreOf, type Sort, type SortName, sorts } from '../register/sorts';
import { kinds, uses } from '../register/words';
import { amountOf, amountTrouble } from '../frame/amount';

type Texts = Record<'ratedVoltageV' | 'ratedPowerW' | 'flexLengthM' | 'rcdMa' | 'outlets', string>;
const nothingSaid: Texts = { ratedVoltageV: '', ratedPowerW: '', flexLengthM: '', rcdMa: '', outlets: '' };
const number = (text: string) => (text.trim() === '' ? null : amountOf(text));

/** What may be taken in hand without a tag. Several plates are added up once it is known what it is. */
const offered = (Object.keys(sorts) as SortName[]).filter((name) => name !== 'combined');

/** Measure first, name later: what lies here, by what is seen of it. Its tag is scanned or registered before it is saved. */
export default function Loose() {
  const { roundId = '' } = useParams();
  const navigate = useNavigate();
  usePageTitle('Without a tag');
  const form = useQuery({
    queryKey: ['form', roundId],
    queryFn: () => ask(api.GET('/api/v1/register/form', { params: { query: { round: roundId } } })),
  });
  const [sortName, setSortName] = useState<SortName>('appliance');
  const [kind, setKind] = useState<Schema['ItemKind']>('appliance');
  const [use, setUse] = useState<Schema['UseOf']>('portable');
  const [evidence, setEvidence] = useState<Schema['ClassEvidence'] | null>(null);
  const [ticks, setTicks] = useState({ heating: false, surgeProtected: false, allInsulated: false });
  const [texts, setTexts] = useState(nothingSaid);
  const [flexMm2, setFlexMm2] = useState('');
  const [more, setMore] = useState<More>(moreOf('appliance'));
  const sort: Sort = sorts[sortName];
  const isHardWired = sort.begins.hardWired === true;
  const isLead = sortName === 'lead';
  const choose = (name: SortName) => {
    const to: Sort = sorts[name];
    setSortName(name);
    setKind(to.kinds[0]!);
    setUse(to.begins.use ?? 'portable');
    setTicks({ ...ticks, allInsulated: to.begins.allInsulated ?? false });
    setTexts(nothingSaid);
    setMore(moreOf(name));
  };
  const lay = useMutation({
    mutationFn: () =>
      ask(
        api.POST('/api/v1/bench/loose', {
          body: {
            roundId,
            kind,
            evidence: evidence!,
            use,
            ...ticks,
            hardWired: isHardWired,
            ratedVoltageV: number(texts.ratedVoltageV),
            ratedPowerW: number(texts.ratedPowerW),
            flexLengthM: number(texts.flexLengthM),
            flexMm2: number(flexMm2),
            plug: sort.begins.plug ?? 'rewirable',
            outlets: number(texts.outlets) ?? 1,
            rcdMa: number(texts.rcdMa),
            more,
          },
        }),
      ),
    onSuccess: ({ itemId }) => void navigate(`/rounds/${roundId}/bench/${itemId}`, { replace: true }),
  });
  const fault = (path: string) =>
    lay.error instanceof Problem ? lay.error.faults.find((it) => it.path === path)?.message : undefined;
  const hasNaN = Object.values(texts).some((text) => Number.isNaN(number(text)));
  const amount = (name: keyof Texts, label: string, isRequired = false) => (
    <TextField
      label={label}
      value={texts[name]}
      required={isRequired}
      onChange={(event) => setTexts({ ...texts, [name]: event.target.value })}
      error={!!fault(name) || !!amountTrouble(texts[name])}
      helperText={amountTrouble(texts[name]) ?? fault(name)}
      slotProps={{ htmlInput: { inputMode: 'decimal' } }}
      sx={{ width: 132 }}
    />
  );
  const tick = (name: keyof typeof ticks, label: string) => (
    <FormControlLabel
      control={
        <Checkbox
          checked={ticks[name]}
          onChange={(event) => setTicks({ ...ticks, [name]: event.target.checked })}
        />
      }
      label={label}
    />
  );
  const seen = form.data?.evidence.find((it) => it.evidence === evidence);
  if (form.error)
    return (
      <Box sx={{ p: 3 }}>
        <Notice problem={form.error} onAgain={() => void form.refetch()} />
      </Box>
    );
  return (
    <Box
      component="form"
      onSubmit={(event: FormEvent) => {
        event.preventDefault();
        if (evidence) lay.mutate();
      }}
      sx={{ p: { xs: 2, md: 3 }, bgcolor: c.surface, flex: 1, minWidth: 0 }}
    >
      <Typography variant="h1">Measure it first, name it later</Typography>
      <Typography sx={{ color: c.bark, mb: 2.5, maxWidth: 720 }}>
        For what has no tag, or none that can be read. Say what is seen of it; it is judged by that. Before
        anything of it is saved its tag is scanned, or it is registered.
      </Typography>
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: { xs: 'minmax(0, 1fr)', md: 'minmax(0, 2fr) minmax(0, 3fr)' },
          columnGap: 4,
          rowGap: 3,
          maxWidth: 1180,
        }}
      >
        <Part title="What lies here">
          <Choices
            label="What lies here"
            value={sortName}
            of={offered.map((name) => [name, sorts[name].name])}
            onChosen={choose}
          />
          {sort.kinds.length > 1 && (
            <Choices
              label="Kind"
              value={kind}
              of={sort.kinds.map((it) => [it, kinds[it]])}
              onChosen={setKind}
            />
          )}
          {!isLead && !isHardWired && sortName !== 'rcd' && (
            <TextField
              select
              label="Used"
              value={use}
              onChange={(event) => setUse(event.target.value as Schema['UseOf'])}
              sx={{ maxWidth: 300 }}
            >
              {Object.entries(uses)
                .filter(([value]) => value !== 'fixed')
                .map(([value, shown]) => (
                  <MenuItem key={value} value={value}>
                    {shown}
                  </MenuItem>
                ))}
            </TextField>
          )}
          <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap' }}>
            {sortName === 'threePhase' && amount('ratedVoltageV', 'Volts between lines', true)}
            {sortName === 'rcd' && amount('rcdMa', 'Rated, mA', true)}
            {isLead && kind !== 'cordSet' && amount('outlets', 'Outlets')}
            {isLead && amount('rcdMa', 'Its RCD, mA')}
            {!isLead && sortName !== 'rcd' && sortName !== 'medical' && amount('ratedPowerW', 'Watts')}
            {!isHardWired && amount('flexLengthM', 'Flex, m')}
            {!isHardWired && (
              <TextField
                select
                label="Flex, mm²"
                value={flexMm2}
                onChange={(event) => setFlexMm2(event.target.value)}
                sx={{ width: 132 }}
              >
                <MenuItem value="">not known</MenuItem>
                {(form.data?.flexSizes ?? []).map((size) => (
                  <MenuItem key={size} value={String(size)}>
                    {size}
                  </MenuItem>
                ))}
              </TextField>
            )}
          </Box>
          <Box sx={{ display: 'flex', flexWrap: 'wrap', columnGap: 1 }}>
            {!isLead && sortName !== 'rcd' && tick('heating', 'It heats')}
            {tick('surgeProtected', 'Surge protected')}
            {!isLead && tick('allInsulated', 'All insulated, no metal to touch')}
          </Box>
          {sortName === 'medical' && <AppliedParts more={more} onChange={setMore} />}
        </Part>
        <Part title="What is seen of its class">
          <Box role="radiogroup" aria-label="Seen on plate and build" sx={{ display: 'grid', gap: 0.75 }}>
            {(form.data?.evidence ?? []).map((it) => {
              const isChosen = it.evidence === evidence;
              return (
                <Button
                  key={it.evidence}
                  role="radio"
                  aria-checked={isChosen}
                  variant={isChosen ? 'contained' : 'outlined'}
                  color="inherit"
                  onClick={() => setEvidence(it.evidence)}
                  sx={{ justifyContent: 'flex-start', textAlign: 'left', fontWeight: 400, minHeight: 44 }}
                >
                  <Box component="span" sx={{ flex: 1 }}>
                    {it.seen}
                  </Box>
                  <Box component="span" sx={{ ml: 2, fontWeight: 700, whiteSpace: 'nowrap' }}>
                    {it.classText.split(/[:,]/)[0]}
                  </Box>
                </Button>
              );
            })}
          </Box>
          <ClassSaid seen={seen} onTake={setEvidence} />
          {lay.error && <Notice problem={lay.error} />}
          <Button
            type="submit"
            variant="contained"
            disabled={evidence === null || hasNaN || lay.isPending || lay.isSuccess}
            sx={{ alignSelf: 'flex-start', mt: 1 }}
          >
            Lay it on the bench
          </Button>
        </Part>
      </Box>
    </Box>
  );
}

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Box
      component="section"
      aria-label={title}
      sx={{ display: 'flex', flexDirection: 'column', gap: 2, minWidth: 0 }}
    >
      <Typography variant="h2">{title}</Typography>
      {children}
    </Box>
  );
}

function Choices<T extends string>(props: {
  label: string;
  value: T;
  of: readonly (readonly [T, string])[];
  onChosen: (value: T) => void;
}) {
  return (
    <Box role="group" aria-label={props.label} sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
      {props.of.map(([value, text]) => (
        <Button
          key={value}
          variant={value === props.value ? 'contained' : 'outlined'}
          color="inherit"
          aria-pressed={value === props.value}
          onClick={() => props.onChosen(value)}
        >
          {text}
        </Button>
      ))}
    </Box>
  );
}
