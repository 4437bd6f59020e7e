import { inHouseSchema } from '#core/scene/things/checks.ts';

interface Props {
  words: readonly string[];
  onWords(words: string[]): void;
}

/** Names that nothing which leaves the house may say, with commas between. */
export function InHouseField({ words, onWords }: Props) {
  const said = words.join(', ');
  return (
    <label className="flex items-center justify-between gap-2">
      Stays in the house
      <input
        className="field h-7 w-52"
        placeholder="names, a comma between"
        key={said}
        defaultValue={said}
        onBlur={(e) => {
          const given = e.target.value.split(',').map((word) => word.trim());
          const { success, data } = inHouseSchema.safeParse(given.filter((word) => word !== ''));
          if (success && data.join(', ') !== said) onWords(data);
        }}
        onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
      />
    </label>
  );
}
