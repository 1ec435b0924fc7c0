import createClient from 'openapi-fetch';
import { during } from '../frame/idle';
import { hearServerTime } from './clock';
import type { components, paths } from './schema.gen';

export type Schema = components['schemas'];

/** What a user got wrong: where, and what would be right. */
export interface Fault {
  path: string;
  message: string;
}

/** What the server says went wrong: what happened, what was kept, what to do. */
export class Problem extends Error {
  readonly status: number;
  readonly detail: string;
  readonly faults: readonly Fault[];
  /** Whatever else the server said, by name. */
  readonly extra: Readonly<Record<string, unknown>>;

  constructor(
    status: number,
    title: string,
    detail: string,
    faults: readonly Fault[] = [],
    extra: Readonly<Record<string, unknown>> = {},
  ) {
    super(title);
    this.status = status;
    this.detail = detail;
    this.faults = faults;
    this.extra = extra;
  }

  /** No answer at all: the network or the server is away. */
  get isAway() {
    return this.status === 0;
  }
}

const signedOut = new Set<() => void>();

/** One place hears that the session is over, whichever request found out. */
export function onSignedOut(listener: () => void) {
  signedOut.add(listener);
  return () => void signedOut.delete(listener);
}

export const api = createClient<paths>({ baseUrl: '/', fetch: (request) => during(fetch(request)) });

/** For what a page asks by itself, again and again: a session must not be kept alive by a tablet that lies on a shelf. */
export const unattended = { headers: { 'Osierwand-Unattended': 'yes' } } as const;

interface Answer<T> {
  data?: T;
  error?: unknown;
  response: Response;
}

/** The answer's data, or a Problem. A dropped network becomes a Problem too, so that every screen handles one kind of failure. */
export async function ask<T>(request: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>;
  try {
    answer = await request;
  } catch {
    throw new Problem(
      0,
      'The server cannot be reached.',
      'What you entered is kept on this screen. It goes on when the connection is back.',
    );
  }
  hearServerTime(answer.response.headers.get('date'));
  if (answer.response.ok) return answer.data as T;
  const error = (answer.error ?? {}) as {
    title?: string;
    detail?: string;
    faults?: Fault[];
    [more: string]: unknown;
  };
  if (answer.response.status === 401) signedOut.forEach((listener) => listener());
  throw new Problem(
    answer.response.status,
    error.title ?? (answer.response.status === 401 ? 'Signed out.' : 'The server refused.'),
    error.detail ?? 'Nothing was changed.',
    error.faults,
    error,
  );
}
