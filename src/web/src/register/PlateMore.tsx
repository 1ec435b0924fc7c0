import { Box, Button, Checkbox, FormControlLabel, MenuItem, TextField } from '@mui/material';
import { useState } from 'react';
import type { Schema } from '../api/client';
import { NumberField } from './NumberField';

export type More = Schema['PlateMore'];

export const nothingMore: More = {
  phases: 1,
  detachable: false,
  mainsSwitch: 'mechanical',
  startUpSeconds: 0,
  access: 'freeStanding',
  care: [],
  partPlates: [],
  appliedParts: [],
  earthedParts: [],
  unearthedParts: [],
  defibrillator: null,
  accessories: [],
  makerAsks: null,
  battery: null,
  inlet: null,
  madeIn: null,
  lifeYears: null,
  lifeSupporting: false,
  emergencyTransport: false,
  noAppliedParts: false,
};

export const accessWords: Record<Schema['AccessLevel'], string> = {
  freeStanding: 'Free-standing',
  removableFixings: 'Behind a few screws or clips',
  sealedIn: 'Sealed in or plumbed: never forced',
};

export const careWords: Record<Schema['CareNeed'], string> = {
  water: 'on water',
  heavy: 'heavy',
  contents: 'contents',
  pressure: 'pressure',
  data: 'work on it',
};

interface Props {
  more: More;
  onChange: (more: More) => void;
}

/** How far it is reached, and what of the client's wants care when it is moved. */
export function AccessAndCare({ more, onChange }: Props) {
  return (
    <>
      <TextField
        select
        label="Reached"
        value={more.access}
        onChange={(event) => onChange({ ...more, access: event.target.value as More['access'] })}
      >
        {Object.entries(accessWords).map(([value, shown]) => (
          <MenuItem key={value} value={value}>
            {shown}
          </MenuItem>
        ))}
      </TextField>
      <Box role="group" aria-label="Care" sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
        {(Object.keys(careWords) as Schema['CareNeed'][]).map((it) => {
          const has = more.care.includes(it);
          return (
            <Button
              key={it}
              size="small"
              variant={has ? 'contained' : 'outlined'}
              color="inherit"
              aria-pressed={has}
              onClick={() =>
                onChange({ ...more, care: has ? more.care.filter((one) => one !== it) : [...more.care, it] })
              }
            >
              {careWords[it]}
            </Button>
          );
        })}
      </Box>
    </>
  );
}

/** The plates of a combined appliance's parts; their sum is its load. */
export function PartPlates({ more, onChange }: Props) {
  const set = (at: number, part: Partial<More['partPlates'][number]>) =>
    onChange({
      ...more,
      partPlates: more.partPlates.map((it, index) => (index === at ? { ...it, ...part } : it)),
    });
  return (
    <Box role="group" aria-label="Plates of its parts" sx={{ display: 'grid', gap: 1.25 }}>
      {more.partPlates.map((it, at) => (
        <Box key={at} sx={{ display: 'flex', gap: 1 }}>
          <TextField
            size="small"
            label={`Part ${at + 1}`}
            value={it.name}
            onChange={(event) => set(at, { name: event.target.value })}
            sx={{ flex: 2 }}
          />
          <Box sx={{ flex: 1 }}>
            <NumberField
              label="Watts"
              value={it.powerW || null}
              onChange={(powerW) => set(at, { powerW: powerW ?? 0 })}
            />
          </Box>
        </Box>
      ))}
      <Button
        size="small"
        color="inherit"
        sx={{ justifySelf: 'start' }}
        onClick={() => onChange({ ...more, partPlates: [...more.partPlates, { name: '', powerW: 0 }] })}
      >
        One more part
      </Button>
    </Box>
  );
}

/** Names, one a line. */
export const linesOf = (text: string) =>
  text
    .split('\n')
    .map((line) => line.trim())
    .filter(Boolean);

/** Where a clip finds its earth, what is bare and not earthed, and how long it takes to start. */
export function Reachable({ more, onChange }: Props) {
  const [texts, setTexts] = useState({
    earthedParts: more.earthedParts.join('\n'),
    unearthedParts: more.unearthedParts.join('\n'),
    accessories: (more.accessories ?? []).join('\n'),
  });
  const lines = (name: keyof typeof texts, label: string) => (
    <TextField
      size="small"
      multiline
      minRows={2}
      label={label}
      value={texts[name]}
      onChange={(event) => {
        setTexts({ ...texts, [name]: event.target.value });
        onChange({ ...more, [name]: linesOf(event.target.value) });
      }}
    />
  );
  return (
    <>
      {lines('earthedParts', 'Earthed parts, one a line')}
      {lines('unearthedParts', 'Bare parts that are not earthed, one a line')}
      {lines('accessories', 'Accessories that belong to it, one a line')}
      <TextField
        size="small"
        label="Start-up, s"
        value={more.startUpSeconds || ''}
        onChange={(event) =>
          onChange({ ...more, startUpSeconds: Math.trunc(Number(event.target.value)) || 0 })
        }
        slotProps={{ htmlInput: { inputMode: 'numeric' } }}
      />
    </>
  );
}

/**
 * What touches the patient, as plate and papers declare it, or that somebody looked and nothing does. The type is read, never guessed: a
 * wrong one is a wrong limit.
 */
export function AppliedParts<T extends Pick<More, 'appliedParts' | 'noAppliedParts'>>(props: {
  more: T;
  onChange: (more: T) => void;
}) {
  const { more, onChange } = props;
  const set = (at: number, part: Partial<More['appliedParts'][number]>) =>
    onChange({
      ...more,
      appliedParts: more.appliedParts.map((it, index) => (index === at ? { ...it, ...part } : it)),
    });
  return (
    <Box role="group" aria-label="Applied parts" sx={{ display: 'grid', gap: 1.25 }}>
      {more.appliedParts.map((it, at) => (
        <Box
          key={at}
          sx={{
            display: 'grid',
            gap: 1,
            gridTemplateColumns: 'minmax(0, 2fr) minmax(0, 1fr) minmax(0, 1fr)',
          }}
        >
          <TextField
            size="small"
            label={`Applied part ${at + 1}`}
            value={it.name}
            onChange={(event) => set(at, { name: event.target.value })}
          />
          <TextField
            select
            size="small"
            label="Type"
            value={it.type}
            onChange={(event) => set(at, { type: event.target.value as Schema['AppliedPartType'] })}
          >
            {(['B', 'BF', 'CF'] as const).map((type) => (
              <MenuItem key={type} value={type}>
                {type}
              </MenuItem>
            ))}
          </TextField>
          <TextField
            size="small"
            label="Leads"
            value={it.connections || ''}
            onChange={(event) => set(at, { connections: Math.trunc(Number(event.target.value)) || 0 })}
            slotProps={{ htmlInput: { inputMode: 'numeric' } }}
          />
          <TextField
            size="small"
            label="Made of, where it is several"
            value={it.madeOf ?? ''}
            placeholder="limb leads 4, chest leads 6"
            sx={{ gridColumn: '1 / -1' }}
            onChange={(event) => set(at, { madeOf: event.target.value || null })}
          />
          <FormControlLabel
            sx={{ gridColumn: '1 / -1', my: -0.75 }}
            control={
              <Checkbox checked={it.joined} onChange={(event) => set(at, { joined: event.target.checked })} />
            }
            label="joined for the measurement: they have one function"
          />
        </Box>
      ))}
      <Button
        size="small"
        color="inherit"
        sx={{ justifySelf: 'start' }}
        onClick={() =>
          onChange({
            ...more,
            // The strictest, until it is read off the device.
            appliedParts: [...more.appliedParts, { name: '', type: 'CF', connections: 1, joined: true }],
            noAppliedParts: false,
          })
        }
      >
        {more.appliedParts.length === 0 ? 'Add an applied part' : 'One more applied part'}
      </Button>
      {more.appliedParts.length === 0 && (
        <FormControlLabel
          sx={{ my: -0.75 }}
          control={
            <Checkbox
              checked={more.noAppliedParts === true}
              onChange={(event) => onChange({ ...more, noAppliedParts: event.target.checked })}
            />
          }
          label="No applied parts: I looked, nothing of it touches a patient"
        />
      )}
    </Box>
  );
}
