import { useState } from 'react';
import type { RunDescription } from '#core/model/run.ts';
import { sayAsk } from '#core/scene/ask.ts';
import type { Scene } from '#core/scene/document.ts';
import { readAsk } from '#core/scene/read-ask.ts';
import { SentenceField } from '#web/desks/stage/SentenceField.tsx';

export interface AskSentenceProps {
  /** What is asked about. */
  run: RunDescription;
  scene: Scene;
  /** What stands there at first. */
  begin: string;
  confirmWord: string;
  onAsk(sentence: string): void;
  onDone(): void;
}

/** A question to type. */
export function AskSentence({ run, scene, begin, confirmWord, onAsk, onDone }: AskSentenceProps) {
  const [text, setText] = useState(begin);
  const read = readAsk(text, scene, run);
  const said = 'at' in read ? null : sayAsk(read, scene, run, 'reader');
  const plain = (t: string): string => t.toLowerCase().replace(/[\s,.]+/g, '');
  return (
    <SentenceField
      label="What is asked for"
      placeholder="average of … over …"
      text={text}
      onText={setText}
      notRead={'at' in read ? read : null}
      readAs={said && plain(said) !== plain(text) ? said : null}
      confirmWord={confirmWord}
      onConfirm={() => onAsk(text)}
      onDone={onDone}
    />
  );
}
