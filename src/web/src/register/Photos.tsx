import { Box, MenuItem, TextField, Typography } from '@mui/material';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, type Schema } from '../api/client';
import { showDate } from '../api/dates';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { useMe } from '../people/SignedIn';
import { PhotoButton } from '../public/PhotoButton';
import { sendPhoto } from '../public/sendPhoto';

type Of = Schema['PhotoOf'];

const ofWords: Record<Of, string> = {
  plate: 'Rating plate',
  damage: 'Damage',
  earthPoint: 'Good earth point',
  other: 'Something else',
};

/** What was photographed of an item: its plate, damage, where the clip finds earth. */
export function Photos({ itemId }: { itemId: string }) {
  const mayAdd = useMe().role !== 'viewer';
  const queries = useQueryClient();
  const [of, setOf] = useState<Of>('plate');
  const photos = useQuery({
    queryKey: ['photos', itemId],
    queryFn: () => ask(api.GET('/api/v1/register/{itemId}/photos', { params: { path: { itemId } } })),
  });
  const add = useMutation({
    mutationFn: async (photo: File) => {
      const sent = await sendPhoto(`/api/v1/register/${itemId}/photos?of=${of}`, photo);
      if ('refused' in sent) throw sent.refused;
    },
    onSettled: () => queries.invalidateQueries({ queryKey: ['photos', itemId] }),
  });
  if (!photos.data || (photos.data.length === 0 && !mayAdd)) return null;
  return (
    <Box component="section" aria-label="Photos" sx={{ mt: 3 }}>
      <Typography variant="h2">Photos</Typography>
      <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', mt: 1 }}>
        {photos.data.map((it) => (
          <Box
            key={it.id}
            component="a"
            href={`/api/v1/photos/${it.id}`}
            sx={{ color: c.bark, fontSize: 13.5, width: 132 }}
          >
            <Box
              component="img"
              src={`/api/v1/photos/${it.id}?thumbnail=true`}
              alt={`${ofWords[it.of]}, ${showDate(it.at)}`}
              loading="lazy"
              sx={{ width: 132, height: 99, objectFit: 'cover', borderRadius: '6px', display: 'block' }}
            />
            {it.shows ? `Good point, ${it.shows}` : ofWords[it.of]}, {showDate(it.at)}, {it.by}
          </Box>
        ))}
      </Box>
      {mayAdd && (
        <Box sx={{ display: 'flex', gap: 1, mt: 1, flexWrap: 'wrap' }}>
          <TextField
            select
            size="small"
            label="Shows"
            value={of}
            onChange={(event) => setOf(event.target.value as Of)}
            sx={{ width: 180 }}
          >
            {Object.entries(ofWords).map(([value, text]) => (
              <MenuItem key={value} value={value}>
                {text}
              </MenuItem>
            ))}
          </TextField>
          <PhotoButton
            text={add.isPending ? 'Sending …' : 'Add a photo'}
            label="Photo of the item"
            isBusy={add.isPending}
            onPhoto={(photo) => add.mutate(photo)}
          />
        </Box>
      )}
      {add.error && <Notice problem={add.error} />}
    </Box>
  );
}
