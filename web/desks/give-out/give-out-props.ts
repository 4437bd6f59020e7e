import type { Viewport } from '#stage/viewport.ts';
import type { DeskController } from '#web/desks/stage/desk-controller.ts';

/** What every kind of giving out works with: the stage on the screen, and where its frames come from. */
export interface GiveOutProps {
  controller: DeskController;
  viewport: Viewport;
}
