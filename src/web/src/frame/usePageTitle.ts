import { useEffect } from 'react';

/** What the tab and a screen reader call this page. */
export function usePageTitle(title: string) {
  useEffect(() => {
    document.title = `${title} · Osierwand`;
    return () => {
      document.title = 'Osierwand';
    };
  }, [title]);
}
