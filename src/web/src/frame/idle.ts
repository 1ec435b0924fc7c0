/**
 * Whether the page is at rest, as an attribute of the document: no request under way, no call of the engine, no instrument running, no part
 * of the page being fetched. Tests and the script that takes the pictures wait for it, as a person waits for a screen to stand still.
 */
let underWay = 0;
let settling: ReturnType<typeof setTimeout> | undefined;

/** One thing often starts the next, and what came in has to be drawn: at rest is who has been so for a moment. */
const settleMs = 40;

const say = (isIdle: boolean) => {
  if (typeof document !== 'undefined') document.documentElement.dataset['idle'] = String(isIdle);
};

/** Something is under way until what is given back is called; calling that twice counts once. */
export function begin(): () => void {
  underWay++;
  clearTimeout(settling);
  say(false);
  let isOver = false;
  return () => {
    if (isOver) return;
    isOver = true;
    underWay--;
    if (underWay === 0) settling = setTimeout(() => say(true), settleMs);
  };
}

/** The same for as long as the work takes, however it ends. */
export function during<T>(work: Promise<T>): Promise<T> {
  const end = begin();
  return work.finally(end);
}
