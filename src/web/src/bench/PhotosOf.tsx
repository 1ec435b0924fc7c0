import { Box, Button } from '@mui/material';
import { useState } from 'react';
import type { Schema } from '../api/client';
import { c } from '../design/tokens';
import { PhotoButton } from '../public/PhotoButton';
import { sendPhoto } from '../public/sendPhoto';
import { useRun, useShown } from './useBench';

/** Photos of one point of the look or of where the clip sits: sent at once, kept with the item, and named by the record. */
export function PhotosOf(props: { of: string; shows: Schema['PhotoOf']; text: string; label?: string }) {
  const run = useRun();
  const itemId = useShown((shown) => shown.laid.item.id);
  const photos = useShown(({ now }) => now.photos.filter((it) => it.of === props.of));
  const [isBusy, setIsBusy] = useState(false);
  const [fault, setFault] = useState<string | null>(null);
  const take = async (photo: File) => {
    setIsBusy(true);
    setFault(null);
    try {
      const sent = await sendPhoto(
        `/api/v1/register/${itemId}/photos?of=${props.shows}${
          props.shows === 'earthPoint' ? `&step=${encodeURIComponent(props.of)}` : ''
        }`,
        photo,
      );
      if ('refused' in sent) setFault(sent.refused.detail);
      else await run.happen({ kind: 'photoTaken', photo: sent.id, of: props.of });
    } catch {
      // Without the network the sheet goes on; only the photo waits for another press.
      setFault('The photo did not reach the server. Take it again when the network is back.');
    } finally {
      setIsBusy(false);
    }
  };
  return (
    <Box
      onClick={(event) => event.stopPropagation()}
      sx={{ display: 'flex', gap: 0.75, alignItems: 'center', flexWrap: 'wrap' }}
    >
      {photos.map((it) => (
        <Box key={it.id} sx={{ display: 'flex', alignItems: 'center' }}>
          <Box component="a" href={`/api/v1/photos/${it.id}`} target="_blank" rel="noreferrer">
            <Box
              component="img"
              src={`/api/v1/photos/${it.id}?thumbnail=true`}
              alt="Photo taken at this sheet"
              sx={{ width: 58, height: 44, objectFit: 'cover', borderRadius: '6px', display: 'block' }}
            />
          </Box>
          <Button
            size="small"
            color="inherit"
            onClick={() =>
              void run
                .happen({
                  kind: 'voided',
                  target: it.eventId,
                  point: null,
                  cause: null,
                  reason: 'not the right photo',
                })
                .catch(() => {})
            }
          >
            Take back
          </Button>
        </Box>
      ))}
      <PhotoButton
        text={isBusy ? 'Sending …' : props.text}
        label={props.label ?? props.text}
        isBusy={isBusy}
        onPhoto={(photo) => void take(photo)}
      />
      {fault && (
        <Box role="alert" sx={{ color: c.fail, fontSize: 13.5 }}>
          {fault}
        </Box>
      )}
    </Box>
  );
}
