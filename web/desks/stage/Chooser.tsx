import { Popover } from 'radix-ui';
import { type ReactNode, useContext } from 'react';
import { numberText, typedNumber, widthFor } from './number-text.ts';
import { TriedOut, useTryOut } from './try-out.ts';

interface Props {
  /** The word that opens it. */
  word: ReactNode;
  label: string;
  children: ReactNode;
  wide?: boolean;
  /** Class of the word, when it is no word of a sentence. */
  look?: string;
  /** Whether it is open, where somebody else may open it too. */
  open?: boolean;
  onOpen?(open: boolean): void;
  /** Where its choices open, where there is room. */
  side?: 'right' | 'bottom';
  /** Out of the way for as long as one points at something on the picture: not there at all, or clicks would fall on it. */
  away?: boolean;
}

/** An emphasised word of a sentence; its choices open beside it and apply at once. */
export function Chooser({
  word,
  label,
  children,
  wide = false,
  look = 'word',
  open,
  onOpen,
  side = 'right',
  away = false,
}: Props) {
  return (
    <Popover.Root open={open} onOpenChange={onOpen}>
      <Popover.Trigger className={look} aria-label={label} title={label}>
        {word}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side={side}
          align="start"
          sideOffset={side === 'right' ? 12 : 4}
          collisionPadding={12}
          className={`card z-50 max-h-[80vh] overflow-y-auto p-3 ${wide ? 'w-[400px]' : 'w-64'} ${away ? 'hidden' : ''}`}
        >
          {children}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** A choice in a chooser that closes it. */
export const ChooseOnce = Popover.Close;

interface ChoiceProps {
  chosen: boolean;
  onChoose(): void;
  children: ReactNode;
}

/** One row of choices; where choices are tried out, that is done while it is pointed at. */
export function Choice({ chosen, onChoose, children }: ChoiceProps) {
  const trial = useTryOut(useContext(TriedOut) && !chosen ? onChoose : null);
  return (
    <button
      type="button"
      aria-pressed={chosen}
      {...trial}
      onClick={onChoose}
      className={`flex w-full items-center gap-2 rounded-md px-2 py-1 text-left hover:bg-sunk ${chosen ? 'bg-accent-wash font-medium' : ''}`}
    >
      {children}
    </button>
  );
}

interface NumberFieldProps {
  label: ReactNode;
  value: number;
  onChange(value: number): void;
  unit?: string | null;
}

/** A number to type; Enter confirms, Escape leaves it as it was. */
export function NumberField({ label, value, onChange, unit }: NumberFieldProps) {
  const text = numberText(value);
  const confirm = (input: HTMLInputElement) => {
    const typed = typedNumber(input.value);
    if (typed === null) input.value = text;
    else if (input.value !== text && typed !== value) onChange(typed);
  };
  return (
    <label className="flex items-center gap-2">
      <span className="text-soft">{label}</span>
      <input
        key={value}
        className="field tabular-nums"
        style={{ width: widthFor(text) }}
        defaultValue={text}
        onBlur={(e) => confirm(e.currentTarget)}
        onKeyDown={(e) => {
          if (e.key === 'Enter') confirm(e.currentTarget);
          if (e.key === 'Escape') {
            e.currentTarget.value = text;
            e.stopPropagation();
            e.currentTarget.blur();
          }
        }}
      />
      {unit && <span className="text-soft">{unit}</span>}
    </label>
  );
}
