import { Box, Button } from '@mui/material';
import { Ring } from '../design/Ring';
import { c } from '../design/tokens';
import type { Schema } from '../api/client';
import { useDesk } from './desk';
import { ringOf } from './stepText';
import type { Step } from './types';
import { FuseOhm } from './FuseOhm';
import { PhotosOf } from './PhotosOf';
import { useRun, useShown } from './useBench';

/** The look, opened: most faults are found by eye and hand, so every point stands in the open. */
export function LookStep({ step }: { step: Step }) {
  const desk = useDesk();
  const points = useShown(({ sheet }) => sheet.look);
  const standing = useShown(({ now }) => now.steps.find((it) => it.key === step.key)!.standing);
  const wheres = [...new Set(points.map((point) => point.where))];
  return (
    <Box
      component="section"
      id={`step-${step.key}`}
      aria-label={step.name}
      aria-current="step"
      sx={{
        bgcolor: c.surface,
        boxShadow: `inset 6px 0 ${c.reed}`,
        borderBottom: `1px solid ${c.line}`,
        px: 2.5,
        py: 2,
        scrollMarginBlock: 140,
      }}
    >
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1.75, mb: 1 }}>
        <Ring state={ringOf(standing)} size={28} />
        <Box sx={{ flex: 1 }}>
          <Box sx={{ fontWeight: 700, fontSize: '1.1rem' }}>{step.name}</Box>
          <Box sx={{ color: c.muted, fontSize: 13.5 }}>
            A bad point ends the job: nothing is tested on visibly dangerous equipment. What is only worth
            telling is advice.
          </Box>
        </Box>
        <Button variant="contained" onClick={desk.primary}>
          All good
        </Button>
        <Button
          variant="outlined"
          color="error"
          onClick={() => desk.ask({ what: 'bad', step: step.key, answer: 'bad' })}
        >
          Bad
        </Button>
      </Box>
      <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', sm: '96px 1fr' }, rowGap: 0 }}>
        {wheres.map((where) => (
          <Box key={where} sx={{ display: 'contents' }}>
            <Box sx={{ color: c.muted, fontSize: 14, pt: 1.5, borderTop: `1px solid ${c.line}` }}>
              {where}
            </Box>
            <Box sx={{ borderTop: `1px solid ${c.line}` }}>
              {points
                .filter((point) => point.where === where)
                .map((point) => (
                  <Point key={point.id} point={point} step={step.key} />
                ))}
            </Box>
          </Box>
        ))}
      </Box>
    </Box>
  );
}

function Point({ point, step }: { point: Schema['LookCard']; step: string }) {
  const run = useRun();
  const desk = useDesk();
  const answer = useShown(({ now }) => now.look.find((it) => it.pointId === point.id) ?? null);
  const does = answer?.answer;
  const setTo = (to: 'good' | 'doesNotApply') =>
    void run.happen({ kind: 'looked', points: [{ pointId: point.id, answer: to, words: null }] });
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.5, minHeight: 46, flexWrap: 'wrap' }}>
      <Box
        sx={{
          flex: '1 1 220px',
          color: does === 'bad' ? c.fail : does === 'doesNotApply' ? c.muted : c.ink,
          fontWeight: does === 'bad' ? 600 : 400,
          textDecoration: does === 'doesNotApply' ? 'line-through' : 'none',
        }}
      >
        {point.text}
        {answer?.words && (
          <Box component="span" sx={{ color: does === 'bad' ? c.fail : c.advice, fontWeight: 600 }}>
            {' '}
            · {answer.words}
          </Box>
        )}
      </Box>
      {(does === 'bad' || does === 'advice') && (
        <PhotosOf of={point.id} shows="damage" text="Photo" label={`Photo of ${point.text}`} />
      )}
      {point.measured && does !== 'bad' && <FuseOhm point={point} ohm={answer?.ohm ?? null} />}
      {does === 'bad' ? (
        <Button
          size="small"
          color="inherit"
          onClick={() =>
            desk.ask({
              what: 'again',
              target: answer!.eventId,
              text: `${point.where}: ${answer!.words}`,
              point: point.id,
            })
          }
        >
          Take back
        </Button>
      ) : (
        <Box sx={{ display: 'flex' }}>
          <Answer
            text="good"
            is={does === 'good'}
            label={`${point.text}: good`}
            onClick={() => setTo('good')}
          />
          <Answer
            text="advice"
            is={does === 'advice'}
            label={`${point.text}: advice`}
            onClick={() => desk.ask({ what: 'bad', step, answer: 'advice', point: point.id })}
          />
          <Answer
            text="bad"
            is={false}
            label={`${point.text}: bad`}
            onClick={() => desk.ask({ what: 'bad', step, answer: 'bad', point: point.id })}
          />
          <Answer
            text="n/a"
            is={does === 'doesNotApply'}
            label={`${point.text}: does not apply`}
            onClick={() => setTo('doesNotApply')}
          />
        </Box>
      )}
    </Box>
  );
}

function Answer({
  text,
  is,
  label,
  onClick,
}: {
  text: string;
  is: boolean;
  label: string;
  onClick: () => void;
}) {
  return (
    <Button
      size="small"
      color="inherit"
      aria-pressed={is}
      aria-label={label}
      onClick={onClick}
      sx={{
        minWidth: 44,
        minHeight: 44,
        px: 1,
        fontWeight: is ? 700 : 400,
        color: is ? c.ink : c.muted,
        textDecoration: is ? 'underline' : 'none',
        textUnderlineOffset: '4px',
        textDecorationThickness: '2px',
      }}
    >
      {text}
    </Button>
  );
}
