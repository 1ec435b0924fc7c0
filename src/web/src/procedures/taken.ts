import type { Procedure } from './editing';

let along: Procedure | null = null;

/** What a new procedure begins with, from a file, a copy or a device's plan: on its way to the editor's page. */
export function takeAlong(procedure: Procedure) {
  along = { ...procedure, id: crypto.randomUUID() };
}

/** Null where the page was opened by its address alone. */
export const takenAlong = () => along;
