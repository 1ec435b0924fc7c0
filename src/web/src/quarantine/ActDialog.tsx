import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, TextField } from '@mui/material';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useId, useState } from 'react';
import { api, ask, type Schema } from '../api/client';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { PhotoButton } from '../public/PhotoButton';
import { sendPhoto } from '../public/sendPhoto';
import { type ActKind, actWords, scrapped, unusable } from './acts';

type Act = Schema['DoAct']['act'];
type Words = Record<
  'told' | 'words' | 'to' | 'found' | 'done' | 'parts' | 'repairedBy' | 'proof' | 'warning',
  string
>;

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
  const [words, setWords] = useState<Words>({
    ...{ told: '', words: '', to: '', found: '', done: '', parts: '', repairedBy: '', proof: '' },
    warning: hold.usualWarning,
  });
  const save = useMutation({
    mutationFn: async () => {
      const kept = photo ? await sendPhoto(`/api/v1/register/${item.id}/photos?of=other`, photo) : null;
      if (kept && 'refused' in kept) throw kept.refused;
      return ask(
        api.POST('/api/v1/quarantine/{itemId}/acts', {
          params: { path: { itemId: item.id } },
          body: { id: actId, cause: hold.cause, act: actOf(kind, how, words, kept?.id ?? null) },
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
  const pick = (
    of: Record<string, string>,
    label: string,
    leftOut: (value: string) => boolean = () => false,
  ) => (
    <Box role="group" aria-label={label} sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
      {Object.entries(of)
        .filter(([value]) => !leftOut(value))
        .map(([value, text]) => (
          <Button
            key={value}
            variant={how === value ? 'contained' : 'outlined'}
            color="inherit"
            aria-pressed={how === value}
            onClick={() => setHow(value)}
          >
            {text}
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
          ? [words.found, words.done, words.repairedBy].every((it) => it.trim() !== '')
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
              {pick(unusable, 'How nobody can use it', (it) => (it === 'lockedOff') !== hold.isHardWired)}
              {field('told', 'Who was told', {
                offered: ['the client’s contact on site', 'whoever uses it', 'the shift leader'],
              })}
              {field('words', 'Where it is now', { optional: true })}
            </>
          )}
          {kind === 'sentToRepair' &&
            field('to', 'To whom', {
              autoFocus: true,
              offered: ['our own workbench', 'its maker', 'the client’s electrician'],
            })}
          {kind === 'repaired' && (
            <>
              {field('found', 'What was found', { autoFocus: true })}
              {field('done', 'What was done')}
              {field('parts', 'Parts replaced', { optional: true })}
              {field('repairedBy', 'Repaired by')}
              <Box sx={{ color: c.bark }}>
                It stays out of use until it passes a test after repair, from the look on.
              </Box>
            </>
          )}
          {kind === 'scrapped' && (
            <>
              {pick(scrapped, 'How it was made unusable')}
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

function actOf(kind: ActKind, how: string, it: Words, photo: string | null): Act {
  const or = (text: string) => (text.trim() === '' ? null : text.trim());
  switch (kind) {
    case 'madeSafe':
      return { kind, how: how as Schema['MadeUnusable'], told: it.told.trim(), words: or(it.words) };
    case 'sentToRepair':
      return { kind, to: it.to.trim() };
    case 'repaired':
      return {
        kind,
        found: it.found.trim(),
        done: it.done.trim(),
        parts: or(it.parts),
        repairedBy: it.repairedBy.trim(),
      };
    case 'scrapped':
      return { kind, how: how as Schema['ScrappedHow'], proof: it.proof.trim(), photo };
    case 'returnedUntested':
      return { kind, to: it.to.trim(), warning: it.warning.trim() };
  }
}
