import { TextField } from '@mui/material';

export interface Repair {
  found: string;
  done: string;
  parts: string;
  repairedBy: string;
}

export const noRepair: Repair = { found: '', done: '', parts: '', repairedBy: '' };

export const isRepairSaid = (it: Repair) =>
  [it.found, it.done, it.repairedBy].every((text) => text.trim() !== '');

/** As it is sent: what was left empty is nothing. */
export const repairOf = (it: Repair) => ({
  found: it.found.trim(),
  done: it.done.trim(),
  parts: it.parts.trim() === '' ? null : it.parts.trim(),
  repairedBy: it.repairedBy.trim(),
});

/** What was found and mended, told alike on the board and at the bench. */
export function RepairFields(props: { value: Repair; onChange: (it: Repair) => void }) {
  const field = (name: keyof Repair, label: string) => (
    <TextField
      fullWidth
      label={label}
      value={props.value[name]}
      autoFocus={name === 'found'}
      onChange={(event) => props.onChange({ ...props.value, [name]: event.target.value })}
      slotProps={{ htmlInput: { maxLength: 500, autoComplete: 'off' } }}
    />
  );
  return (
    <>
      {field('found', 'What was found')}
      {field('done', 'What was done')}
      {field('parts', 'Parts replaced (may stay empty)')}
      {field('repairedBy', 'Repaired by')}
    </>
  );
}
