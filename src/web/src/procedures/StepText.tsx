import { Box } from '@mui/material';
import { c } from '../design/tokens';
import type { Step } from './editing';

/** One line of a procedure, read only. */
export function StepText({ step, words, limit }: { step: Step; words: string; limit: string }) {
  switch (step.do) {
    case 'measure':
      return (
        <Box>
          {words}
          {step.seconds ? <Small>held for {step.seconds} s</Small> : null}
          {step.limit && (
            <Small>
              own limit {limit}: {step.limit.why}
            </Small>
          )}
        </Box>
      );
    case 'leaveOut':
      return (
        <Box>
          <s>{words}</s>
          <Small tone={c.advice}>left out: {step.reason}</Small>
        </Box>
      );
    case 'pause':
      return (
        <Box>
          <em>{step.says}</em>
          {step.seconds ? <Small>{step.seconds} s until it counts</Small> : null}
        </Box>
      );
    case 'check':
      return (
        <Box>
          Check: {step.name}
          <Small>
            {step.target
              ? `${step.target.set} ± ${step.target.tolerance} ${step.target.unit}`
              : 'good or bad'}
          </Small>
        </Box>
      );
    case 'borrow':
      return (
        <Box>
          {words}
          <Small>borrowed from {step.packId}, judged by its clause</Small>
        </Box>
      );
  }
}

function Small({ children, tone = c.muted }: { children: React.ReactNode; tone?: string }) {
  return <Box sx={{ color: tone, fontSize: 14.5 }}>{children}</Box>;
}
