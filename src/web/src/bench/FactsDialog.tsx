import {
  Box,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  MenuItem,
  TextField,
} from '@mui/material';
import { useState } from 'react';
import type { Schema } from '../api/client';
import { c } from '../design/tokens';
import { CouplerField } from '../register/AgeAndRisk';
import { Battery } from '../register/Battery';
import { Defibrillator } from '../register/Defibrillator';
import { MakerAsks } from '../register/MakerAsks';
import { holdsNaN } from '../register/NumberField';
import { accessWords, AppliedParts, careWords, linesOf } from '../register/PlateMore';
import { OnOffer } from './OnOffer';
import { amountOf } from '../frame/amount';

type Fields = Schema['FactChanges'];

const texts = [
  ['name', 'What people call it'],
  ['room', 'Room'],
  ['maker', 'Maker'],
  ['model', 'Model'],
  ['serial', 'Serial'],
] as const;
const numbers = [
  ['ratedVoltageV', 'Volts'],
  ['ratedPowerW', 'Watts'],
  ['ratedCurrentA', 'Amperes'],
  ['plugFuseA', 'Plug fuse, A'],
  ['flexLengthM', 'Flex length, m'],
  ['flexMm2', 'Flex size, mm²'],
  ['rcdMa', 'RCD, mA'],
  ['rcdOwnTripMs', 'Its own trip time, ms'],
  ['outlets', 'Outlets'],
  ['startUpSeconds', 'Start-up, s'],
  ['madeIn', 'Made in, year'],
  ['lifeYears', 'Life, years'],
] as const;
const wholes: readonly string[] = ['outlets', 'startUpSeconds', 'madeIn'];
const flags = [
  ['heating', 'Heats'],
  ['surgeProtected', 'Surge protected'],
  ['allInsulated', 'All insulated'],
  ['detachable', 'Its lead unplugs'],
] as const;
const deviceFlags = [
  ['lifeSupporting', 'Life supporting'],
  ['emergencyTransport', 'Emergency transport'],
] as const;
const cares = Object.keys(careWords) as Schema['CareNeed'][];
const deviceLists = [['accessories', 'Accessories that belong to it, one a line']] as const;
const lists = [
  ['earthedParts', 'Earthed parts, one a line'],
  ['unearthedParts', 'Bare parts that are not earthed, one a line'],
] as const;

type Entered = Record<string, string | boolean>;

const enteredOf = (fields: Fields): Entered => {
  const entered: Entered = {
    evidence: fields.evidence ?? '',
    plug: fields.plug ?? 'rewirable',
    mainsSwitch: fields.mainsSwitch ?? 'mechanical',
    access: fields.access ?? 'freeStanding',
    inlet: fields.inlet ?? '',
    care: (fields.care ?? []).join(' '),
  };
  texts.forEach(([name]) => (entered[name] = fields[name] ?? ''));
  numbers.forEach(
    ([name]) =>
      (entered[name] = fields[name] === null || fields[name] === undefined ? '' : `${fields[name]}`),
  );
  [...flags, ...deviceFlags].forEach(([name]) => (entered[name] = fields[name] ?? false));
  [...lists, ...deviceLists].forEach(([name]) => (entered[name] = (fields[name] ?? []).join('\n')));
  return entered;
};

/** What was changed, and nothing else; null with the name of what is no number. */
function changesOf(before: Entered, after: Entered): Fields | { notANumber: string } {
  const changes: Record<string, unknown> = {};
  for (const [name, value] of Object.entries(after)) {
    if (value === before[name] || (name === 'inlet' && value === '')) continue;
    const number = numbers.find(([it]) => it === name);
    if (number) {
      const parsed = amountOf(String(value));
      if (String(value).trim() === '' || !Number.isFinite(parsed)) return { notANumber: number[1] };
      if (wholes.includes(name) && !Number.isInteger(parsed)) return { notANumber: number[1] };
      changes[name] = parsed;
    } else if (name === 'care') changes[name] = String(value).split(' ').filter(Boolean);
    else if ([...lists, ...deviceLists].some(([it]) => it === name)) changes[name] = linesOf(String(value));
    else changes[name] = value;
  }
  return changes as Fields;
}

interface Device {
  appliedParts: Schema['PlateMore']['appliedParts'];
  noAppliedParts: boolean;
  defibrillator: Schema['DefibrillatorFact'] | null;
  makerAsks: Schema['MakerFact'] | null;
  battery: Schema['BatteryFact'] | null;
}

const deviceOf = (fields: Fields): Device => ({
  appliedParts: [...(fields.appliedParts ?? [])],
  noAppliedParts: fields.noAppliedParts ?? false,
  defibrillator: fields.defibrillator ?? null,
  makerAsks: fields.makerAsks ?? null,
  battery: fields.battery ?? null,
});

const deviceChanges = (was: Device, is: Device): Partial<Fields> => ({
  ...(JSON.stringify(was.appliedParts) !== JSON.stringify(is.appliedParts) && {
    appliedParts: is.appliedParts,
  }),
  ...(was.noAppliedParts !== is.noAppliedParts && { noAppliedParts: is.noAppliedParts }),
  ...(JSON.stringify(was.defibrillator) !== JSON.stringify(is.defibrillator) && {
    defibrillator: is.defibrillator,
  }),
  ...(JSON.stringify(was.makerAsks) !== JSON.stringify(is.makerAsks) && { makerAsks: is.makerAsks }),
  ...(JSON.stringify(was.battery) !== JSON.stringify(is.battery) && { battery: is.battery }),
});

/** Corrects an item's facts. What they were stays in its history. */
export function FactsDialog(props: {
  tag: string;
  fields: Fields;
  evidence: readonly Schema['Choice'][];
  reasons: readonly string[];
  onTake: (changes: Fields, reason: string) => Promise<string | null>;
  onClose: () => void;
}) {
  const [before] = useState(() => enteredOf(props.fields));
  const [entered, setEntered] = useState(before);
  const [reason, setReason] = useState('');
  const [device, setDevice] = useState<Device>(() => deviceOf(props.fields));
  const [fault, setFault] = useState<string | null>(null);
  const set = (name: string, value: string | boolean) =>
    setEntered((it) => ({
      ...it,
      // A lead that does not unplug has no coupler to be asked for.
      ...(name === 'detachable' && value === false && { inlet: '' }),
      [name]: value,
    }));
  const ofDevice = deviceChanges(deviceOf(props.fields), device);
  const isChanged =
    Object.keys(entered).some((name) => entered[name] !== before[name]) || Object.keys(ofDevice).length > 0;
  const take = async () => {
    const changes = changesOf(before, entered);
    if (holdsNaN(ofDevice)) return setFault('Something of the device is no number.');
    if ('notANumber' in changes) return setFault(`${changes.notANumber}: this is not a number.`);
    const refused = await props.onTake({ ...changes, ...ofDevice }, reason.trim());
    if (refused) setFault(refused);
    else props.onClose();
  };
  const shown = ([name]: readonly [string, string]) =>
    !(name === 'rcdOwnTripMs' && !before['rcdMa']) &&
    (name !== 'outlets' || Number(before[name]) > 1 || before['rcdMa']);
  return (
    <Dialog open onClose={props.onClose} fullWidth maxWidth="md" aria-labelledby="facts-title">
      <Box
        component="form"
        onSubmit={(event) => {
          event.preventDefault();
          if (isChanged && reason.trim()) void take();
        }}
      >
        <DialogTitle id="facts-title">{props.tag}: what is it really?</DialogTitle>
        <DialogContent sx={{ pt: '8px !important' }}>
          <TextField
            select
            fullWidth
            label="Class, by what was seen"
            value={entered['evidence']}
            onChange={(event) => set('evidence', event.target.value)}
          >
            {props.evidence.map((it) => (
              <MenuItem key={it.value} value={it.value} sx={{ whiteSpace: 'normal' }}>
                {it.text}
              </MenuItem>
            ))}
          </TextField>
          <Box
            sx={{
              display: 'grid',
              gap: 1.5,
              mt: 2,
              gridTemplateColumns: { xs: '1fr 1fr', sm: 'repeat(3, 1fr)', md: 'repeat(5, 1fr)' },
            }}
          >
            {[...texts, ...numbers.filter(shown)].map(([name, label]) => (
              <TextField
                key={name}
                size="small"
                label={label}
                value={entered[name]}
                onChange={(event) => set(name, event.target.value)}
                slotProps={{ htmlInput: { autoComplete: 'off' } }}
              />
            ))}
            <TextField
              select
              size="small"
              label="Plug"
              value={entered['plug']}
              onChange={(event) => set('plug', event.target.value)}
            >
              <MenuItem value="rewirable">Rewirable</MenuItem>
              <MenuItem value="moulded">Moulded</MenuItem>
              <MenuItem value="industrial">Industrial, no fuse</MenuItem>
            </TextField>
            <TextField
              select
              size="small"
              label="Mains switch"
              value={entered['mainsSwitch']}
              onChange={(event) => set('mainsSwitch', event.target.value)}
            >
              <MenuItem value="mechanical">Mechanical</MenuItem>
              <MenuItem value="electronic">Electronic</MenuItem>
            </TextField>
            {(entered['detachable'] === true ||
              (before['inlet'] !== '' && before['detachable'] === false)) && (
              <CouplerField
                value={(entered['inlet'] as Schema['InletType']) || null}
                onChange={(inlet) => set('inlet', inlet)}
              />
            )}
          </Box>
          <Box sx={{ display: 'flex', gap: 1, mt: 1.5, flexWrap: 'wrap' }}>
            {[...flags, ...(props.fields.appliedParts ? deviceFlags : [])].map(([name, label]) => (
              <Button
                key={name}
                variant={entered[name] ? 'contained' : 'outlined'}
                color="inherit"
                aria-pressed={entered[name] === true}
                onClick={() => set(name, !entered[name])}
              >
                {label}
              </Button>
            ))}
          </Box>
          <Box sx={{ display: 'flex', gap: 1, mt: 1.5, flexWrap: 'wrap', alignItems: 'center' }}>
            <TextField
              select
              size="small"
              label="Reached"
              value={entered['access']}
              onChange={(event) => set('access', event.target.value)}
              sx={{ minWidth: 260 }}
            >
              {Object.entries(accessWords).map(([value, text]) => (
                <MenuItem key={value} value={value}>
                  {text}
                </MenuItem>
              ))}
            </TextField>
            {cares.map((it) => {
              const all = String(entered['care']).split(' ').filter(Boolean);
              const has = all.includes(it);
              return (
                <Button
                  key={it}
                  size="small"
                  variant={has ? 'contained' : 'outlined'}
                  color="inherit"
                  aria-pressed={has}
                  aria-label={`Care: ${careWords[it]}`}
                  onClick={() =>
                    set('care', cares.filter((one) => (one === it ? !has : all.includes(one))).join(' '))
                  }
                >
                  {careWords[it]}
                </Button>
              );
            })}
          </Box>
          <Box sx={{ display: 'grid', gap: 1.5, mt: 1.5, gridTemplateColumns: { xs: '1fr', sm: '1fr 1fr' } }}>
            {[...lists, ...(props.fields.appliedParts ? deviceLists : [])].map(([name, label]) => (
              <TextField
                key={name}
                size="small"
                multiline
                minRows={2}
                label={label}
                value={entered[name]}
                onChange={(event) => set(name, event.target.value)}
              />
            ))}
          </Box>
          {props.fields.appliedParts && (
            <Box sx={{ display: 'grid', gap: 2, mt: 2, gridTemplateColumns: { xs: '1fr', sm: '3fr 2fr' } }}>
              <AppliedParts more={device} onChange={setDevice} />
              <Defibrillator
                value={device.defibrillator}
                onChange={(defibrillator) => setDevice({ ...device, defibrillator })}
              />
              <Battery value={device.battery} onChange={(battery) => setDevice({ ...device, battery })} />
              <MakerAsks
                value={device.makerAsks}
                onChange={(makerAsks) => setDevice({ ...device, makerAsks })}
              />
            </Box>
          )}
          <Box sx={{ mt: 2.5, mb: 1.5 }}>
            <OnOffer phrases={props.reasons} chosen={reason} size="small" onChoose={setReason} />
          </Box>
          <TextField
            fullWidth
            size="small"
            label="Why, in words"
            value={reason}
            onChange={(event) => setReason(event.target.value)}
            slotProps={{ htmlInput: { maxLength: 300, autoComplete: 'off' } }}
          />
          {fault && (
            <Box role="alert" sx={{ color: c.fail, mt: 1.5 }}>
              {fault}
            </Box>
          )}
          <Box sx={{ color: c.muted, mt: 1.5 }}>
            The sheet follows, and what was done is judged again. What it said before stays in the item's
            history.
          </Box>
        </DialogContent>
        <DialogActions>
          <Button color="inherit" onClick={props.onClose}>
            Cancel
          </Button>
          <Button type="submit" variant="contained" disabled={!isChanged || !reason.trim()}>
            Correct it
          </Button>
        </DialogActions>
      </Box>
    </Dialog>
  );
}
