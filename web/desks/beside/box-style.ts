import type { Box } from '#core/beside/side-layout.ts';

/** Where something lies among the panes, for the page. */
export const boxStyle = ({ x, y, width, height }: Box) => ({ left: x, top: y, width, height });
