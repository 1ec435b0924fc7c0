import { TextField } from '@mui/material';
import { useState } from 'react';
import { amountOf, amountTrouble } from '../frame/amount';

/**
 * A number as it is typed, with a comma or a point: "0.", on the way to "0.2", stays what it is. What is no number is handed on as NaN, so
 * that a form can refuse to send it; nothing is read into it.
 */
export function NumberField(props: {
  label: string;
  value: number | null;
  onChange: (it: number | null) => void;
}) {
  const [text, setText] = useState(() =>
    props.value === null || Number.isNaN(props.value) ? '' : String(props.value),
  );
  const trouble = amountTrouble(text);
  return (
    <TextField
      size="small"
      label={props.label}
      value={text}
      error={!!trouble}
      helperText={trouble}
      onChange={(event) => {
        setText(event.target.value);
        props.onChange(event.target.value.trim() === '' ? null : amountOf(event.target.value));
      }}
      slotProps={{ htmlInput: { inputMode: 'decimal', autoComplete: 'off' } }}
    />
  );
}

/** Whether something in it is no number: JSON would make nothing of it, and nobody would be told. */
export const holdsNaN = (it: unknown): boolean =>
  typeof it === 'number'
    ? Number.isNaN(it)
    : typeof it === 'object' && it !== null && Object.values(it).some(holdsNaN);
