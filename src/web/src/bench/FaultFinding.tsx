import { Box, Button, TextField } from '@mui/material';
import { useState } from 'react';
import { c } from '../design/tokens';
import { CircuitTool } from './CircuitTool';
import { useDesk } from './desk';
import { useRun, useShown } from './useBench';

/** From a complaint in somebody's words to where a technician begins, and what the circuit says. Any order, any part; it ends with findings. */
export function FaultFinding() {
  const complaint = useShown(({ now }) => now.complaint ?? null);
  const circuit = useShown(({ now }) => now.circuit ?? null);
  const [isChanging, setIsChanging] = useState(false);
  const [isSumming, setIsSumming] = useState(false);
  return (
    <Box
      component="section"
      aria-label="Fault-finding"
      sx={{ borderLeft: `4px solid ${c.slate}`, pl: 2, py: 0.5, mb: 1.5, display: 'grid', gap: 1 }}
    >
      {complaint && !isChanging ? (
        <>
          <Box>
            <Box component="span" sx={{ color: c.muted }}>
              Complained of:{' '}
            </Box>
            <strong>{complaint.words}</strong>{' '}
            <Button size="small" color="inherit" onClick={() => setIsChanging(true)}>
              In other words
            </Button>
          </Box>
          {complaint.means.length === 0 && (
            <Box sx={{ color: c.bark }}>
              Nothing is known by these words. Begin with the look; then whatever is cheapest to rule out.
            </Box>
          )}
          {complaint.means.map((it) => (
            <Meaning key={it.seen} meaning={it} />
          ))}
        </>
      ) : (
        <ComplaintField onTold={() => setIsChanging(false)} />
      )}
      {circuit && !isSumming && (
        <Box sx={{ fontSize: 15 }}>
          <Box sx={{ color: c.muted }}>The circuit</Box>
          {circuit.working.map((line) => (
            <Box key={line} sx={{ fontWeight: line === circuit.working.at(-1) ? 700 : 400 }}>
              {line}
            </Box>
          ))}
        </Box>
      )}
      {isSumming ? (
        <CircuitTool before={circuit} onDone={() => setIsSumming(false)} />
      ) : (
        <Box>
          <Button size="small" variant="outlined" color="inherit" onClick={() => setIsSumming(true)}>
            {circuit ? 'Sum the circuit again' : 'Sum what its circuit leaks'}
          </Button>
        </Box>
      )}
    </Box>
  );
}

function Meaning({
  meaning,
}: {
  meaning: { seen: string; why: string; steps: readonly { key: string; name: string }[] };
}) {
  const desk = useDesk();
  return (
    <Box>
      <Box sx={{ fontWeight: 700 }}>{meaning.seen}</Box>
      <Box sx={{ color: c.bark, fontSize: 15 }}>{meaning.why}</Box>
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', mt: 0.75 }} role="group" aria-label="Begin with">
        {meaning.steps.map((it, n) => (
          <Button
            key={it.key}
            size="small"
            variant="outlined"
            color="inherit"
            onClick={() => desk.choose(it.key)}
          >
            {n + 1} {it.name}
          </Button>
        ))}
      </Box>
    </Box>
  );
}

function ComplaintField({ onTold }: { onTold: () => void }) {
  const run = useRun();
  const offered = useShown(({ sheet }) => sheet.phrases.complaints);
  const [words, setWords] = useState('');
  const tell = (text: string) => {
    onTold();
    void run.happen({ kind: 'complaintTold', words: text }).catch(() => {});
  };
  return (
    <Box
      component="form"
      onSubmit={(event) => {
        event.preventDefault();
        if (words.trim()) tell(words.trim());
      }}
      sx={{ display: 'grid', gap: 1 }}
    >
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
        <TextField
          size="small"
          sx={{ flex: '1 1 260px' }}
          label="What is complained of, in their words"
          value={words}
          onChange={(event) => setWords(event.target.value)}
          slotProps={{ htmlInput: { maxLength: 300, autoComplete: 'off' } }}
        />
        <Button type="submit" variant="contained" disabled={!words.trim()}>
          Where to begin
        </Button>
      </Box>
      <Box sx={{ display: 'flex', gap: 0.75, flexWrap: 'wrap' }} role="group" aria-label="Often said">
        {offered.map((it) => (
          <Button key={it} size="small" color="inherit" variant="outlined" onClick={() => tell(it)}>
            {it}
          </Button>
        ))}
      </Box>
    </Box>
  );
}
