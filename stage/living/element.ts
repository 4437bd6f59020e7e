/** An element of a page with its attributes and what is in it. */
export function element<K extends keyof HTMLElementTagNameMap>(
  tag: K,
  attributes: Record<string, string | number> = {},
  ...inside: (Node | string)[]
): HTMLElementTagNameMap[K] {
  const made = document.createElement(tag);
  for (const [name, value] of Object.entries(attributes)) made.setAttribute(name, `${value}`);
  made.append(...inside);
  return made;
}
