import { Box } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { api, ask } from '../api/client';
import { showDate } from '../api/dates';
import { c } from '../design/tokens';
import { useShown } from './useBench';

/** Where the clip found bare earthed metal last time: a stud behind a flap, a scraped edge. Without the network there is none to see. */
export function GoodPoint({ step }: { step: string }) {
  const itemId = useShown((shown) => shown.laid.item.id);
  const photos = useQuery({
    queryKey: ['photos', itemId],
    queryFn: () => ask(api.GET('/api/v1/register/{itemId}/photos', { params: { path: { itemId } } })),
    staleTime: 60_000,
  });
  const last = photos.data?.find((it) => it.step === step);
  if (!last) return null;
  return (
    <Box
      component="a"
      href={`/api/v1/photos/${last.id}`}
      target="_blank"
      rel="noreferrer"
      sx={{ display: 'flex', gap: 1, alignItems: 'center', color: c.bark, fontSize: 14, minHeight: 44 }}
    >
      The good point, {showDate(last.at)}
      <Box
        component="img"
        src={`/api/v1/photos/${last.id}?thumbnail=true`}
        alt={`Good earth point, ${last.shows ?? ''}`}
        sx={{ width: 86, height: 64, objectFit: 'cover', borderRadius: '6px', display: 'block' }}
      />
    </Box>
  );
}
