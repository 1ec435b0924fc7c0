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
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, type Schema } from '../api/client';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { places } from './words';

/** An item was found elsewhere: where it is, and whether it was knocked on the way, answered with one press. */
export function MoveDialog(props: {
  itemId: string;
  tag: string;
  room: string;
  revision: number;
  rooms: readonly string[];
  onClose: () => void;
}) {
  const queries = useQueryClient();
  const [room, setRoom] = useState(props.room);
  const [place, setPlace] = useState<Schema['Place'] | ''>('');
  const move = useMutation({
    mutationFn: (wasKnocked: boolean) =>
      ask(
        api.POST('/api/v1/register/{itemId}/move', {
          params: { path: { itemId: props.itemId } },
          body: { revision: props.revision, room, place: place || null, wasKnocked },
        }),
      ),
    onSuccess: () => {
      for (const key of ['item', 'round', 'rounds', 'today', 'register'])
        void queries.invalidateQueries({ queryKey: [key] });
      props.onClose();
    },
  });
  const isElsewhere = room.trim() !== '' && (room.trim() !== props.room || place !== '');
  return (
    <Dialog open onClose={props.onClose} fullWidth maxWidth="sm" aria-labelledby="move-title">
      <DialogTitle id="move-title">{props.tag}: where is it, and was it knocked?</DialogTitle>
      <DialogContent sx={{ pt: '8px !important', display: 'grid', gap: 2 }}>
        <TextField
          autoFocus
          label="Found in"
          value={room}
          onChange={(event) => setRoom(event.target.value)}
          onFocus={(event) => event.target.select()}
          slotProps={{ htmlInput: { list: 'move-rooms', maxLength: 120, autoComplete: 'off' } }}
        />
        <datalist id="move-rooms">
          {props.rooms.map((it) => (
            <option key={it} value={it}>
              {it}
            </option>
          ))}
        </datalist>
        <TextField
          select
          label="Kind of place"
          value={place}
          onChange={(event) => setPlace(event.target.value as Schema['Place'])}
        >
          <MenuItem value="">as before</MenuItem>
          {Object.entries(places).map(([value, text]) => (
            <MenuItem key={value} value={value}>
              {text}
            </MenuItem>
          ))}
        </TextField>
        <Box sx={{ color: c.muted, fontSize: 14.5 }}>
          Its dates are reckoned anew by the place. Knocked, dropped or wet, it is due at once.
        </Box>
        {move.error && <Notice problem={move.error} />}
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={props.onClose}>
          Cancel
        </Button>
        <Button
          variant="outlined"
          color="error"
          disabled={move.isPending || room.trim() === ''}
          onClick={() => move.mutate(true)}
        >
          Knocked, dropped or wet
        </Button>
        <Button
          variant="contained"
          disabled={move.isPending || !isElsewhere}
          onClick={() => move.mutate(false)}
        >
          Moved, and nothing happened to it
        </Button>
      </DialogActions>
    </Dialog>
  );
}
