import { useState } from 'react';

interface Props {
  /** What is named, for those who do not see the hint. */
  label: string;
  hint: string;
  /** What the button says, by the name as it is typed. */
  says(name: string): string;
  onKeep(name: string): void;
}

/** A name to be typed, and a button that keeps something under it. */
export function KeepUnderName({ label, hint, says, onKeep }: Props) {
  const [text, setText] = useState('');
  const name = text.trim();
  return (
    <form
      className="flex items-center gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        if (!name) return;
        onKeep(name);
        setText('');
      }}
    >
      <input
        className="field min-w-0 flex-1"
        aria-label={label}
        placeholder={hint}
        maxLength={100}
        value={text}
        onChange={(e) => setText(e.target.value)}
      />
      <button type="submit" className="quiet h-8" disabled={!name}>
        {says(name)}
      </button>
    </form>
  );
}
