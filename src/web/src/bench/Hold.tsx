import { Box, Button } from '@mui/material';
import { useCallback, useEffect, useRef, useState } from 'react';

// Longer than any key that is struck, or struck twice, in passing.
const holdMs = 700;
const confirmWithinMs = 3000;

/**
 * Started by a deliberate hold, never by a passing key. Whoever cannot hold (a switch, a voice, a shaking hand) presses, and confirms
 * within
 * three seconds. Leaving the page in mid-hold starts nothing.
 */
export function Hold({
  onHeld,
  disabled,
  says = 'Hold to start',
}: {
  onHeld: () => void;
  disabled: boolean;
  /** What holding it says, where that is kept with it. */
  says?: string;
}) {
  const timer = useRef<number | null>(null);
  const [is, setIs] = useState<'idle' | 'holding' | 'asked'>('idle');
  const clear = useCallback(() => {
    if (timer.current !== null) window.clearTimeout(timer.current);
    timer.current = null;
  }, []);
  useEffect(() => clear, [clear]);
  // Whoever works by keys holds Enter at once: the focus waits here, unless it is needed elsewhere. A passing key starts nothing.
  const button = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    const at = document.activeElement;
    const isFree =
      !at || at === document.body || (at instanceof HTMLInputElement && at.id === 'scan' && at.value === '');
    if (!disabled && isFree) button.current?.focus({ preventScroll: true });
  }, [disabled]);
  const press = () => {
    if (disabled || timer.current !== null) return;
    setIs('holding');
    timer.current = window.setTimeout(() => {
      timer.current = null;
      setIs('idle');
      onHeld();
    }, holdMs);
  };
  const release = () => {
    if (is !== 'holding') return;
    clear();
    setIs('idle');
  };
  const ask = () => {
    clear();
    setIs('asked');
    timer.current = window.setTimeout(() => {
      timer.current = null;
      setIs('idle');
    }, confirmWithinMs);
  };
  const confirm = () => {
    clear();
    setIs('idle');
    onHeld();
  };
  return (
    <Box sx={{ mt: 1.25, display: 'grid', gap: 1 }}>
      <Button
        id="hold"
        ref={button}
        fullWidth
        variant="contained"
        color="error"
        disabled={disabled}
        onPointerDown={press}
        onPointerUp={release}
        onPointerLeave={release}
        onPointerCancel={release}
        onBlur={release}
        onContextMenu={(event) => event.preventDefault()}
        onKeyDown={(event) => {
          if (event.key !== 'Enter' && event.key !== ' ') return;
          event.preventDefault();
          if (!event.repeat) press();
        }}
        onKeyUp={release}
        sx={{ touchAction: 'none' }}
      >
        {is === 'holding' ? 'Keep holding' : says}
      </Button>
      {is === 'asked' ? (
        <Button fullWidth variant="outlined" color="error" autoFocus onClick={confirm}>
          Start now: hands off
        </Button>
      ) : (
        <Button fullWidth size="small" color="inherit" disabled={disabled || is === 'holding'} onClick={ask}>
          I cannot hold: press, then confirm
        </Button>
      )}
    </Box>
  );
}
