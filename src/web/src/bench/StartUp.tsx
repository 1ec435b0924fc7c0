import { Box } from '@mui/material';
import { useEffect, useState } from 'react';
import { now as clock } from '../api/clock';
import { c } from '../design/tokens';
import { useShown } from './useBench';

/** How long until what was switched on has started; what is typed before that is no reading. */
export function StartUp() {
  const from = useShown(({ now }) => now.runsFrom ?? null);
  const [left, setLeft] = useState(0);
  useEffect(() => {
    const tick = () => setLeft(from ? Math.ceil((Date.parse(from) - clock().getTime()) / 1000) : 0);
    tick();
    const timer = setInterval(tick, 250);
    return () => clearInterval(timer);
  }, [from]);
  return left <= 0 ? null : (
    <Box role="timer" sx={{ color: c.advice, fontWeight: 700, fontVariantNumeric: 'tabular-nums' }}>
      It starts up: {left} s until a reading counts
    </Box>
  );
}
