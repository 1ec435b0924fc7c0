import { Box, Button, TextField } from '@mui/material';
import { useState } from 'react';
import type { Schema } from '../api/client';
import { c } from '../design/tokens';
import { type LookChange, type LookList, ofAll } from './lookList';

/** A point that the house asks besides, or a shipped one that it does not ask: of which items, and why. */
export function LookPointForm(props: {
  page: LookList;
  /** The shipped point that is dropped; null where one is added. */
  dropped: Schema['LookPointCard'] | null;
  isBusy: boolean;
  onTake: (change: LookChange) => void;
  onClose: () => void;
}) {
  const [where, setWhere] = useState('');
  const [text, setText] = useState('');
  const [phrases, setPhrases] = useState('');
  const [reason, setReason] = useState('');
  const [reach, setReach] = useState<Record<keyof typeof ofAll, string[]>>(ofAll);
  const { dropped } = props;
  const isWhole = (dropped ? [reason] : [where, text, reason]).every((it) => it.trim() !== '');
  const chips = (name: keyof typeof ofAll, label: string, of: readonly Schema['Choice'][]) => (
    <Box
      role="group"
      aria-label={label}
      sx={{ display: 'flex', gap: 0.75, flexWrap: 'wrap', alignItems: 'center' }}
    >
      <Box sx={{ color: c.muted, fontSize: 14, width: 70 }}>{label}</Box>
      {of.map((it) => {
        const has = reach[name].includes(it.value);
        return (
          <Button
            key={it.value}
            size="small"
            variant={has ? 'contained' : 'outlined'}
            color="inherit"
            aria-pressed={has}
            onClick={() =>
              setReach({
                ...reach,
                [name]: has ? reach[name].filter((one) => one !== it.value) : [...reach[name], it.value],
              })
            }
          >
            {it.text}
          </Button>
        );
      })}
    </Box>
  );
  return (
    <Box
      component="form"
      aria-label={dropped ? 'A point to drop' : 'A point to add'}
      onSubmit={(event) => {
        event.preventDefault();
        if (!isWhole) return;
        props.onTake({
          kind: dropped ? 'drop' : 'add',
          pointId: dropped?.id ?? null,
          target: null,
          where: dropped ? null : where.trim(),
          text: dropped ? null : text.trim(),
          phrases: phrases.split('\n').filter((it) => it.trim() !== ''),
          kinds: reach.kinds as Schema['ItemKind'][],
          classes: reach.classes as Schema['ProtectionClass'][],
          plugs: reach.plugs as Schema['PlugType'][],
          packs: reach.packs,
          reason: reason.trim(),
        });
      }}
      sx={{
        display: 'grid',
        gap: 1.5,
        mt: 2,
        p: 2,
        border: `1px solid ${c.line}`,
        borderRadius: '6px',
        bgcolor: c.raised,
      }}
    >
      {dropped && (
        <Box sx={{ fontWeight: 600 }}>
          Not looked at: {dropped.where}, {dropped.text}
        </Box>
      )}
      <Box
        sx={{
          display: dropped ? 'none' : 'grid',
          gap: 1.5,
          gridTemplateColumns: { xs: '1fr', md: '180px 1fr' },
        }}
      >
        <TextField
          autoFocus={!dropped}
          size="small"
          label="Where"
          value={where}
          onChange={(event) => setWhere(event.target.value)}
          slotProps={{ htmlInput: { maxLength: 200, list: 'look-wheres' } }}
        />
        <datalist id="look-wheres">
          {[...new Set(props.page.points.map((it) => it.where))].map((it) => (
            <option key={it} value={it} aria-label={it} />
          ))}
        </datalist>
        <TextField
          size="small"
          label="What good looks like"
          value={text}
          onChange={(event) => setText(event.target.value)}
          slotProps={{ htmlInput: { maxLength: 200 } }}
        />
      </Box>
      <TextField
        size="small"
        multiline
        sx={{ display: dropped ? 'none' : undefined }}
        minRows={2}
        label="Offered where it is bad, one a line"
        value={phrases}
        onChange={(event) => setPhrases(event.target.value)}
      />
      <Box sx={{ color: c.bark, fontSize: 14.5 }}>Of which items; nothing chosen means all.</Box>
      {chips('kinds', 'Kinds', props.page.kinds)}
      {chips('classes', 'Classes', props.page.classes)}
      {chips('plugs', 'Plugs', props.page.plugs)}
      {chips('packs', 'Standards', props.page.packs)}
      <TextField
        size="small"
        autoFocus={dropped !== null}
        label={dropped ? 'Why it is not looked at' : 'Why this house asks it'}
        value={reason}
        onChange={(event) => setReason(event.target.value)}
        slotProps={{ htmlInput: { maxLength: 300 } }}
      />
      <Box sx={{ display: 'flex', gap: 1 }}>
        <Button type="submit" variant="contained" disabled={!isWhole || props.isBusy}>
          {dropped ? 'Drop the point' : 'Add the point'}
        </Button>
        <Button color="inherit" onClick={props.onClose}>
          Cancel
        </Button>
      </Box>
    </Box>
  );
}
