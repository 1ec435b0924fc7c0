/** One sheet belongs to one tab. Another tab may take it over, and then this one says so and stops writing. */
export interface TabLock {
  release(): void;
}

/**
 * @param onLost Another tab took the sheet over.
 * @returns Null when another tab holds it and `takeOver` was not asked for.
 */
export function lockTab(name: string, takeOver: boolean, onLost: () => void): Promise<TabLock | null> {
  if (!('locks' in navigator)) return Promise.resolve({ release() {} });
  return new Promise((resolve) => {
    let release = () => {};
    const held = new Promise<void>((done) => (release = done));
    navigator.locks
      .request(`osierwand/${name}`, takeOver ? { steal: true } : { ifAvailable: true }, (lock) => {
        if (lock === null) {
          resolve(null);
          return undefined;
        }
        resolve({ release });
        return held;
      })
      // A lock that is stolen ends with an error here, and nowhere else.
      .catch(() => onLost());
  });
}
