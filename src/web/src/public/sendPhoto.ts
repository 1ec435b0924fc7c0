import { ask, Problem } from '../api/client';

/** A photo goes as it is; the server makes it anew. Resolves to why it was not kept, or null. */
export async function sendPhoto(path: string, photo: Blob): Promise<Problem | null> {
  try {
    await ask(
      (async () => {
        const response = await fetch(path, {
          method: 'POST',
          body: photo,
          headers: { 'content-type': photo.type || 'application/octet-stream' },
        });
        const body: unknown = await response.json().catch(() => undefined);
        return response.ok ? { data: body, response } : { error: body, response };
      })(),
    );
    return null;
  } catch (failure) {
    if (failure instanceof Problem) return failure;
    throw failure;
  }
}
