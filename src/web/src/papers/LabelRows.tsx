import { Box, Checkbox } from '@mui/material';
import { showDate, showMoment } from '../api/dates';
import { Ring, ringWord } from '../design/Ring';
import { c } from '../design/tokens';
import type { Label } from './useLabels';

/** Labels round by round; a whole round is chosen by one press. */
export function LabelRows(props: {
  labels: readonly Label[];
  isChosen: (id: string) => boolean;
  onChoose: (ids: readonly string[], isChosen: boolean) => void;
}) {
  const rounds = [...new Map(props.labels.map((it) => [it.roundId, it])).values()];
  return rounds.map((round) => {
    const own = props.labels.filter((it) => it.roundId === round.roundId);
    const ids = own.map((it) => it.inspectionId);
    const count = ids.filter(props.isChosen).length;
    return (
      <Box key={round.roundId} sx={{ mt: 1 }}>
        <Box component="label" sx={{ display: 'flex', alignItems: 'center', minHeight: 44 }}>
          <Checkbox
            checked={count === ids.length}
            indeterminate={count > 0 && count < ids.length}
            onChange={(event) => props.onChoose(ids, event.target.checked)}
          />
          <Box sx={{ fontWeight: 700 }}>
            {round.round}{' '}
            <Box component="span" sx={{ color: c.bark, fontWeight: 400 }}>
              · {round.client} · {count} of {ids.length}
            </Box>
          </Box>
        </Box>
        {own.map((it) => (
          <Box
            component="label"
            key={it.inspectionId}
            sx={{
              display: 'grid',
              gridTemplateColumns: '42px 26px minmax(0, 1fr) auto',
              gap: 1,
              alignItems: 'center',
              minHeight: 46,
              borderBottom: `1px solid ${c.line}`,
            }}
          >
            <Checkbox
              checked={props.isChosen(it.inspectionId)}
              onChange={(event) => props.onChoose([it.inspectionId], event.target.checked)}
            />
            <Ring state={it.outcome} size={22} />
            <Box sx={{ minWidth: 0, overflowWrap: 'anywhere' }}>
              <strong>{it.tag}</strong> {it.name}
            </Box>
            <Box sx={{ color: c.muted, fontSize: 14, textAlign: 'right' }}>
              {ringWord(it.outcome)}, {showDate(it.day)}
              {it.printedBy && it.printedAt && (
                <Box>
                  printed {showMoment(it.printedAt)}, {it.printedBy}
                </Box>
              )}
            </Box>
          </Box>
        ))}
      </Box>
    );
  });
}
