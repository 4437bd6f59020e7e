import { useRoving } from './roving.ts';

/** The first stop of a page: ways past what comes before, seen when they have the focus. */
export function SkipLinks({ to }: { to: { id: string; name: string }[] }) {
  const ref = useRoving<HTMLElement>();
  return (
    <nav
      ref={ref}
      aria-label="Ways past"
      className="card fixed top-1 left-1 z-[60] flex gap-1 p-1 [&:not(:focus-within)]:sr-only"
    >
      {to.map(({ id, name }) => (
        <a
          key={id}
          href={`#${id}`}
          className="rounded-md px-3 py-1 font-medium"
          onClick={(e) => {
            e.preventDefault();
            focusRegion(id);
          }}
        >
          To {name}
        </a>
      ))}
    </nav>
  );
}

/** Goes to the first stop within a part of the page. */
export function focusRegion(id: string): void {
  const region = document.getElementById(id);
  const stops = region?.querySelectorAll<HTMLElement>('button, a[href], input, select, [tabindex]') ?? [];
  const first = [...stops].find((s) => s.tabIndex >= 0 && s.offsetParent !== null);
  (region && region.tabIndex >= 0 ? region : first)?.focus();
}
