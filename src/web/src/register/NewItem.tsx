import { Box, Button, Checkbox, FormControlLabel, MenuItem, TextField, Typography } from '@mui/material';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import { api, ask, Problem, type Schema } from '../api/client';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { ClassSaid } from './ClassSaid';
import { takeInHand } from '../frame/inHand';
import { usePageTitle } from '../frame/usePageTitle';
import { PhotoButton } from '../public/PhotoButton';
import { sendPhoto } from '../public/sendPhoto';
import { PlaceField, RoomNames } from './PlaceField';
import { Battery } from './Battery';
import { Defibrillator } from './Defibrillator';
import { MemberTags } from './Members';
import { AgeAndRisk, CouplerField } from './AgeAndRisk';
import { MakerAsks } from './MakerAsks';
import { holdsNaN } from './NumberField';
import { AccessAndCare, AppliedParts, type More, nothingMore, PartPlates, Reachable } from './PlateMore';
import { moreOf, type Sort, type SortName, sortOf, sorts } from './sorts';
import { kinds, moves, plugs, usages, users, uses } from './words';
import { amountOf, amountTrouble } from '../frame/amount';

type Draft = Omit<Schema['NewItem'], 'evidence' | 'more'> & { evidence: Schema['ClassEvidence'] | '' };
type Texts = Record<
  'ratedVoltageV' | 'ratedPowerW' | 'ratedCurrentA' | 'flexLengthM' | 'plugFuseA' | 'rcdMa' | 'outlets',
  string
>;

const number = (text: string) => (text.trim() === '' ? null : amountOf(text));

/** An unknown tag: registered on the spot, from the rating plate, in under a minute, and on to the bench. */
export default function NewItem() {
  const { roundId = '' } = useParams();
  const [params] = useSearchParams();
  const navigate = useNavigate();
  const form = useQuery({
    queryKey: ['form', roundId],
    queryFn: () => ask(api.GET('/api/v1/register/form', { params: { query: { round: roundId } } })),
  });
  const [it, setIt] = useState<Omit<Draft, keyof Texts | 'flexMm2' | 'place'>>({
    roundId,
    tag: params.get('tag') ?? '',
    name: '',
    kind: 'appliance',
    // Nobody's class is taken for granted: it is read off the plate and the build.
    evidence: '',
    use: 'portable',
    room: '',
    maker: null,
    model: null,
    serial: null,
    heating: false,
    surgeProtected: false,
    allInsulated: false,
    hardWired: false,
    plug: 'rewirable',
    usage: 'normal',
    moved: 'sometimes',
    users: 'trained',
  });
  const [texts, setTexts] = useState<Texts>({
    ratedVoltageV: '',
    ratedPowerW: '',
    ratedCurrentA: '',
    flexLengthM: '',
    plugFuseA: '',
    rcdMa: '',
    outlets: '1',
  });
  const [flexMm2, setFlexMm2] = useState('');
  const [sortName, setSortName] = useState<SortName>('appliance');
  const [more, setMore] = useState<More>(nothingMore);
  const [members, setMembers] = useState<string[]>([]);
  /** How often facts were taken from another of the model: fields of free text begin anew then. */
  const [taken, setTaken] = useState(0);
  const [plate, setPlate] = useState<File | null>(null);
  const [chosenPlace, setPlace] = useState<Draft['place'] | null>(null);
  const save = useMutation({
    mutationFn: async () => {
      const made = await ask(
        api.POST('/api/v1/register', {
          body: {
            ...it,
            evidence: it.evidence as Schema['ClassEvidence'],
            place,
            ratedVoltageV:
              number(texts.ratedVoltageV) ?? (more.phases === 3 ? null : (form.data?.nominalV ?? null)),
            ratedPowerW: number(texts.ratedPowerW),
            ratedCurrentA: number(texts.ratedCurrentA),
            flexLengthM: number(texts.flexLengthM),
            flexMm2: number(flexMm2),
            plugFuseA: number(texts.plugFuseA),
            rcdMa: number(texts.rcdMa),
            outlets: number(texts.outlets) ?? 1,
            members: sortName === 'system' ? members : [],
            more: {
              ...more,
              inlet: hasCoupler ? (more.inlet ?? null) : null,
              partPlates: more.partPlates.filter((part) => part.name !== '' || part.powerW > 0),
            },
          },
        }),
      );
      // The item is kept whatever becomes of its photo, which can be taken again on its page.
      const sent = plate
        ? await sendPhoto(`/api/v1/register/${made.itemId}/photos?of=plate`, plate).catch(() => null)
        : undefined;
      const isPhotoLost = sent === null || (sent !== undefined && 'refused' in sent);
      return { ...made, isPhotoLost };
    },
    onSuccess: (made) => {
      if (!made.isPhotoLost) void navigate(`/rounds/${roundId}/bench/${made.itemId}`, { replace: true });
    },
  });
  const tag = it.tag;
  const isBegun = useRef(false);
  useEffect(() => {
    isBegun.current = it.name !== '' || it.room !== '' || it.evidence !== '';
  });
  // A scan in the middle of registering asks before the form is left.
  useEffect(
    () =>
      takeInHand({
        tag,
        text: 'It is being registered, and what was entered would be lost.',
        leaveText: 'Leave the form',
        hasWork: () => isBegun.current,
        isBusy: () => false,
        leave: async () => {},
      }),
    [tag],
  );
  usePageTitle(`New tag ${tag}`);
  const faultAt = (path: string) =>
    save.error instanceof Problem
      ? save.error.faults.find((fault) => fault.path === path)?.message
      : undefined;
  const text = (
    name: 'tag' | 'name' | 'room' | 'maker' | 'model' | 'serial',
    label: string,
    props?: object,
  ) => (
    <TextField
      label={label}
      value={it[name] ?? ''}
      onChange={(event) => setIt({ ...it, [name]: event.target.value })}
      error={!!faultAt(name)}
      helperText={faultAt(name)}
      {...props}
    />
  );
  const amount = (name: keyof Texts, label: string) => (
    <TextField
      label={label}
      value={texts[name]}
      onChange={(event) => setTexts({ ...texts, [name]: event.target.value })}
      error={!!faultAt(name) || !!amountTrouble(texts[name])}
      helperText={amountTrouble(texts[name]) ?? faultAt(name)}
      slotProps={{ htmlInput: { inputMode: 'decimal' } }}
    />
  );
  const pick = <K extends 'kind' | 'use' | 'usage' | 'moved' | 'users' | 'plug'>(
    name: K,
    label: string,
    options: Record<string, string>,
  ) => (
    <TextField
      select
      label={label}
      value={it[name]}
      onChange={(event) => setIt({ ...it, [name]: event.target.value } as typeof it)}
    >
      {Object.entries(options).map(([value, shown]) => (
        <MenuItem key={value} value={value}>
          {shown}
        </MenuItem>
      ))}
    </TextField>
  );
  const tick = (name: 'heating' | 'surgeProtected' | 'allInsulated' | 'hardWired', label: string) => (
    <FormControlLabel
      control={
        <Checkbox checked={it[name]} onChange={(event) => setIt({ ...it, [name]: event.target.checked })} />
      }
      label={label}
    />
  );
  // A new item is most likely used as the others of its site are.
  const place = chosenPlace ?? form.data?.usualPlace ?? 'office';
  const evidence = form.data?.evidence.find((choice) => choice.evidence === it.evidence);
  const isCord = it.kind === 'cordSet' || it.kind === 'extensionLead' || it.kind === 'multiwayAdapter';
  const hasCoupler = it.kind === 'cordSet' || (more.detachable && !isCord && !it.hardWired);
  const sort: Sort = sorts[sortName];
  const choose = (name: SortName) => {
    const to: Sort = sorts[name];
    setSortName(name);
    setIt({
      ...it,
      use: 'portable',
      plug: 'rewirable',
      allInsulated: false,
      hardWired: false,
      ...to.begins,
      kind: to.kinds[0]!,
    });
    setMore(moreOf(name));
  };
  const same = useQuery({
    queryKey: ['same-model', it.maker, it.model],
    queryFn: async () =>
      (
        await api.GET('/api/v1/register/same-model', {
          params: { query: { maker: it.maker!, model: it.model! } },
        })
      ).data ?? null,
    enabled: !!it.maker?.trim() && !!it.model?.trim(),
    staleTime: 60_000,
  });
  /** What the plate of the last one of this model said; name, room and serial are this one's own. */
  const takeFacts = (of: Schema['SameModel']) => {
    const { facts } = of;
    const said = (value: number | null | undefined) => (value == null ? '' : String(value));
    setSortName(sortOf(of));
    setIt({
      ...it,
      name: it.name || of.name,
      kind: of.kind,
      evidence: of.evidence,
      use: facts.use ?? it.use,
      plug: facts.plug ?? it.plug,
      heating: facts.heating ?? false,
      surgeProtected: facts.surgeProtected ?? false,
      allInsulated: facts.allInsulated ?? false,
      hardWired: of.hardWired,
    });
    setTexts({
      ratedVoltageV: said(facts.ratedVoltageV),
      ratedPowerW: said(facts.ratedPowerW),
      ratedCurrentA: said(facts.ratedCurrentA),
      flexLengthM: said(facts.flexLengthM),
      plugFuseA: said(facts.plugFuseA),
      rcdMa: said(facts.rcdMa),
      outlets: said(facts.outlets) || '1',
    });
    setFlexMm2(said(facts.flexMm2));
    setTaken(taken + 1);
    setMore({
      phases: facts.phases ?? 1,
      detachable: facts.detachable ?? false,
      mainsSwitch: facts.mainsSwitch ?? 'mechanical',
      startUpSeconds: facts.startUpSeconds ?? 0,
      access: facts.access ?? 'freeStanding',
      care: [...(facts.care ?? [])],
      partPlates: [...(facts.partPlates ?? [])],
      appliedParts: [...(facts.appliedParts ?? [])],
      earthedParts: [...(facts.earthedParts ?? [])],
      unearthedParts: [...(facts.unearthedParts ?? [])],
      defibrillator: facts.defibrillator ?? null,
      accessories: [...(facts.accessories ?? [])],
      makerAsks: facts.makerAsks ?? null,
      // When its battery was fitted is this one's own.
      battery: facts.battery ? { ...facts.battery, fittedOn: null } : null,
      inlet: facts.inlet ?? null,
      // So is the year of its make.
      madeIn: null,
      lifeYears: facts.lifeYears ?? null,
      lifeSupporting: facts.lifeSupporting ?? false,
      emergencyTransport: facts.emergencyTransport ?? false,
      noAppliedParts: facts.noAppliedParts ?? false,
    });
  };
  const hasNaN = Object.values(texts).some((value) => Number.isNaN(number(value))) || holdsNaN(more);
  if (form.error)
    return (
      <Box sx={{ p: 3 }}>
        <Notice problem={form.error} onAgain={() => void form.refetch()} />
      </Box>
    );
  return (
    <Box
      component="form"
      onSubmit={(event) => {
        event.preventDefault();
        save.mutate();
      }}
      sx={{ p: { xs: 2, md: 3 }, bgcolor: c.surface, flex: 1 }}
    >
      <Typography variant="h1">A new tag: {it.tag}</Typography>
      <Typography sx={{ color: c.bark, mb: 2 }}>
        From the rating plate. It joins the register of {form.data?.client}, {form.data?.site}, and goes
        straight on the bench.{' '}
        <Link to={`/rounds/${roundId}/loose`} style={{ color: 'inherit' }}>
          Measure it first, name it later
        </Link>
      </Typography>
      <Box
        role="group"
        aria-label="What lies in hand"
        sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', mb: 2.5 }}
      >
        {(Object.keys(sorts) as SortName[]).map((name) => (
          <Button
            key={name}
            size="small"
            variant={name === sortName ? 'contained' : 'outlined'}
            color="inherit"
            aria-pressed={name === sortName}
            onClick={() => choose(name)}
          >
            {sorts[name].name}
          </Button>
        ))}
      </Box>
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: {
            xs: 'minmax(0, 1fr)',
            md: 'repeat(2, minmax(0, 1fr))',
            lg: 'repeat(3, minmax(0, 1fr))',
          },
          columnGap: 4,
          rowGap: 2.5,
          maxWidth: 1200,
        }}
      >
        <Box sx={{ display: 'flex', flexDirection: 'column', gap: 2.5 }}>
          <Group title="What it is">
            {text('name', 'What people call it', { autoFocus: true, required: true })}
            {sort.kinds.length > 1 &&
              pick('kind', 'Kind', Object.fromEntries(sort.kinds.map((kind) => [kind, kinds[kind]])))}
            {pick('use', 'Used', uses)}
            {text('maker', 'Maker')}
            <Pair>
              {text('model', 'Model')}
              {text('serial', 'Serial')}
            </Pair>
            {same.data && (
              <Box role="status" sx={{ borderLeft: `4px solid ${c.reed}`, pl: 1.5 }}>
                {same.data.count === 1 ? 'One of this model is' : `${same.data.count} of this model are`}{' '}
                registered, the last as {same.data.tag}.{' '}
                <Button size="small" onClick={() => takeFacts(same.data!)} sx={{ my: -0.75 }}>
                  Take its facts
                </Button>
              </Box>
            )}
            <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
              <PhotoButton text="Photo of the plate" label="Photo of the plate" onPhoto={setPlate} />
              {plate && <Box sx={{ color: c.bark, fontSize: 14 }}>It goes with the item.</Box>}
            </Box>
          </Group>
          {sortName === 'medical' && (
            <Group title="What it runs on and delivers">
              <Battery
                key={`${taken} battery`}
                value={more.battery ?? null}
                onChange={(battery) => setMore({ ...more, battery })}
              />
              <Defibrillator
                key={`${taken} shock`}
                value={more.defibrillator ?? null}
                onChange={(defibrillator) => setMore({ ...more, defibrillator })}
              />
            </Group>
          )}
          {sortName === 'system' && (
            <Group title="On its multiple socket">
              <Box sx={{ color: c.bark, fontSize: 14.5 }}>
                Class, plate and flex are the socket’s own. What hangs on it brings its parts along.
              </Box>
              <MemberTags tags={members} onChange={setMembers} />
            </Group>
          )}
        </Box>
        <Group title="Class, from what is seen">
          <TextField
            select
            required
            label="Seen on plate and build"
            value={it.evidence}
            onChange={(event) => setIt({ ...it, evidence: event.target.value as Draft['evidence'] })}
          >
            {(form.data?.evidence ?? []).map((choice) => (
              <MenuItem key={choice.evidence} value={choice.evidence} sx={{ whiteSpace: 'normal' }}>
                {choice.seen}
              </MenuItem>
            ))}
          </TextField>
          <ClassSaid seen={evidence} onTake={(found) => setIt({ ...it, evidence: found })} />
          {tick('allInsulated', 'All insulated, no metal to touch')}
          <Pair>
            {amount(
              'ratedVoltageV',
              sortName === 'threePhase'
                ? 'Volts between lines'
                : form.data
                  ? `Volts (${form.data.nominalV})`
                  : 'Volts',
            )}
            {sortName !== 'combined' && amount('ratedPowerW', 'Watts')}
            {amount('ratedCurrentA', 'Amperes')}
          </Pair>
          {sortName === 'combined' && <PartPlates more={more} onChange={setMore} />}
          {sortName === 'medical' && (
            <>
              <AppliedParts more={more} onChange={setMore} />
              <Reachable key={`${taken} reach`} more={more} onChange={setMore} />
              <TextField
                select
                label="Mains switch"
                value={more.mainsSwitch}
                onChange={(event) =>
                  setMore({ ...more, mainsSwitch: event.target.value as More['mainsSwitch'] })
                }
              >
                <MenuItem value="mechanical">Mechanical: it breaks the mains itself</MenuItem>
                <MenuItem value="electronic">Electronic: only running is under test</MenuItem>
              </TextField>
            </>
          )}
          <Pair>
            {tick('heating', 'Heats')}
            {tick('surgeProtected', 'Surge protected')}
          </Pair>
        </Group>
        <Box sx={{ display: 'flex', flexDirection: 'column', gap: 2.5 }}>
          <Group title="Flex and fuse">
            {!isCord && !it.hardWired && (
              <FormControlLabel
                control={
                  <Checkbox
                    checked={more.detachable}
                    onChange={(event) =>
                      setMore({
                        ...more,
                        detachable: event.target.checked,
                        inlet: event.target.checked ? (more.inlet ?? null) : null,
                      })
                    }
                  />
                }
                label="Its mains lead unplugs at the device"
              />
            )}
            {hasCoupler && (
              <CouplerField value={more.inlet ?? null} onChange={(inlet) => setMore({ ...more, inlet })} />
            )}
            {!it.hardWired && (
              <Pair>
                {amount('flexLengthM', 'Length, m')}
                <TextField
                  select
                  label="Size, mm²"
                  value={flexMm2}
                  onChange={(event) => setFlexMm2(event.target.value)}
                >
                  <MenuItem value="">not known</MenuItem>
                  {(form.data?.flexSizes ?? []).map((size) => (
                    <MenuItem key={size} value={String(size)}>
                      {size}
                    </MenuItem>
                  ))}
                </TextField>
                {amount('plugFuseA', 'Fuse, A')}
              </Pair>
            )}
            {!it.hardWired && pick('plug', 'Plug', plugs)}
            <Pair>
              {isCord && it.kind !== 'cordSet' && amount('outlets', 'Outlets')}
              {(it.kind === 'portableRcd' || isCord) && amount('rcdMa', 'RCD, mA')}
            </Pair>
          </Group>
          <Group title={sortName === 'medical' ? 'Age and risk' : 'Age'}>
            <AgeAndRisk
              key={`${taken} age`}
              more={more}
              isMedical={sortName === 'medical'}
              onChange={setMore}
            />
          </Group>
          {sortName === 'medical' && (
            <Group title="What its maker asks">
              <MakerAsks
                key={`${taken} maker`}
                value={more.makerAsks ?? null}
                onChange={(makerAsks) => setMore({ ...more, makerAsks })}
              />
            </Group>
          )}
          {!isCord && (
            <Group title="Access and care">
              <AccessAndCare more={more} onChange={setMore} />
            </Group>
          )}
          <Group title="Where and how it is used">
            {text('room', 'Room', { required: true, slotProps: { htmlInput: { list: 'rooms' } } })}
            <RoomNames rooms={form.data?.rooms} />
            <PlaceField value={place} onChange={setPlace} />
            <Pair>
              {pick('usage', 'Use', usages)}
              {pick('moved', 'Moved', moves)}
              {pick('users', 'Users', users)}
            </Pair>
          </Group>
        </Box>
      </Box>
      {save.data?.isPhotoLost && (
        <Box role="alert" sx={{ mt: 2, borderLeft: `4px solid ${c.advice}`, pl: 1.5, maxWidth: 800 }}>
          It is registered; the photo of its plate was not kept. Take it again on the item’s page.{' '}
          <Button size="small" component={Link} to={`/rounds/${roundId}/bench/${save.data.itemId}`}>
            On to the bench
          </Button>
        </Box>
      )}
      {save.error && (
        <Box sx={{ mt: 2, maxWidth: 800 }}>
          <Notice problem={save.error} />
        </Box>
      )}
      <Button
        type="submit"
        variant="contained"
        disabled={save.isPending || hasNaN || it.evidence === '' || save.isSuccess}
        sx={{ mt: 3 }}
      >
        Register and open on the bench
      </Button>
    </Box>
  );
}

function Group({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <Box
      component="fieldset"
      sx={{ border: 0, m: 0, p: 0, minWidth: 0, display: 'flex', flexDirection: 'column', gap: 1.75 }}
    >
      <Box component="legend" sx={{ fontWeight: 700, fontSize: '1.1rem', mb: 1.5, p: 0 }}>
        {title}
      </Box>
      {children}
    </Box>
  );
}

const Pair = ({ children }: { children: React.ReactNode }) => (
  <Box sx={{ display: 'flex', gap: 1.5, '& > *': { flex: 1, minWidth: 0 } }}>{children}</Box>
);
