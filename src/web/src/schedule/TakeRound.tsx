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
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useId, useState } from 'react';
import { Link } from 'react-router';
import { api, ask, type Schema } from '../api/client';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { span } from './words';

/** Makes a planned round of a proposed one. The standard is chosen here and now: none is taken over from another round. */
export function TakeRound(props: {
  round: Schema['ProposedCard'];
  /** Its items are in a round now. */
  onTaken: (items: readonly string[]) => void;
  onClose: () => void;
}) {
  const { round } = props;
  const items = round.visits.flatMap((visit) => visit.items.map((it) => it.id));
  const title = useId();
  const queries = useQueryClient();
  const [id] = useState(() => crypto.randomUUID());
  const [name, setName] = useState(`${round.site}, ${span(round.from, round.to)}`.slice(0, 120));
  const [standard, setStandard] = useState('');
  const [medical, setMedical] = useState('');
  const form = useQuery({ queryKey: ['round-form'], queryFn: () => ask(api.GET('/api/v1/rounds/form')) });
  const take = useMutation({
    mutationFn: () =>
      ask(
        api.POST('/api/v1/schedule/rounds', {
          body: {
            id,
            siteId: round.siteId,
            name,
            standardId: round.needsStandard ? standard : null,
            medicalStandardId: round.needsMedical ? medical : null,
            days: round.visits.map((visit) => ({
              day: visit.day,
              personId: visit.personId,
              minutes: visit.dayMinutes,
            })),
            items,
          },
        }),
      ),
    onSuccess: async () => {
      await queries.invalidateQueries({ queryKey: ['rounds'] });
    },
  });
  const close = () => {
    props.onClose();
    if (!take.data) return;
    props.onTaken(items);
    void queries.invalidateQueries({ queryKey: ['schedule'] });
  };
  const isReady =
    name.trim() !== '' &&
    (!round.needsStandard || standard !== '') &&
    (!round.needsMedical || medical !== '');
  const choice = (
    label: string,
    value: string,
    set: (id: string) => void,
    scope: 'appliances' | 'medical',
  ) => (
    <TextField
      select
      required
      label={label}
      value={value}
      onChange={(event) => set(event.target.value)}
      helperText="Chosen for this round; printed on every paper of it."
    >
      {(form.data?.standards ?? [])
        .filter((it) => it.scope === scope)
        .map((it) => (
          <MenuItem key={it.id} value={it.id}>
            {it.name}
          </MenuItem>
        ))}
    </TextField>
  );
  return (
    <Dialog open onClose={close} fullWidth maxWidth="sm" aria-labelledby={title}>
      <Box
        component="form"
        onSubmit={(event) => {
          event.preventDefault();
          if (isReady && !take.data && !take.isPending) take.mutate();
        }}
      >
        <DialogTitle id={title}>{take.data ? 'The round is planned' : 'Plan this round'}</DialogTitle>
        <DialogContent sx={{ display: 'grid', gap: 2, pt: '8px !important' }}>
          {take.data ? (
            <Box role="status">
              <Link to={`/rounds/${take.data.id}`}>{name}</Link> with {take.data.items}{' '}
              {take.data.items === 1 ? 'item' : 'items'}.
              {take.data.left > 0 &&
                ` ${take.data.left} went into another round meanwhile, or out of use, and stay there.`}
            </Box>
          ) : (
            <>
              <Box sx={{ color: c.bark }}>
                {round.client}, {round.site}: {round.items} items. {round.price}.
              </Box>
              <TextField
                label="Name"
                required
                value={name}
                onChange={(event) => setName(event.target.value)}
                slotProps={{ htmlInput: { maxLength: 120, autoComplete: 'off' } }}
              />
              {round.needsStandard && choice('Appliances are judged by', standard, setStandard, 'appliances')}
              {round.needsMedical && choice('Medical devices are judged by', medical, setMedical, 'medical')}
              {form.error && <Notice problem={form.error} />}
              {take.error && <Notice problem={take.error} />}
            </>
          )}
        </DialogContent>
        <DialogActions>
          <Button color="inherit" onClick={close}>
            {take.data ? 'Close' : 'Cancel'}
          </Button>
          {!take.data && (
            <Button type="submit" variant="contained" disabled={!isReady || take.isPending}>
              Plan it
            </Button>
          )}
        </DialogActions>
      </Box>
    </Dialog>
  );
}
