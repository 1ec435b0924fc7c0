import { Box, Button } from '@mui/material';
import { showMoment } from '../api/dates';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { useHireStory, useMoveHireItem } from './useFleet';

const shown = 4;

/** Where an item of a hire fleet is, on its page; nothing of any other item. */
export function HireOf({ itemId, isReader }: { itemId: string; isReader: boolean }) {
  const story = useHireStory(itemId);
  if (!story.data) return null;
  const { item, moves } = story.data;
  return (
    <Box component="section" aria-label="Hire" sx={{ borderTop: `1px solid ${c.line}`, pt: 1.5 }}>
      <Box sx={{ color: c.muted, fontSize: 14 }}>Hire</Box>
      <Box sx={{ fontWeight: 700 }}>{item.stageText}</Box>
      <Box sx={{ color: item.callBack ? c.fail : c.bark, fontWeight: item.callBack ? 700 : 400 }}>
        {item.callBack ?? item.why}
      </Box>
      {item.stage === 'out' && !isReader && <ItIsBack itemId={itemId} />}
      <Box component="ul" sx={{ m: 0, mt: 0.75, pl: 2.25, color: c.bark, fontSize: 14 }}>
        {moves.slice(0, shown).map((it) => (
          <li key={it.at + it.text}>
            {it.text}. {showMoment(it.at)}, {it.by}
          </li>
        ))}
      </Box>
    </Box>
  );
}

/** The way on where something lies in the hand that the register has with a customer. */
export function ItIsBack(props: { itemId: string; onBack?: () => void }) {
  const move = useMoveHireItem(props.itemId);
  return (
    <Box sx={{ mt: 1 }}>
      <Button
        variant="outlined"
        color="inherit"
        disabled={move.isPending}
        onClick={() =>
          move.mutate(
            { id: crypto.randomUUID(), move: { kind: 'returned' } },
            { onSuccess: () => props.onBack?.() },
          )
        }
      >
        It is back: I have it in hand
      </Button>
      {move.error && <Notice problem={move.error} />}
    </Box>
  );
}
