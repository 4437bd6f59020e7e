import { useEffect } from 'react';
import { goToStep, redo, sceneNow, undo, useDesk } from './desk-store.ts';

/** Keys of the whole desk: undo and redo as everywhere, space to play, comma and full stop for single steps. */
export function useDeskKeys(): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      const typing = target.matches('input:not([type=range]), textarea, select, [contenteditable]');
      const command = event.ctrlKey || event.metaKey;
      if (command && event.key.toLowerCase() === 'z' && !typing) {
        event.preventDefault();
        (event.shiftKey ? redo : undo)();
      } else if (command && event.key.toLowerCase() === 'y' && !typing) {
        event.preventDefault();
        redo();
      } else if (
        !typing &&
        !command &&
        event.key === ' ' &&
        !target.matches('button, a, summary, [role=slider]')
      ) {
        event.preventDefault();
        useDesk.setState((s) => ({ playing: !s.playing && s.run.steps.length > 1 }));
      } else if (!typing && !command && (event.key === ',' || event.key === '.')) {
        goToStep(sceneNow().step + (event.key === ',' ? -1 : 1));
      }
    };
    addEventListener('keydown', onKey);
    return () => removeEventListener('keydown', onKey);
  }, []);
}
