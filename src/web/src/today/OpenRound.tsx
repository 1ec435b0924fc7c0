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
import { useState, type ChangeEvent } from 'react';
import { useNavigate } from 'react-router';
import { api, ask } from '../api/client';
import { Notice } from '../frame/Notice';
import { amountOf } from '../frame/amount';

const inDays = (days: number) => new Date(Date.now() + days * 86_400_000).toISOString().slice(0, 10);

/** A lead opens a round: where, and by which rules. The rules are chosen anew every time, never taken from the last round. */
export function OpenRound({ onClose, isPlanned = false }: { onClose: () => void; isPlanned?: boolean }) {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const form = useQuery({ queryKey: ['round-form'], queryFn: () => ask(api.GET('/api/v1/rounds/form')) });
  const [it, setIt] = useState({
    clientCode: '',
    clientName: '',
    site: '',
    name: '',
    standardId: '',
    medicalStandardId: '',
    startsOn: inDays(0),
    endsOn: inDays(14),
    volts: '',
    hertz: '',
  });
  const known = form.data?.clients.find((client) => client.code === it.clientCode.toUpperCase());
  const isVoltsANumber = Number.isFinite(amountOf(it.volts));
  const open = useMutation({
    mutationFn: () =>
      ask(
        api.POST('/api/v1/rounds', {
          body: {
            clientCode: it.clientCode,
            site: it.site,
            name: it.name,
            standardId: it.standardId,
            endsOn: it.endsOn,
            startsOn: isPlanned ? it.startsOn : null,
            isPlanned,
            nominalV: it.volts.trim() ? amountOf(it.volts) : null,
            mainsHz: it.hertz ? Number(it.hertz) : null,
            clientName: known?.name ?? it.clientName,
            medicalStandardId: it.medicalStandardId || null,
          },
        }),
      ),
    onSuccess: ({ id }) => {
      void queries.invalidateQueries({ queryKey: ['today'] });
      void queries.invalidateQueries({ queryKey: ['rounds'] });
      onClose();
      if (isPlanned) void navigate(`/rounds/${id}`);
    },
  });
  /** A site keeps its mains from round to round: what is known of it stands in the form. */
  const chooseSite = (name: string) => {
    const site = known?.sites.find((one) => one.name === name);
    setIt({
      ...it,
      site: name,
      ...(site && { volts: `${site.nominalV ?? ''}`, hertz: `${site.mainsHz ?? ''}` }),
    });
  };
  const text = (name: keyof typeof it, label: string, more?: object) => (
    <TextField
      label={label}
      value={it[name]}
      required
      onChange={(event) => setIt({ ...it, [name]: event.target.value })}
      {...more}
    />
  );
  const pick = (name: 'standardId' | 'medicalStandardId', label: string, scope: 'appliances' | 'medical') => (
    <TextField
      select
      label={label}
      value={it[name]}
      required={name === 'standardId'}
      onChange={(event) => setIt({ ...it, [name]: event.target.value })}
    >
      {name === 'medicalStandardId' && <MenuItem value="">no medical devices here</MenuItem>}
      {(form.data?.standards ?? [])
        .filter((standard) => standard.scope === scope)
        .map((standard) => (
          <MenuItem key={standard.id} value={standard.id}>
            {standard.name}
          </MenuItem>
        ))}
    </TextField>
  );
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="open-round">
      <Box
        component="form"
        onSubmit={(event) => {
          event.preventDefault();
          open.mutate();
        }}
      >
        <DialogTitle id="open-round">{isPlanned ? 'Plan a round' : 'Open a round'}</DialogTitle>
        <DialogContent sx={{ display: 'grid', gap: 2, pt: '8px !important' }}>
          {form.error && <Notice problem={form.error} />}
          <Box sx={{ display: 'grid', gridTemplateColumns: '130px 1fr', gap: 1.5 }}>
            {text('clientCode', 'Client code', {
              autoFocus: true,
              slotProps: { htmlInput: { list: 'client-codes', maxLength: 10 } },
            })}
            {known ? (
              <TextField label="Client" value={known.name} disabled />
            ) : (
              text('clientName', 'Client, new to this house')
            )}
          </Box>
          <datalist id="client-codes">
            {form.data?.clients.map((client) => (
              <option key={client.code} value={client.code}>
                {client.name}
              </option>
            ))}
          </datalist>
          {text('site', 'Site', {
            onChange: (event: ChangeEvent<HTMLInputElement>) => chooseSite(event.target.value),
            slotProps: { htmlInput: { list: 'sites' } },
          })}
          <datalist id="sites">
            {known?.sites.map((site) => (
              <option key={site.name} value={site.name}>
                {site.name}
              </option>
            ))}
          </datalist>
          {text('name', 'Name of the round')}
          {pick('standardId', 'Appliances are judged by', 'appliances')}
          {pick('medicalStandardId', 'Medical devices are judged by', 'medical')}
          <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1.5 }}>
            {text('volts', 'Mains of the site, V', {
              required: false,
              placeholder: "the standard's",
              helperText: isVoltsANumber
                ? 'to neutral; empty: as the standard supposes'
                : 'This is no number.',
              error: !isVoltsANumber,
              slotProps: { inputLabel: { shrink: true }, htmlInput: { inputMode: 'decimal', maxLength: 6 } },
            })}
            <TextField
              select
              label="Frequency"
              value={it.hertz}
              onChange={(event) => setIt({ ...it, hertz: event.target.value })}
              slotProps={{ inputLabel: { shrink: true }, select: { displayEmpty: true } }}
            >
              <MenuItem value="">as the standard supposes</MenuItem>
              <MenuItem value="50">50 Hz</MenuItem>
              <MenuItem value="60">60 Hz</MenuItem>
              <MenuItem value="0">direct current</MenuItem>
            </TextField>
          </Box>
          {isPlanned &&
            text('startsOn', 'From', { type: 'date', slotProps: { inputLabel: { shrink: true } } })}
          {text('endsOn', 'Until', { type: 'date', slotProps: { inputLabel: { shrink: true } } })}
          {open.error && <Notice problem={open.error} />}
        </DialogContent>
        <DialogActions>
          <Button color="inherit" onClick={onClose}>
            Cancel
          </Button>
          <Button type="submit" variant="contained" disabled={open.isPending || !isVoltsANumber}>
            {isPlanned ? 'Plan it' : 'Open the round'}
          </Button>
        </DialogActions>
      </Box>
    </Dialog>
  );
}
