import { Box, Button, Checkbox, FormControlLabel, TextField, Typography } from '@mui/material';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, type Schema } from '../api/client';
import { showDate, showTime } from '../api/dates';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { amountOf } from '../frame/amount';

interface Said {
  isGood?: boolean;
  words: string;
  tip: string;
  isSprung: boolean;
}

const nothing: Said = { words: '', tip: '', isSprung: false };

/** The look before use, point by point. One failed point bars it; what matters near a supply only may leave it for dead work. */
export function LookForm(props: {
  kitId: string;
  card: Schema['KitCard'];
  points: readonly Schema['KitPointCard'][];
}) {
  const { kitId, card, points } = props;
  const queries = useQueryClient();
  const [said, setSaid] = useState<Record<string, Said>>({});
  const [forDeadWork, setForDeadWork] = useState(false);
  const of = (point: string) => said[point] ?? nothing;
  const set = (point: string, change: Partial<Said>) =>
    setSaid({ ...said, [point]: { ...of(point), ...change } });
  const keep = useMutation({
    mutationFn: () =>
      ask(
        api.POST('/api/v1/kit/{kitId}/look', {
          params: { path: { kitId } },
          body: {
            forDeadWork,
            answers: points
              .filter((it) => of(it.point).isGood !== undefined)
              .map((it) => ({
                point: it.point,
                isGood: of(it.point).isGood!,
                words: of(it.point).words.trim() || null,
                tipMm: it.takesLength && of(it.point).tip.trim() ? millimetres(of(it.point).tip) : null,
                isSprung: of(it.point).isSprung,
              })),
          },
        }),
      ),
    onSuccess: () => {
      setSaid({});
      setForDeadWork(false);
      void queries.invalidateQueries({ queryKey: ['kit'] });
    },
  });
  const open = points.filter((it) => of(it.point).isGood === undefined);
  const failsLive = points.some((it) => it.isForLiveWork && of(it.point).isGood === false);
  return (
    <Box component="section" aria-label="Look before use">
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', flexWrap: 'wrap' }}>
        <Typography variant="h2" sx={{ flex: 1 }}>
          Look before use
        </Typography>
        <Button
          variant="outlined"
          disabled={open.length === 0}
          onClick={() =>
            setSaid({
              ...said,
              ...Object.fromEntries(open.map((it) => [it.point, { ...of(it.point), isGood: true }])),
            })
          }
        >
          All good
        </Button>
      </Box>
      <Box sx={{ color: c.bark, mb: 1 }}>
        {card.isLookedAt && card.lookedAt
          ? `Looked at ${showDate(card.lookedAt)}, ${showTime(card.lookedAt)}: ${card.fitnessText}.`
          : 'Not looked at today.'}
      </Box>
      {points.map((it) => (
        <Point key={it.point} card={it} said={of(it.point)} onSay={(change) => set(it.point, change)} />
      ))}
      {failsLive && (
        <FormControlLabel
          control={
            <Checkbox checked={forDeadWork} onChange={(event) => setForDeadWork(event.target.checked)} />
          }
          label="Keep it for dead work only"
        />
      )}
      <Box sx={{ mt: 1.5, display: 'flex', gap: 1.5, alignItems: 'center' }}>
        <Button
          variant="contained"
          disabled={open.length > 0 || keep.isPending}
          onClick={() => keep.mutate()}
        >
          Judge and keep
        </Button>
        {open.length > 0 && open.length < points.length && (
          <Box sx={{ color: c.muted }}>{open.length} not answered</Box>
        )}
      </Box>
      {keep.error && (
        <Box sx={{ mt: 1.5 }}>
          <Notice problem={keep.error} />
        </Box>
      )}
      {keep.data && (
        <Box role="status" sx={{ mt: 1.5, pl: 1.5, borderLeft: `4px solid ${tone[keep.data.fitness]}` }}>
          <strong>{verdict[keep.data.fitness]}</strong> {keep.data.lines.join('; ')}
        </Box>
      )}
    </Box>
  );
}

const verdict = { fit: 'Fit for use.', deadWorkOnly: 'Dead work only.', barred: 'Barred.' } as const;
const tone = { fit: c.pass, deadWorkOnly: c.advice, barred: c.fail } as const;

const millimetres = (text: string) => {
  const value = amountOf(text);
  return Number.isFinite(value) ? value : -1;
};

function Point(props: { card: Schema['KitPointCard']; said: Said; onSay: (change: Partial<Said>) => void }) {
  const { card, said, onSay } = props;
  return (
    <Box role="group" aria-label={card.text} sx={{ borderBottom: `1px solid ${c.line}`, py: 1 }}>
      <Box sx={{ display: 'flex', gap: 1.25, alignItems: 'center', flexWrap: 'wrap' }}>
        <Box sx={{ flex: 1, minWidth: 220 }}>{card.text}</Box>
        {[true, false].map((isGood) => (
          <Button
            key={String(isGood)}
            size="small"
            variant={said.isGood === isGood ? 'contained' : 'outlined'}
            color={isGood ? 'inherit' : 'error'}
            aria-pressed={said.isGood === isGood}
            onClick={() => onSay({ isGood })}
            sx={{ minWidth: 72 }}
          >
            {isGood ? 'Good' : 'Bad'}
          </Button>
        ))}
      </Box>
      {(card.takesLength || said.isGood === false) && (
        <Box sx={{ display: 'flex', gap: 1.25, mt: 1, flexWrap: 'wrap', alignItems: 'center' }}>
          {card.takesLength && (
            <>
              <TextField
                size="small"
                label="Bare tip, mm"
                value={said.tip}
                disabled={said.isSprung}
                onChange={(event) => onSay({ tip: event.target.value })}
                slotProps={{ htmlInput: { inputMode: 'decimal', autoComplete: 'off', maxLength: 6 } }}
                sx={{ width: 140 }}
              />
              <FormControlLabel
                control={
                  <Checkbox
                    checked={said.isSprung}
                    onChange={(event) => onSay({ isSprung: event.target.checked, tip: '' })}
                  />
                }
                label="Sprung sheath"
              />
            </>
          )}
          {said.isGood === false && (
            <TextField
              size="small"
              label="What is wrong"
              value={said.words}
              onChange={(event) => onSay({ words: event.target.value })}
              slotProps={{ htmlInput: { maxLength: 200 } }}
              sx={{ flex: 1, minWidth: 220 }}
            />
          )}
        </Box>
      )}
    </Box>
  );
}
