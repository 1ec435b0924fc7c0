import { ask, Problem } from '../api/client';
import { during } from '../frame/idle';

/** A photo goes as it is; the server makes it anew. Resolves to its number, or to why it was not kept. */
export async function sendPhoto(path: string, photo: Blob): Promise<{ id: string } | { refused: Problem }> {
  try {
    const kept = await ask(
      (async () => {
        const response = await during(
          fetch(path, {
            method: 'POST',
            body: photo,
            headers: { 'content-type': photo.type || 'application/octet-stream' },
          }),
        );
        const body = (await response.json().catch(() => undefined)) as { id: string } | undefined;
        return response.ok ? { data: body, response } : { error: body, response };
      })(),
    );
    return { id: kept!.id };
  } catch (failure) {
    if (failure instanceof Problem) return { refused: failure };
    throw failure;
  }
}
