import { useEffect, useState } from 'react';
import { type FinishOf, valuesOf } from '#core/light/own-finish.ts';
import { finishPictures } from './finish-pictures.ts';

/** A finish on a small body; its colour alone until that is drawn. */
export function FinishBall({ finish }: { finish: Exclude<FinishOf, null> }) {
  const [picture, setPicture] = useState<string | null>(null);
  useEffect(() => {
    let here = true;
    finishPictures.of(finish).then(
      (address) => here && setPicture(address),
      // Then its colour has to do.
      () => undefined,
    );
    return () => {
      here = false;
    };
  }, [finish]);
  if (picture) return <img src={picture} alt="" width={44} height={44} draggable={false} />;
  return (
    <span
      className="my-2 size-7 rounded-full border border-rule"
      style={{ background: valuesOf(finish)?.colour ?? '#a6483a' }}
    />
  );
}
