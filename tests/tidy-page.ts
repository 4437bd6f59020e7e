import type { SheetPage } from '#core/sets/sheet-layout.ts';

/** Whether pictures lie on the page, and none over another or over words. */
export function isTidy({ width, height, pictures, texts }: SheetPage): boolean {
  const boxes = pictures.map((p) => [p.x, p.y, p.x + p.width, p.y + p.height]);
  const within = boxes.every(([a, b, c, d]) => a >= 0 && b >= 0 && c <= width && d <= height);
  const apart = boxes.every((p, i) =>
    boxes.every((q, j) => i >= j || p[2] <= q[0] || q[2] <= p[0] || p[3] <= q[1] || q[3] <= p[1]),
  );
  const free = texts.every((t) => {
    const from = t.align === 'left' ? t.x : t.align === 'center' ? t.x - t.width / 2 : t.x - t.width;
    const [top, bottom] = [t.y - t.size / 2, t.y + t.size / 2];
    const onPage = from >= 0 && from + t.width <= width + 0.5 && top >= 0 && bottom <= height;
    return (
      onPage && boxes.every(([a, b, c, d]) => c <= from || from + t.width <= a || d <= top || bottom <= b)
    );
  });
  return within && apart && free;
}
