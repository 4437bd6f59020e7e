/** What of a scene a shot shows: its picture, its charts and readings, or its film at a time. */
export const shotKinds = ['picture', 'charts', 'film'] as const;
export type ShotKind = (typeof shotKinds)[number];

/** Under which heading shots of a scene stand, by what they show. */
export const sceneShotHeadings: Readonly<Record<ShotKind, string>> = {
  picture: 'Pictures',
  charts: 'Charts and readings',
  film: 'Of the film',
};

interface Grouped<K extends string> {
  /** What it shows. */
  kind: K;
  /** The heading it was put under by hand. */
  folder: string | null;
  tags: readonly string[];
}

/**
 * Shots under headings: those of one's own first, in the order in which they come, then by what they show.
 *
 * @param headings for what shots show, in their order
 * @param tag only those that have it; null for all
 */
export function shotGroups<K extends string, S extends Grouped<K>>(
  shots: readonly S[],
  headings: Readonly<Record<K, string>>,
  tag: string | null = null,
): { heading: string; own: boolean; shots: S[] }[] {
  const wanted = shots.filter((s) => tag === null || s.tags.includes(tag));
  const own = [...new Set(wanted.flatMap((s) => (s.folder === null ? [] : [s.folder])))];
  return [
    ...own.map((folder) => ({
      heading: folder,
      own: true,
      shots: wanted.filter((s) => s.folder === folder),
    })),
    ...(Object.entries(headings) as [K, string][]).map(([kind, heading]) => ({
      heading,
      own: false,
      shots: wanted.filter((s) => s.folder === null && s.kind === kind),
    })),
  ].filter((group) => group.shots.length > 0);
}

/** All tags, those that more shots have first. */
export function tagsOf(shots: readonly Pick<Grouped<string>, 'tags'>[]): string[] {
  const counts = new Map<string, number>();
  for (const tag of shots.flatMap((s) => [...new Set(s.tags)])) counts.set(tag, (counts.get(tag) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1] || a[0].localeCompare(b[0])).map(([tag]) => tag);
}

/** Tags as they are typed, with commas between them. */
export const readTags = (typed: string): string[] =>
  [...new Set(typed.split(',').map((tag) => tag.trim()))].filter((tag) => tag !== '').slice(0, 50);
