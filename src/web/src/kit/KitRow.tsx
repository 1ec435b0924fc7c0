import { Box, Checkbox } from '@mui/material';
import { Link } from 'react-router';
import type { Schema } from '../api/client';
import { showDate } from '../api/dates';
import { c } from '../design/tokens';
import { isTakenAlong } from './words';

/** One thing of the kit: what it is, whether it may be used, and why not. */
export function KitRow({
  it,
  isMarked,
  onMark,
}: {
  it: Schema['KitCard'];
  isMarked: boolean;
  onMark: () => void;
}) {
  const isBarred = !!it.trouble;
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: '44px minmax(0, 1fr)', sm: '44px minmax(0, 5fr) minmax(0, 6fr)' },
        columnGap: 1.5,
        alignItems: 'start',
        borderBottom: `1px solid ${c.line}`,
        py: 0.5,
      }}
    >
      {isTakenAlong(it.kind) ? (
        <Checkbox
          checked={isMarked}
          disabled={isBarred && !isMarked}
          onChange={onMark}
          slotProps={{ input: { 'aria-label': `Take ${it.name} along` } }}
          sx={{ width: 44, height: 44 }}
        />
      ) : (
        <Box />
      )}
      <Box sx={{ py: 1 }}>
        <Box component={Link} to={`/kit/${it.id}`} sx={{ fontWeight: 700, color: 'inherit' }}>
          {it.name}
        </Box>
        {it.isConnected && (
          <Box component="span" sx={{ color: c.pass, fontWeight: 600, fontSize: 14 }}>
            {' '}
            on the line
          </Box>
        )}
        <Box sx={{ color: c.muted, fontSize: 14, overflowWrap: 'anywhere' }}>
          {[
            [it.maker, it.model].filter(Boolean).join(' '),
            it.serial && `serial ${it.serial}`,
            it.category && `category ${it.category}`,
          ]
            .filter(Boolean)
            .join(' · ')}
        </Box>
      </Box>
      <Box sx={{ py: 1, fontSize: 14.5, gridColumn: { xs: '2', sm: 'auto' } }}>
        {isBarred ? (
          <Box sx={{ color: c.fail }}>
            <strong>Barred.</strong> {it.trouble}
          </Box>
        ) : (
          <>
            {it.fitness === 'deadWorkOnly' && (
              <Box sx={{ color: c.advice, fontWeight: 700 }}>Dead work only</Box>
            )}
            <Box sx={{ color: c.bark }}>{facts(it)}</Box>
            {it.warnings.map((line) => (
              <Box key={line} sx={{ color: c.advice }}>
                {line}
              </Box>
            ))}
          </>
        )}
      </Box>
    </Box>
  );
}

function facts(it: Schema['KitCard']) {
  const said = [
    it.calibrationDue && `calibrated to ${showDate(it.calibrationDue)}`,
    it.checkedAt && `checked ${showDate(it.checkedAt)}`,
    it.kind === 'testLead' &&
      (it.nullText
        ? `null ${it.nullText}, ${showDate(it.nulledAt!)}${it.nullStale ? ': too old' : ''}`
        : 'not nulled'),
    it.asksForLook && it.isLookedAt && 'looked at today',
  ].filter(Boolean) as string[];
  const text = said.join(' · ');
  return text && text[0]!.toUpperCase() + text.slice(1);
}
