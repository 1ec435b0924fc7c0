import { Box, Button, TextField } from '@mui/material';
import { useState } from 'react';
import { Link } from 'react-router';
import { showMoment } from '../api/dates';
import { Ring } from '../design/Ring';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { TakeBack } from './TakeBack';
import { type ToReview, useLook } from './useReview';

/** One record that asks for a look: what was found, who took it and how long it lay there, and the look itself. */
export function RecordLine(props: { it: ToReview; roundId: string; mayLook: boolean }) {
  const { it } = props;
  const look = useLook(props.roundId);
  const [words, setWords] = useState('');
  const link = { color: c.slate, fontSize: 14.5, display: 'inline-block', py: 0.75 };
  return (
    <Box
      component="article"
      aria-label={`${it.tag} ${it.name}`}
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: '34px minmax(0, 1fr)', sm: '34px minmax(0, 1fr) 190px' },
        columnGap: 1.5,
        py: 1.25,
        borderBottom: `1px solid ${c.line}`,
      }}
    >
      <Ring state={it.outcome} size={28} />
      <Box sx={{ minWidth: 0 }}>
        <Box sx={{ overflowWrap: 'anywhere' }}>
          <strong>{it.tag}</strong> {it.name}{' '}
          <Box component="span" sx={{ color: c.muted }}>
            · {it.room}
          </Box>
        </Box>
        {it.findings.map((finding) => (
          <Box
            key={finding.reason + finding.text}
            sx={{ fontSize: 14.5, overflowWrap: 'anywhere', mt: 0.25 }}
          >
            <Box component="span" sx={{ fontWeight: 700, color: finding.mustBeSeen ? c.fail : c.advice }}>
              {finding.reasonText}
            </Box>{' '}
            {finding.text}
          </Box>
        ))}
        {it.seen && (
          <Box sx={{ fontSize: 14.5, color: c.bark, mt: 0.5 }}>
            Looked at by {it.seen.by}, {showMoment(it.seen.at)}
            {it.seen.words && `: ${it.seen.words}`}
          </Box>
        )}
        {props.mayLook && !it.seen && (
          <Box sx={{ display: 'flex', gap: 1, mt: 1, flexWrap: 'wrap', alignItems: 'center' }}>
            <TextField
              size="small"
              label="A word on it, if there is one"
              value={words}
              onChange={(event) => setWords(event.target.value)}
              slotProps={{ htmlInput: { maxLength: 500 } }}
              sx={{ flex: '1 1 220px', maxWidth: 420 }}
            />
            <Button
              variant="outlined"
              color="inherit"
              disabled={look.isPending}
              onClick={() => look.mutate({ inspectionId: it.id, words })}
            >
              Looked at
            </Button>
          </Box>
        )}
        {look.error && <Notice problem={look.error} />}
      </Box>
      <Box sx={{ fontSize: 14.5, color: c.bark, gridColumn: { xs: '2', sm: 'auto' } }}>
        {it.by}
        <Box sx={{ color: c.muted }}>
          {showMoment(it.at)}, {it.bench}
        </Box>
        <Box component={Link} to={`/papers/inspections/${it.id}`} sx={link}>
          Record {it.number}
        </Box>{' '}
        ·{' '}
        <Box component={Link} to={`/register/${it.itemId}`} sx={link}>
          the item
        </Box>
        {it.mayBeTakenBack && (
          <Box>
            <TakeBack inspectionId={it.id} what={`record ${it.number}, ${it.tag}`} size="small" />
          </Box>
        )}
      </Box>
    </Box>
  );
}
