import { Box, Button, TextField, Typography } from '@mui/material';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { c } from '../design/tokens';
import { Beside } from '../frame/Beside';
import { Notice } from '../frame/Notice';
import { usePageTitle } from '../frame/usePageTitle';
import { Waiting } from '../frame/Waiting';
import { ExpiredNote } from './ExpiredNote';
import { LabelRows } from './LabelRows';
import { PrintLabels } from './PrintLabels';
import { useLabels } from './useLabels';

/** Labels that nobody has printed yet, as many at once as are wanted; and one printed before, once more with a reason. */
export default function Labels() {
  usePageTitle('Labels');
  const [params] = useSearchParams();
  const round = params.get('round');
  const [sought, setSought] = useState('');
  const page = useLabels(round, sought.trim());
  const [off, setOff] = useState<ReadonlySet<string>>(new Set());
  const [again, setAgain] = useState<ReadonlySet<string>>(new Set());
  if (page.error && !page.data)
    return (
      <Box sx={{ p: 3 }}>
        <Notice problem={page.error} onAgain={() => void page.refetch()} />
      </Box>
    );
  if (!page.data) return <Waiting what="Looking for labels" />;
  const { waiting, printed, media, expired, reasons } = page.data;
  const chosen = [
    ...waiting.filter((it) => !off.has(it.inspectionId)).map((it) => it.inspectionId),
    ...printed.filter((it) => again.has(it.inspectionId)).map((it) => it.inspectionId),
  ];
  const toggled = (set: ReadonlySet<string>, ids: readonly string[], isIn: boolean) => {
    const next = new Set(set);
    for (const id of ids)
      if (isIn) next.add(id);
      else next.delete(id);
    return next;
  };
  return (
    <Beside
      label="Print"
      side={
        <Box>
          <PrintLabels
            chosen={chosen}
            media={media}
            reasons={reasons}
            needsReason={printed.some((it) => again.has(it.inspectionId) && it.printedBy != null)}
            onPrinted={() => {
              setOff(new Set());
              setAgain(new Set());
            }}
          />
          {again.size > 0 && (
            <Button color="inherit" sx={{ mt: 1 }} onClick={() => setAgain(new Set())}>
              None of the printed ones
            </Button>
          )}
        </Box>
      }
    >
      <Typography variant="h1">Labels</Typography>
      <Typography sx={{ color: c.bark }}>
        Of what was inspected last. A fail label is loud in black and white too.
      </Typography>
      <ExpiredNote expired={expired} />
      <Box component="section" aria-label="To print" sx={{ mt: 2.5 }}>
        <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
          <Typography variant="h2" sx={{ flex: 1 }}>
            To print ({waiting.length}
            {page.data.more ? ' and more' : ''})
          </Typography>
          {waiting.length > 0 && (
            <>
              <Button color="inherit" onClick={() => setOff(new Set())}>
                All
              </Button>
              <Button color="inherit" onClick={() => setOff(new Set(waiting.map((it) => it.inspectionId)))}>
                None
              </Button>
            </>
          )}
        </Box>
        {waiting.length === 0 && (
          <Typography sx={{ color: c.muted }}>Every label of the last month is printed.</Typography>
        )}
        <LabelRows
          labels={waiting}
          isChosen={(id) => !off.has(id)}
          onChoose={(ids, isChosen) => setOff(toggled(off, ids, !isChosen))}
        />
      </Box>
      <Box component="section" aria-label="Printed" sx={{ mt: 3 }}>
        <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', flexWrap: 'wrap' }}>
          <Typography variant="h2" sx={{ flex: 1 }}>
            {sought.trim() ? `Label of ${sought.trim()}` : 'Printed in the last month'}
          </Typography>
          <TextField
            size="small"
            label="Tag of an older one"
            value={sought}
            onChange={(event) => setSought(event.target.value)}
            slotProps={{ htmlInput: { maxLength: 60 } }}
          />
        </Box>
        {printed.length === 0 && <Typography sx={{ color: c.muted }}>None.</Typography>}
        <LabelRows
          labels={printed}
          isChosen={(id) => again.has(id)}
          onChoose={(ids, isChosen) => setAgain(toggled(again, ids, isChosen))}
        />
      </Box>
    </Beside>
  );
}
