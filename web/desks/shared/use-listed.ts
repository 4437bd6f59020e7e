import { useEffect, useState } from 'react';
import { ask } from '#engine/server-requests.ts';

/** A list of the server, asked for once; empty until it is there. */
export function useListed<T>(address: string): readonly T[] {
  const [found, setFound] = useState<readonly T[]>([]);
  useEffect(() => {
    ask<T[]>(address).then(setFound, () => undefined);
  }, [address]);
  return found;
}
