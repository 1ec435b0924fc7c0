import { MenuItem, TextField } from '@mui/material';
import type { Schema } from '../api/client';
import { places } from './words';

/** What kind of place a room is: it decides the dates. */
export const PlaceField = (props: { value: Schema['Place']; onChange: (place: Schema['Place']) => void }) => (
  <TextField
    select
    label="Kind of place"
    value={props.value}
    onChange={(event) => props.onChange(event.target.value as Schema['Place'])}
  >
    {Object.entries(places).map(([value, shown]) => (
      <MenuItem key={value} value={value}>
        {shown}
      </MenuItem>
    ))}
  </TextField>
);

/** The rooms of the site, offered to a field whose `list` is "rooms". */
export const RoomNames = ({ rooms }: { rooms: readonly string[] | undefined }) => (
  <datalist id="rooms">
    {rooms?.map((room) => (
      <option key={room} value={room}>
        {room}
      </option>
    ))}
  </datalist>
);
