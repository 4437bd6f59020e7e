import { type RefObject, useEffect, useRef } from 'react';

/** What arrows go between; fields keep their arrows and are stops of their own. */
const STOPS = 'button, a[href], summary, [role=button]';

const onward: Record<string, number> = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 };

const isShown = (element: HTMLElement): boolean => element.offsetParent !== null || element.offsetHeight > 0;

/**
 * Makes the buttons and links within an element one stop of Tab: arrows, Home and End go between them (the practice of
 * roving tabindex, WAI-ARIA Authoring Practices).
 *
 * @param first finds the one that Tab comes to at first
 */
export function useRoving<E extends HTMLElement>(first?: string): RefObject<E | null> {
  const ref = useRef<E>(null);
  useEffect(() => {
    const element = ref.current;
    if (!element) return;
    let current: HTMLElement | null = null;
    const stops = (): HTMLElement[] =>
      [...element.querySelectorAll<HTMLElement>(STOPS)].filter(
        (stop) => isShown(stop) && !(stop as HTMLButtonElement).disabled,
      );
    const tidy = (): void => {
      const all = stops();
      if (!current || !all.includes(current))
        current = (first ? all.find((s) => s.matches(first)) : null) ?? all[0] ?? null;
      for (const stop of all) {
        const index = stop === current ? 0 : -1;
        if (stop.tabIndex !== index) stop.tabIndex = index;
      }
    };
    const onFocus = (event: FocusEvent): void => {
      const stop = (event.target as HTMLElement).closest<HTMLElement>(STOPS);
      if (!stop || !element.contains(stop)) return;
      current = stop;
      tidy();
    };
    const onKey = (event: KeyboardEvent): void => {
      const target = event.target as HTMLElement;
      if (!target.matches(STOPS) || event.ctrlKey || event.metaKey || event.altKey || event.shiftKey) return;
      // What is being moved by the keyboard needs the arrows itself.
      if (target.ariaRoleDescription === 'sortable' && target.ariaPressed === 'true') return;
      const all = stops();
      const at = all.indexOf(target);
      const to =
        event.key === 'Home'
          ? all[0]
          : event.key === 'End'
            ? all[all.length - 1]
            : event.key in onward
              ? all[at + onward[event.key]]
              : undefined;
      if (!to) return;
      event.preventDefault();
      to.focus();
    };
    tidy();
    const watch = new MutationObserver(tidy);
    watch.observe(element, { childList: true, subtree: true, attributeFilter: ['disabled'] });
    element.addEventListener('focusin', onFocus);
    element.addEventListener('keydown', onKey);
    return () => {
      watch.disconnect();
      element.removeEventListener('focusin', onFocus);
      element.removeEventListener('keydown', onKey);
    };
  }, [first]);
  return ref;
}
