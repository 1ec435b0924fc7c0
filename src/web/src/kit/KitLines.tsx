import { Box, Button, MenuItem, TextField } from '@mui/material';
import { c } from '../design/tokens';
import type { Line, LineKind } from './lines';
import { tests, unitLabel } from './words';

/** Rows of figures: a tester's ranges, or the terminals of a check box. */
export function KitLines<T>(props: {
  title: string;
  kind: LineKind<T>;
  lines: Line[];
  onChange: (lines: Line[]) => void;
}) {
  const { kind, lines, onChange } = props;
  const change = (key: string, to: Partial<Line>) =>
    onChange(lines.map((line) => (line.key === key ? { ...line, ...to } : line)));
  return (
    <Box role="group" aria-label={props.title} sx={{ display: 'grid', gap: 1 }}>
      <Box sx={{ color: c.bark, fontWeight: 600 }}>{props.title}</Box>
      {lines.map((line) => (
        <Box key={line.key} sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'center' }}>
          {kind.isNamed && (
            <TextField
              size="small"
              label="Terminal"
              value={line.name}
              onChange={(event) => change(line.key, { name: event.target.value })}
              slotProps={{ htmlInput: { maxLength: 60 } }}
              sx={{ flex: '1 1 150px' }}
            />
          )}
          <TextField
            select
            size="small"
            label="Test"
            value={line.test}
            onChange={(event) => {
              const test = tests.find((it) => it.value === event.target.value)!;
              change(line.key, { test: test.value, unit: test.units[0]! });
            }}
            sx={{ flex: '0 1 190px' }}
          >
            {tests.map((it) => (
              <MenuItem key={it.value} value={it.value}>
                {it.text}
              </MenuItem>
            ))}
          </TextField>
          {kind.columns.map((column) => (
            <TextField
              key={column.key}
              size="small"
              label={column.label}
              value={line.figures[column.key] ?? ''}
              onChange={(event) =>
                change(line.key, { figures: { ...line.figures, [column.key]: event.target.value } })
              }
              slotProps={{ htmlInput: { inputMode: 'decimal', autoComplete: 'off', maxLength: 12 } }}
              sx={{ width: 104 }}
            />
          ))}
          <TextField
            select
            size="small"
            label="Unit"
            value={line.unit}
            onChange={(event) => change(line.key, { unit: event.target.value })}
            sx={{ width: 90 }}
          >
            {(tests.find((it) => it.value === line.test)?.units ?? [line.unit]).map((unit) => (
              <MenuItem key={unit} value={unit}>
                {unitLabel(unit)}
              </MenuItem>
            ))}
          </TextField>
          <Button
            size="small"
            color="inherit"
            onClick={() => onChange(lines.filter((it) => it.key !== line.key))}
          >
            Remove
          </Button>
        </Box>
      ))}
      <Box>
        <Button
          size="small"
          variant="outlined"
          color="inherit"
          onClick={() => onChange([...lines, kind.blank()])}
        >
          One more line
        </Button>
      </Box>
    </Box>
  );
}
