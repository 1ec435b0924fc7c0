import { Box } from '@mui/material';
import type { Schema } from '../api/client';
import { Rail } from '../design/Rail';
import { Ring } from '../design/Ring';
import { c } from '../design/tokens';
import { useDesk } from './desk';
import { StepRow } from './StepRow';
import { ringOf, rodOf } from './stepText';
import { useLine, useShown } from './useBench';

type Card = Schema['MatrixCard'];

/**
 * Every leakage the standard asks for, at once: a row for what is measured and where, a column for how the supply stands. A cell is one
 * reading; the one in hand is worked right below.
 */
export function Matrix({ card, inHand }: { card: Card; inHand: string | null }) {
  const steps = useShown(({ sheet }) => sheet.steps);
  const over = useShown(({ now }) => now.steps.filter((it) => it.stands !== null).map((it) => it.key));
  const cells = card.rows.flatMap((row) => row.cells).filter((key) => key !== '');
  const done = cells.filter((key) => over.includes(key)).length;
  const step = steps.find((it) => it.key === inHand && cells.includes(it.key));
  return (
    <Box component="section" aria-label="Leakages" sx={{ borderBottom: `1px solid ${c.line}` }}>
      <Box tabIndex={0} role="group" aria-label="Leakages by condition" sx={{ overflowX: 'auto', px: 2.5 }}>
        <Box
          component="table"
          sx={{
            width: '100%',
            borderCollapse: 'collapse',
            tableLayout: 'fixed',
            minWidth: 150 + card.columns.length * 92,
            '& th': { textAlign: 'left', fontWeight: 400, verticalAlign: 'bottom', p: 1 },
            '& td, & tbody th': { borderTop: `1px solid ${c.line}`, verticalAlign: 'middle' },
            '& td': { borderLeft: `1px solid ${c.line}`, p: 0, height: 1 },
          }}
        >
          <thead>
            <tr>
              <Box component="th" sx={{ width: 148, color: c.muted, fontSize: 13.5 }}>
                {done} of {cells.length} read
              </Box>
              {card.columns.map((column) => (
                <th key={column.words.join()} scope="col">
                  {column.words.map((words) => (
                    <Box key={words} sx={{ fontWeight: 700, fontSize: 13.5, lineHeight: 1.25 }}>
                      {words}
                    </Box>
                  ))}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {card.rows.map((row) => (
              <tr key={row.cells.join()}>
                <th scope="row">
                  <Box sx={{ fontWeight: 700, lineHeight: 1.2 }}>{row.name}</Box>
                  {row.detail && <Box sx={{ color: c.muted, fontSize: 13 }}>{row.detail}</Box>}
                </th>
                {row.cells.map((key, at) =>
                  key === '' ? (
                    <Box
                      key={card.columns[at]!.words.join()}
                      component="td"
                      sx={{ color: c.muted, textAlign: 'center' }}
                    >
                      <Box component="span" title="not asked for by this standard">
                        –
                      </Box>
                    </Box>
                  ) : (
                    <td key={key}>
                      <Cell
                        step={key}
                        isInHand={key === inHand}
                        condition={card.columns[at]!.words.join(', ')}
                      />
                    </td>
                  ),
                )}
              </tr>
            ))}
          </tbody>
        </Box>
      </Box>
      {step && <StepRow key={step.key} step={step} isCurrent />}
    </Box>
  );
}

function Cell(props: { step: string; isInHand: boolean; condition: string }) {
  const desk = useDesk();
  const step = useShown(({ sheet }) => sheet.steps.find((it) => it.key === props.step)!);
  const now = useShown((shown) => shown.now.steps.find((it) => it.key === props.step)!);
  const stands = useShown((shown) => shown.now.readings.find((it) => it.id === now.stands));
  const isRunning = useLine((line) => line.is !== 'idle' && line.step === props.step);
  const live = useLine((line) => (isRunning && line.is === 'running' ? line.live : null));
  const last = step.earlier.at(-1);
  const isStopped = now.standing === 'stopped';
  const value = isRunning ? (live?.text ?? '…') : stands?.text;
  const limit = step.limit?.text ?? '';
  const said = [
    `${step.name}, ${props.condition}`,
    value ?? (isStopped ? 'stopped' : now.standing === 'notMeasured' ? 'not measured' : 'open'),
    limit && `limit ${limit}`,
    last && `last ${last.text}`,
  ];
  return (
    <Box
      component="button"
      type="button"
      aria-label={said.filter(Boolean).join(', ')}
      aria-current={props.isInHand ? 'step' : undefined}
      onClick={() => desk.choose(props.step)}
      sx={{
        font: 'inherit',
        color: isStopped ? c.muted : c.ink,
        textAlign: 'left',
        border: 0,
        cursor: 'pointer',
        display: 'block',
        width: '100%',
        height: '100%',
        minHeight: 64,
        px: 1,
        py: 0.75,
        bgcolor: props.isInHand ? c.raised : 'transparent',
        boxShadow: props.isInHand ? `inset 5px 0 ${c.reed}, inset 0 0 0 1px ${c.reed}` : 'none',
        '&:hover': { bgcolor: c.surface },
      }}
    >
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.75, minHeight: 24 }}>
        <Ring state={isRunning ? 'running' : ringOf(now.standing)} size={17} progress={0.5} />
        <Box
          component="span"
          sx={{
            fontWeight: 700,
            fontSize: 16,
            whiteSpace: 'nowrap',
            color: stands?.status === 'fail' ? c.fail : stands?.nearLimit ? c.advice : 'inherit',
          }}
        >
          {value}
        </Box>
      </Box>
      {step.rail && step.limit && (value || props.isInHand) && !isStopped && (
        <Rail
          scale={step.rail}
          limit={step.limit.si ?? null}
          set={step.limit.set}
          isFloor={step.limit.isFloor}
          earlier={step.earlier}
          label=""
          ticks={false}
          rod={live?.si != null ? { si: live.si, tone: 'slate', bound: undefined } : rodOf(stands)}
        />
      )}
      <Box sx={{ color: c.muted, fontSize: 12.5, lineHeight: 1.25 }}>
        {now.standing === 'notMeasured' ? 'not measured' : isStopped ? 'stopped' : limit}
        {last && !stands && ` · last ${last.text}`}
      </Box>
    </Box>
  );
}
