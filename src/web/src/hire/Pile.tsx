import { Box, Button, TextField, Typography } from '@mui/material';
import { useState } from 'react';
import type { Schema } from '../api/client';
import { showDate } from '../api/dates';
import { c } from '../design/tokens';
import { PaperButton } from './PaperButton';
import { type Done, type Going, usePile, type Verdict, type Work } from './usePile';

/** What is done with scanner in hand: things that come back, one verdict each; things that go out. */
export function Pile({ client, verdicts }: { client: string; verdicts: readonly Verdict[] }) {
  const [work, setWork] = useState<Work>('in');
  const [going, setGoing] = useState<Going>({ to: '', backBy: '' });
  const pile = usePile(client, verdicts, work, going);
  const turn = (to: Work) => {
    pile.putAside();
    setWork(to);
  };
  return (
    <>
      <Box role="group" aria-label="What is done" sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr' }}>
        {(['in', 'out'] as const).map((it) => (
          <Button
            key={it}
            variant={work === it ? 'contained' : 'outlined'}
            color={work === it ? 'primary' : 'inherit'}
            aria-pressed={work === it}
            onClick={() => turn(it)}
            sx={{ borderRadius: it === 'in' ? '6px 0 0 6px' : '0 6px 6px 0', minHeight: 44 }}
          >
            {it === 'in' ? 'Coming back' : 'Going out'}
          </Button>
        ))}
      </Box>
      {work === 'out' && (
        <Box sx={{ display: 'grid', gap: 1.5 }}>
          <TextField
            label="Customer or contract"
            value={going.to}
            onChange={(event) => setGoing({ ...going, to: event.target.value })}
            slotProps={{ htmlInput: { maxLength: 200 } }}
          />
          <TextField
            label="Back by"
            type="date"
            value={going.backBy}
            onChange={(event) => setGoing({ ...going, backBy: event.target.value })}
            slotProps={{ inputLabel: { shrink: true } }}
          />
        </Box>
      )}
      {pile.trouble && (
        <Box role="alert" sx={{ borderLeft: `4px solid ${c.fail}`, bgcolor: c.failWash, p: 1.5 }}>
          {pile.trouble}
        </Box>
      )}
      {pile.card ? (
        <InHand key={pile.card.item.itemId} card={pile.card} verdicts={verdicts} pile={pile} />
      ) : (
        <Box sx={{ border: `2px dashed ${c.edge}`, borderRadius: '6px', p: 2, color: c.bark }}>
          <Box sx={{ fontSize: '1.2rem', fontWeight: 700, color: c.ink }}>Scan an item</Box>
          {work === 'in'
            ? 'Then what you see of it, with a code of the card or a number. Then the next.'
            : going.to.trim()
              ? `What is ready goes out to ${going.to.trim()} with its scan.`
              : 'Say first who has it. Only what is ready goes out.'}
        </Box>
      )}
      <Log done={pile.done} />
      {work === 'in' && <PaperButton />}
    </>
  );
}

type InPile = ReturnType<typeof usePile>;

function InHand(props: { card: Schema['HireCard']; verdicts: readonly Verdict[]; pile: InPile }) {
  const { card, pile } = props;
  const { item } = card;
  const offered = props.verdicts.filter((it) =>
    it.seen != null ? !card.whyNoLook : it.onlyCounts ? !card.whyNoReturn : true,
  );
  return (
    <Box component="section" aria-label={`In hand: ${item.tag}`} sx={{ display: 'grid', gap: 1.25 }}>
      <Box>
        <Box sx={{ fontSize: '1.6rem', fontWeight: 700, lineHeight: 1.15, overflowWrap: 'anywhere' }}>
          {item.tag}
        </Box>
        <Box sx={{ fontSize: '1.1rem', overflowWrap: 'anywhere' }}>
          {item.name}
          {card.model && (
            <Box component="span" sx={{ color: c.muted }}>
              {' '}
              · {card.model}
            </Box>
          )}
        </Box>
        <Box sx={{ color: c.bark }}>
          {item.stageText}: {item.why}
          {card.due && item.stage !== 'out' && ` · test due ${showDate(card.due)}`}
        </Box>
      </Box>
      {card.whyNoLook && (
        <Box role="alert" sx={{ borderLeft: `4px solid ${c.fail}`, bgcolor: c.failWash, p: 1.5 }}>
          {card.whyNoLook}
        </Box>
      )}
      <Box role="group" aria-label="What you see" sx={{ display: 'grid', gap: 0.5 }}>
        {offered.map((it) => (
          <VerdictRow key={it.code} verdict={it} onGive={() => pile.give(it)} />
        ))}
      </Box>
      {pile.wantsWords && (
        <Words verdict={pile.wantsWords} onSay={(words) => pile.give(pile.wantsWords!, words)} />
      )}
      {!card.whyNoLook && card.lookAt.length > 0 && (
        <Box
          component="ul"
          aria-label="What to look at"
          sx={{ m: 0, pl: 2.25, fontSize: 14.5, color: c.bark }}
        >
          {card.lookAt.map((it) => (
            <li key={it}>{it}</li>
          ))}
        </Box>
      )}
    </Box>
  );
}

/** A scanner reads the code off the screen; a hand presses the words. */
function VerdictRow({ verdict, onGive }: { verdict: Verdict; onGive: () => void }) {
  const isGood = verdict.seen === 'good';
  const isBad = verdict.seen != null && !isGood;
  return (
    <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
      <Button
        color="inherit"
        variant="outlined"
        onClick={onGive}
        sx={{
          flex: 1,
          justifyContent: 'flex-start',
          textAlign: 'left',
          minHeight: 52,
          borderColor: isGood ? c.pass : isBad ? c.fail : c.edge,
          color: c.ink,
          bgcolor: c.raised,
        }}
      >
        <Box component="span" sx={{ width: 26, fontWeight: 700, fontSize: '1.15rem', color: c.muted }}>
          {verdict.digit}
        </Box>
        {verdict.text}
      </Button>
      <Box
        component="img"
        src={`/api/v1/hire/codes/${verdict.code}`}
        alt=""
        sx={{ width: 52, height: 52, bgcolor: '#fff', display: { xs: 'none', sm: 'block' } }}
      />
    </Box>
  );
}

function Words({ verdict, onSay }: { verdict: Verdict; onSay: (words: string) => void }) {
  const [words, setWords] = useState('');
  return (
    <Box
      component="form"
      onSubmit={(event) => {
        event.preventDefault();
        if (words.trim()) onSay(words.trim());
      }}
      sx={{ display: 'flex', gap: 1 }}
    >
      <TextField
        label={verdict.text}
        value={words}
        autoFocus
        fullWidth
        onChange={(event) => setWords(event.target.value)}
        slotProps={{ htmlInput: { maxLength: 200 } }}
      />
      <Button type="submit" variant="contained" color="error" disabled={!words.trim()}>
        Out of use
      </Button>
    </Box>
  );
}

function Log({ done }: { done: readonly Done[] }) {
  if (done.length === 0) return null;
  const [last] = done;
  return (
    <Box component="section" aria-label="Done here">
      <Typography variant="h2" sx={{ mb: 0.5 }}>
        Done here ({done.filter((it) => it.kind !== 'refused').length})
      </Typography>
      <Box role="status" aria-live="polite">
        {last && <LogLine it={last} isLast />}
      </Box>
      {done.slice(1).map((it) => (
        <LogLine key={it.id} it={it} />
      ))}
    </Box>
  );
}

/** No ring: a look at the pile is no verdict. */
function LogLine({ it, isLast = false }: { it: Done; isLast?: boolean }) {
  const isBad = it.kind === 'bad';
  return (
    <Box
      sx={{
        pl: 1.25,
        py: 0.75,
        mt: 0.5,
        borderLeft: `4px solid ${isBad ? c.fail : it.kind === 'good' ? c.reed : c.edge}`,
        bgcolor: isBad ? c.failWash : 'transparent',
        fontSize: isLast ? '1.1rem' : 14.5,
        overflowWrap: 'anywhere',
      }}
    >
      <b>{it.tag}</b> {it.name}
      <Box sx={{ color: isBad ? c.fail : c.bark, fontWeight: isLast ? 700 : 400 }}>{it.said}</Box>
    </Box>
  );
}
