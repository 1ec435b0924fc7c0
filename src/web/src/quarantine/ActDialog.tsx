import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, TextField } from '@mui/material';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useId, useState } from 'react';
import { api, ask, type Schema } from '../api/client';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { PhotoButton } from '../public/PhotoButton';
import { sendPhoto } from '../public/sendPhoto';
import { type ActKind, actWords } from './acts';
import { isRepairSaid, noRepair, type Repair, RepairFields, repairOf } from './RepairFields';

type Act = Schema['DoAct']['act'];
type Words = Record<'told' | 'words' | 'to' | 'proof' | 'warning', string>;

/** One thing done about an item out of use, told in the fewest words that still say it in five years. */
export function ActDialog(props: {
  item: { id: string; tag: string; name: string };
  hold: Schema['HoldStory'];
  kind: ActKind;
  onClose: () => void;
}) {
  const { item, hold, kind } = props;
  const id = useId();
  const queries = useQueryClient();
  // The number of this act, so that sending it twice does it once.
  const [actId] = useState(() => crypto.randomUUID());
  const [how, setHow] = useState<string>('');
  const [photo, setPhoto] = useState<File | null>(null);
  const [repair, setRepair] = useState(noRepair);
  const [words, setWords] = useState<Words>({
    ...{ told: '', words: '', to: '', proof: '' },
    warning: hold.usualWarning,
  });
  const save = useMutation({
    mutationFn: async () => {
      const kept = photo ? await sendPhoto(`/api/v1/register/${item.id}/photos?of=other`, photo) : null;
      if (kept && 'refused' in kept) throw kept.refused;
      return ask(
        api.POST('/api/v1/quarantine/{itemId}/acts', {
          params: { path: { itemId: item.id } },
          body: { id: actId, cause: hold.cause, act: actOf(kind, how, words, repair, kept?.id ?? null) },
        }),
      );
    },
    onSuccess: async () => {
      await Promise.all([
        queries.invalidateQueries({ queryKey: ['quarantine'] }),
        queries.invalidateQueries({ queryKey: ['item', item.id] }),
        queries.invalidateQueries({ queryKey: ['register'] }),
      ]);
      props.onClose();
    },
  });
  const field = (
    name: keyof Words,
    label: string,
    more?: { optional?: boolean; offered?: readonly string[]; autoFocus?: boolean },
  ) => (
    <Box>
      <TextField
        fullWidth
        multiline={name === 'warning' || name === 'proof'}
        label={more?.optional ? `${label} (may stay empty)` : label}
        value={words[name]}
        autoFocus={more?.autoFocus ?? false}
        onChange={(event) => setWords({ ...words, [name]: event.target.value })}
        slotProps={{ htmlInput: { maxLength: 500, autoComplete: 'off' } }}
      />
      {more?.offered && (
        <Box
          role="group"
          aria-label={`Offered: ${label}`}
          sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', mt: 1 }}
        >
          {more.offered.map((it) => (
            <Button
              key={it}
              size="small"
              variant="outlined"
              color="inherit"
              onClick={() => setWords({ ...words, [name]: it })}
            >
              {it}
            </Button>
          ))}
        </Box>
      )}
    </Box>
  );
  const pick = (of: readonly Schema['Choice'][], label: string) => (
    <Box role="group" aria-label={label} sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
      {of.map((it) => (
        <Button
          key={it.value}
          variant={how === it.value ? 'contained' : 'outlined'}
          color="inherit"
          aria-pressed={how === it.value}
          onClick={() => setHow(it.value)}
        >
          {it.text}
        </Button>
      ))}
    </Box>
  );
  const isSaid =
    kind === 'madeSafe'
      ? how !== '' && words.told.trim() !== ''
      : kind === 'scrapped'
        ? how !== '' && words.proof.trim() !== ''
        : kind === 'repaired'
          ? isRepairSaid(repair)
          : kind === 'returnedUntested'
            ? words.to.trim() !== '' && words.warning.trim() !== ''
            : words.to.trim() !== '';
  return (
    <Dialog open onClose={props.onClose} fullWidth maxWidth="sm" aria-labelledby={id}>
      <Box
        component="form"
        onSubmit={(event) => {
          event.preventDefault();
          if (isSaid && !save.isPending) save.mutate();
        }}
      >
        <DialogTitle id={id}>
          {actWords[kind].title}
          <Box sx={{ fontSize: 15, fontWeight: 400, color: c.bark }}>
            {item.tag} {item.name} · {hold.why}
          </Box>
        </DialogTitle>
        <DialogContent sx={{ display: 'grid', gap: 2, pt: '8px !important' }}>
          {kind === 'madeSafe' && (
            <>
              {pick(hold.unusable, 'How nobody can use it')}
              {field('told', 'Who was told', { offered: hold.told })}
              {field('words', 'Where it is now', { optional: true })}
            </>
          )}
          {kind === 'sentToRepair' && field('to', 'To whom', { autoFocus: true, offered: hold.repairers })}
          {kind === 'repaired' && (
            <>
              <RepairFields value={repair} onChange={setRepair} />
              <Box sx={{ color: c.bark }}>
                It stays out of use until it passes a test after repair, from the look on.
              </Box>
            </>
          )}
          {kind === 'scrapped' && (
            <>
              {pick(hold.scrapping, 'How it was made unusable')}
              {field('proof', 'Who saw it, or where it went')}
              <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
                <PhotoButton text="Photo of it" label="Photo of what is left" onPhoto={setPhoto} />
                {photo && <Box sx={{ color: c.bark, fontSize: 14 }}>It goes with the item.</Box>}
              </Box>
              <Box sx={{ color: c.fail, fontWeight: 600 }}>
                It does not come back: what replaces it is registered anew.
              </Box>
            </>
          )}
          {kind === 'returnedUntested' && (
            <>
              {field('to', 'To whom', { autoFocus: true })}
              {field('warning', 'The warning that goes with it')}
            </>
          )}
          {save.error && <Notice problem={save.error} />}
        </DialogContent>
        <DialogActions>
          <Button color="inherit" onClick={props.onClose}>
            Cancel
          </Button>
          <Button
            type="submit"
            variant="contained"
            color={kind === 'scrapped' ? 'error' : 'primary'}
            disabled={!isSaid || save.isPending}
          >
            {actWords[kind].take}
          </Button>
        </DialogActions>
      </Box>
    </Dialog>
  );
}

function actOf(kind: ActKind, how: string, it: Words, repair: Repair, photo: string | null): Act {
  switch (kind) {
    case 'madeSafe':
      return {
        kind,
        how: how as Schema['MadeUnusable'],
        told: it.told.trim(),
        words: it.words.trim() || null,
      };
    case 'sentToRepair':
      return { kind, to: it.to.trim() };
    case 'repaired':
      return { kind, ...repairOf(repair) };
    case 'scrapped':
      return { kind, how: how as Schema['ScrappedHow'], proof: it.proof.trim(), photo };
    case 'returnedUntested':
      return { kind, to: it.to.trim(), warning: it.warning.trim() };
  }
}
