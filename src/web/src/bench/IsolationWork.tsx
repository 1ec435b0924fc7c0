import { Box, Button, TextField } from '@mui/material';
import { useState } from 'react';
import { Link } from 'react-router';
import { c } from '../design/tokens';
import { useDesk } from './desk';
import type { Step } from './types';
import { useRun, useShown } from './useBench';
import { amountOf } from '../frame/amount';

export const isIsolationWork = (step: Step) =>
  step.family === 'prove' || step.family === 'dead' || (step.family === 'confirm' && !!step.asksFor);

/** The place under a step of isolation that asks for more than a press. What counts is Core's to say. */
export function IsolationWork({ step }: { step: Step }) {
  return (
    <Box
      onClick={(event) => event.stopPropagation()}
      sx={{ gridColumn: { xs: '1 / -1', lg: '2 / -1' }, mt: 1.25 }}
    >
      {step.family === 'prove' && <Prove />}
      {step.family === 'dead' && <Dead step={step} />}
      {step.family === 'confirm' && <Words step={step} />}
    </Box>
  );
}

/** Whether it counts as live, what took the isolation back, and the lock: in view whatever is scrolled. */
export function LockTold() {
  const desk = useDesk();
  const isolation = useShown(({ now }) => now.isolation ?? null);
  if (!isolation) return null;
  const isBegun = isolation.story.length > 0;
  return (
    <Box component="section" aria-label="Isolation" sx={{ display: 'grid', gap: 0.75 }}>
      {isolation.setback && (
        <Box
          role="alert"
          sx={{ border: `2px solid ${c.fail}`, bgcolor: c.failWash, borderRadius: '6px', px: 1.5, py: 1 }}
        >
          {isolation.setback}
        </Box>
      )}
      <Box sx={{ borderLeft: `4px solid ${isolation.isLocked ? c.slate : c.advice}`, pl: 1.5 }}>
        <strong>{isolation.says}</strong>
        {isolation.saysOfLock && <Box>{isolation.saysOfLock}</Box>}
      </Box>
      {isBegun && (
        <Box sx={{ display: 'flex', flexWrap: 'wrap', ml: -0.5 }}>
          {isolation.isLocked && (
            <>
              <Button size="small" color="inherit" onClick={() => desk.ask({ what: 'lock', stays: true })}>
                The lock stays on
              </Button>
              <Button size="small" color="inherit" onClick={() => desk.ask({ what: 'lock', stays: false })}>
                It comes off unrestored
              </Button>
            </>
          )}
          <Button size="small" color="inherit" onClick={() => desk.ask({ what: 'isolateAgain' })}>
            Isolate from the first step
          </Button>
        </Box>
      )}
    </Box>
  );
}

function Words({ step }: { step: Step }) {
  const run = useRun();
  const [words, setWords] = useState('');
  return (
    <Box
      component="form"
      onSubmit={(event) => {
        event.preventDefault();
        if (words.trim()) void run.happen({ kind: 'confirmed', step: step.key, words: words.trim() });
      }}
      sx={{ display: 'flex', gap: 1.25, flexWrap: 'wrap' }}
    >
      <TextField
        id="reading"
        size="small"
        label={step.asksFor}
        value={words}
        onChange={(event) => setWords(event.target.value)}
        sx={{ flex: 1, minWidth: 260 }}
        slotProps={{ htmlInput: { maxLength: 300, autoComplete: 'off' } }}
      />
      <Button type="submit" variant="contained" disabled={!words.trim()}>
        Confirm
      </Button>
    </Box>
  );
}

function Prove() {
  const run = useRun();
  const { indicators, provingSources } = useShown(({ sheet }) => sheet.phrases);
  const proved = useShown(({ now }) => now.isolation?.indicator ?? null);
  const kit = useShown((shown) => shown.laid.kit ?? null);
  const pieces = (kit?.pieces ?? []).filter((it) => it.kind === 'voltageIndicator') ?? [];
  const [indicator, setIndicator] = useState(proved ?? pieces.find((it) => !it.trouble)?.name ?? '');
  const [type, setType] = useState(indicators[0]!.value);
  const [on, setOn] = useState(provingSources[0]!.value);
  const [reason, setReason] = useState('');
  const whyNot =
    indicators.find((it) => it.value === type)?.whyNot ??
    (pieces.length === 0
      ? 'No voltage indicator is in today’s kit: choose one under Kit, after a look at it.'
      : null);
  const isUnit = on === provingSources[0]!.value;
  const isReady = indicator !== '' && !whyNot && (isUnit || reason.trim() !== '');
  const tell = (works: boolean) =>
    void run.happen({
      kind: 'indicatorProved',
      indicator,
      type: type as 'twoPole',
      on: on as 'provingUnit',
      reason: isUnit ? null : reason.trim(),
      works,
    });
  return (
    <Box sx={{ display: 'grid', gap: 1.25 }}>
      <Choice label="What it is" of={indicators} value={type} onChoose={setType} />
      {whyNot && (
        <Box role="alert" sx={{ color: c.fail, fontSize: 14.5 }}>
          {whyNot}
        </Box>
      )}
      <Choice
        label="Which indicator of today’s kit"
        of={pieces.map((it) => ({ value: it.name, text: it.name }))}
        value={indicator}
        onChoose={setIndicator}
      />
      {pieces
        .filter((it) => it.trouble)
        .map((it) => (
          <Box key={it.id} sx={{ color: c.advice, fontSize: 14.5 }}>
            {it.name}: {it.trouble} <Link to={`/kit/${it.id}`}>Look at it</Link>
          </Box>
        ))}
      <Choice label="Proved on" of={provingSources} value={on} onChoose={setOn} />
      {!isUnit && (
        <TextField
          size="small"
          label="Why no proving unit was to be had"
          value={reason}
          onChange={(event) => setReason(event.target.value)}
          sx={{ minWidth: 220 }}
          slotProps={{ htmlInput: { maxLength: 200, autoComplete: 'off' } }}
        />
      )}
      <Box sx={{ display: 'flex', gap: 1.25, flexWrap: 'wrap' }}>
        <Button variant="contained" disabled={!isReady} onClick={() => tell(true)}>
          Every indication seen
        </Button>
        <Button variant="outlined" color="error" disabled={!isReady} onClick={() => tell(false)}>
          It failed
        </Button>
      </Box>
    </Box>
  );
}

function Choice(props: {
  label: string;
  of: readonly { value: string; text: string; whyNot?: string | null }[];
  value: string;
  onChoose: (value: string) => void;
}) {
  return (
    <Box role="group" aria-label={props.label} sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
      {props.of.map((it) => (
        <Button
          key={it.value}
          size="small"
          variant={it.value === props.value ? 'contained' : 'outlined'}
          color="inherit"
          aria-pressed={it.value === props.value}
          onClick={() => props.onChoose(it.value)}
        >
          {it.text}
        </Button>
      ))}
    </Box>
  );
}

/** Pair by pair in the order of contact; each is a reading of its own, by a key or a touch of its own. */
function Dead({ step }: { step: Step }) {
  const run = useRun();
  const isolation = useShown(({ now }) => now.isolation)!;
  const isPending = useShown((shown) => shown.pending > 0);
  const [text, setText] = useState('');
  const done = isolation.dead.filter((it) => it.side === step.side).map((it) => it.pair);
  const pair = isolation.pairs.find((it) => !done.includes(it));
  if (!pair) return null;
  const volts = text.trim() === '' ? null : amountOf(text);
  const isVolts = volts !== null && Number.isFinite(volts) && volts >= 0;
  const tell = (value: number) => {
    if (isPending) return;
    setText('');
    void run.happen({ kind: 'deadTested', side: step.side!, pair, volts: value });
  };
  return (
    <Box sx={{ display: 'grid', gap: 1.25 }}>
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }} role="list" aria-label="Pairs of conductors">
        {isolation.pairs.map((it) => (
          <Box
            key={it}
            role="listitem"
            aria-current={it === pair ? 'step' : undefined}
            sx={{
              px: 1.25,
              py: 0.25,
              borderRadius: '6px',
              border: `2px solid ${it === pair ? c.reed : c.line}`,
              bgcolor: done.includes(it) ? c.willow : 'transparent',
              fontWeight: it === pair ? 700 : 400,
            }}
          >
            {it}
            {done.includes(it) && ' dead'}
          </Box>
        ))}
      </Box>
      <Box sx={{ display: 'flex', gap: 1.25, flexWrap: 'wrap', alignItems: 'center' }}>
        <Box sx={{ fontSize: '1.6rem', fontWeight: 700, minWidth: 84 }}>{pair}</Box>
        <Button variant="contained" disabled={isPending} onClick={() => tell(0)}>
          Nothing indicated
        </Button>
        <TextField
          id="reading"
          size="small"
          label="What it shows, V"
          value={text}
          error={text.trim() !== '' && !isVolts}
          onChange={(event) => setText(event.target.value)}
          onKeyDown={(event) => {
            if (event.key !== 'Enter' || event.repeat) return;
            event.preventDefault();
            if (isVolts) tell(volts);
          }}
          sx={{ width: 150 }}
          slotProps={{ htmlInput: { inputMode: 'decimal', autoComplete: 'off', maxLength: 8 } }}
        />
        <Button
          variant="outlined"
          color="error"
          disabled={!isVolts || volts === 0 || isPending}
          onClick={() => tell(volts!)}
        >
          Voltage found
        </Button>
      </Box>
    </Box>
  );
}
