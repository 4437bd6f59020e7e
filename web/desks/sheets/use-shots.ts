import { useEffect, useState } from 'react';
import { ask } from '#engine/server-requests.ts';
import type { ListedShot } from '#web/server/listed-shots.ts';

/** All shots of all scenes; null until they are known. */
export function useShots(): readonly ListedShot[] | null {
  const [shots, setShots] = useState<readonly ListedShot[] | null>(null);
  useEffect(() => {
    const look = () => ask<ListedShot[]>('/api/shots').then(setShots, () => undefined);
    void look();
    // Shots are kept in other tabs.
    addEventListener('focus', look);
    return () => removeEventListener('focus', look);
  }, []);
  return shots;
}
