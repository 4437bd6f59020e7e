/** Takes back or does again where a key asks for it and nothing is being typed; tells whether it did. */
export function undoneByKey(event: KeyboardEvent, undo: () => void, redo: () => void): boolean {
  const typing = (event.target as HTMLElement).matches(
    'input:not([type=range], [type=checkbox]), textarea, select, [contenteditable]',
  );
  const key = event.key.toLowerCase();
  if (typing || !(event.ctrlKey || event.metaKey) || (key !== 'z' && key !== 'y')) return false;
  event.preventDefault();
  (key === 'y' || event.shiftKey ? redo : undo)();
  return true;
}
