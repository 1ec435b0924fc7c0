import { Box, Button, TextField, Typography } from '@mui/material';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useParams } from 'react-router';
import { api, ask, type Schema } from '../api/client';
import { showDate } from '../api/dates';
import { Ring } from '../design/Ring';
import { c } from '../design/tokens';
import { useNumberOf } from '../frame/useNumberOf';
import { Notice } from '../frame/Notice';
import { usePageTitle } from '../frame/usePageTitle';
import { Waiting } from '../frame/Waiting';
import { Wordmark } from '../frame/Wordmark';
import { PhotoButton } from './PhotoButton';
import { sendPhoto } from './sendPhoto';

type Report = Schema['UserReport'];

const reports: readonly { value: Report; text: string; note: string }[] = [
  { value: 'allGood', text: 'Looks good', note: 'Plug, flex and case whole; it works as it should.' },
  { value: 'damaged', text: 'Damaged', note: 'Something is cracked, loose, worn or missing.' },
  { value: 'dangerous', text: 'Dangerous', note: 'A shock, smoke, something burnt, bare wire or metal.' },
];

/** Behind an item's code: for whoever uses it a look before use, for an inspector when it was last checked. Nothing else is told. */
export default function PublicPage() {
  const { token = '' } = useParams();
  const item = useQuery({
    queryKey: ['public', token],
    queryFn: () => ask(api.GET('/api/v1/public/{token}', { params: { path: { token } } })),
  });
  usePageTitle(item.data?.name ?? 'Equipment');
  return (
    <Box component="main" sx={{ maxWidth: 560, mx: 'auto', p: 2.5, width: '100%' }}>
      <Wordmark />
      {item.error && !item.data && (
        <Box sx={{ mt: 3 }}>
          <Notice problem={item.error} onAgain={() => void item.refetch()} />
        </Box>
      )}
      {!item.data && !item.error && <Waiting what="Looking it up" />}
      {item.data && (
        <>
          <Standing it={item.data} />
          <Look token={token} isOut={item.data.isOutOfUse} onSent={() => void item.refetch()} />
        </>
      )}
    </Box>
  );
}

function Standing({ it }: { it: Schema['PublicItem'] }) {
  return (
    <Box sx={{ mt: 2.5 }}>
      <Box sx={{ color: c.muted }}>{it.tag}</Box>
      <Typography variant="h1">{it.name}</Typography>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', mt: 1.5 }}>
        <Ring state={it.isOutOfUse ? 'fail' : it.lastCheck ? 'pass' : 'notTested'} size={48} />
        <Box>
          <Box sx={{ fontWeight: 700, fontSize: '1.2rem', color: it.isOutOfUse ? c.fail : c.ink }}>
            {it.isOutOfUse ? 'Out of use: do not use it' : 'In service'}
          </Box>
          <Box sx={{ color: c.bark }}>
            {it.lastCheck && it.lastCheckedOn
              ? `Last checked ${showDate(it.lastCheckedOn)}: ${it.lastCheck}`
              : 'Not checked yet'}
          </Box>
          {it.due && (
            <Box sx={{ color: it.isOverdue ? c.fail : c.bark }}>
              Next check {it.isOverdue ? 'was due' : 'by'} {showDate(it.due)}
            </Box>
          )}
          {it.asks && (
            <Box sx={{ color: c.bark }}>
              {it.asks}
              {it.saidOn && ` One of them last said so on ${showDate(it.saidOn)}.`}
            </Box>
          )}
        </Box>
      </Box>
    </Box>
  );
}

function Look({ token, isOut, onSent }: { token: string; isOut: boolean; onSent: () => void }) {
  const [report, setReport] = useState<Report | null>(null);
  const [words, setWords] = useState('');
  const [name, setName] = useState('');
  const [photo, setPhoto] = useState<File | null>(null);
  const number = useNumberOf();
  const send = useMutation({
    mutationFn: async () => {
      const id = number.of(JSON.stringify([report, words, name]));
      const kept = await ask(
        api.POST('/api/v1/public/{token}/checks', {
          params: { path: { token } },
          body: { id, report: report!, words, name },
        }),
      );
      // The report is kept whatever becomes of the photo.
      const sent = photo ? await sendPhoto(`/api/v1/public/${token}/checks/${id}/photo`, photo) : null;
      return { ...kept, refused: sent && 'refused' in sent ? sent.refused : null };
    },
    onSuccess: onSent,
  });
  if (send.data)
    return (
      <Box role="status" sx={{ mt: 3, borderLeft: `6px solid ${c.reed}`, pl: 2, py: 0.5 }}>
        <Box sx={{ fontWeight: 700, fontSize: '1.1rem' }}>Thank you: it is kept.</Box>
        {send.data.tookOutOfUse && (
          <Box sx={{ color: c.fail, fontWeight: 600 }}>
            It is out of use from now on. Unplug it if that is safe, and keep others away from it.
          </Box>
        )}
        {send.data.refused && <Notice problem={send.data.refused} />}
        <Button
          sx={{ mt: 1.5, ml: -1.5 }}
          color="inherit"
          onClick={() => {
            send.reset();
            number.done();
            setReport(null);
            setWords('');
            setPhoto(null);
          }}
        >
          Say something more
        </Button>
      </Box>
    );
  const needsWords = report !== null && report !== 'allGood';
  return (
    <Box
      component="form"
      aria-label="A look before use"
      onSubmit={(event) => {
        event.preventDefault();
        send.mutate();
      }}
      sx={{ mt: 3.5, display: 'grid', gap: 1.5 }}
    >
      <Typography variant="h2">{isOut ? 'Something to report?' : 'A look before you use it'}</Typography>
      {reports.map((it) => (
        <Button
          key={it.value}
          variant={report === it.value ? 'contained' : 'outlined'}
          color={it.value === 'dangerous' ? 'error' : 'inherit'}
          aria-pressed={report === it.value}
          onClick={() => setReport(it.value)}
          sx={{ justifyContent: 'flex-start', textAlign: 'left', py: 1.25 }}
        >
          <Box>
            <Box sx={{ fontSize: '1.05rem' }}>{it.text}</Box>
            <Box sx={{ fontWeight: 400, fontSize: 14 }}>{it.note}</Box>
          </Box>
        </Button>
      ))}
      {needsWords && (
        <>
          <TextField
            label="What is wrong"
            multiline
            minRows={2}
            value={words}
            onChange={(event) => setWords(event.target.value)}
            slotProps={{ htmlInput: { maxLength: 500 } }}
            required
          />
          <PhotoButton
            text={photo ? `Photo: ${photo.name}` : 'Add a photo'}
            label="Photo of the damage"
            onPhoto={setPhoto}
          />
        </>
      )}
      {report && (
        <TextField
          label="Your name, if you like"
          value={name}
          onChange={(event) => setName(event.target.value)}
          slotProps={{ htmlInput: { maxLength: 60 } }}
        />
      )}
      {send.error && <Notice problem={send.error} />}
      <Button
        type="submit"
        variant="contained"
        size="large"
        disabled={!report || (needsWords && !words.trim()) || send.isPending}
      >
        {send.isPending ? 'Sending …' : 'Send'}
      </Button>
      <Box sx={{ color: c.muted, fontSize: 14 }}>
        A look is no test. If you are in doubt, do not use it; if somebody may be hurt, switch off first and
        call for help.
      </Box>
    </Box>
  );
}
