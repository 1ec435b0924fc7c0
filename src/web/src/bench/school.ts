import type { Schema } from '../api/client';

/** How this technician works, kept on this device. */
const key = 'osierwand.school';

export function keptSchool(): Schema['School'] | null {
  try {
    const kept = localStorage.getItem(key);
    return kept === 'meter' || kept === 'applianceTester' ? kept : null;
  } catch {
    return null;
  }
}

export function keepSchool(school: Schema['School']) {
  try {
    localStorage.setItem(key, school);
  } catch {
    // Kept for this sheet only.
  }
}
