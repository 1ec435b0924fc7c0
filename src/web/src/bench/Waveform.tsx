import { Box } from '@mui/material';
import type { Schema } from '../api/client';
import { c } from '../design/tokens';

type Drawn = NonNullable<Schema['ReadingView']['waveform']>;

const width = 300;
const height = 96;

/** What an instrument drew: a shock's current, a charge, a strip. Its ends stand in figures beside it, so that nobody has to guess. */
export function Waveform({ of, label }: { of: Drawn; label: string }) {
  const low = Math.min(0, ...of.values);
  const high = Math.max(0, ...of.values);
  const span = high > low ? high - low : 1;
  const x = (n: number) => (n * width) / (of.values.length - 1);
  const y = (value: number) => height - ((value - low) / span) * height;
  const time = of.every * (of.values.length - 1);
  return (
    <Box component="figure" sx={{ m: 0 }}>
      <svg
        viewBox={`-2 -3 ${width + 4} ${height + 6}`}
        width="100%"
        role="img"
        aria-label={`${label}, ${of.of}: ${figure(Math.min(...of.values))} to ${figure(Math.max(...of.values))} ${of.unit} over ${figure(time)} ${of.everyUnit}`}
        style={{ display: 'block', maxWidth: 420 }}
      >
        {[0.25, 0.5, 0.75].map((share) => (
          <line
            key={share}
            x1={width * share}
            y1="0"
            x2={width * share}
            y2={height}
            stroke={c.line}
            strokeWidth="1"
          />
        ))}
        <line x1="0" y1={y(0)} x2={width} y2={y(0)} stroke={c.muted} strokeWidth="1.2" />
        <polyline
          points={of.values.map((value, n) => `${x(n).toFixed(1)},${y(value).toFixed(1)}`).join(' ')}
          fill="none"
          stroke={c.slate}
          strokeWidth="2.2"
          strokeLinejoin="round"
        />
      </svg>
      <Box
        component="figcaption"
        sx={{ color: c.bark, fontSize: 13.5, display: 'flex', justifyContent: 'space-between', gap: 1 }}
      >
        <span>{of.of}</span>
        <Box component="span" sx={{ fontVariantNumeric: 'tabular-nums', whiteSpace: 'nowrap' }}>
          {figure(Math.min(...of.values))} to {figure(Math.max(...of.values))} {of.unit}, {figure(time)}{' '}
          {of.everyUnit}
        </Box>
      </Box>
    </Box>
  );
}

const figure = (it: number) => (Math.abs(it) >= 100 ? it.toFixed(0) : Number(it.toFixed(2)).toString());
