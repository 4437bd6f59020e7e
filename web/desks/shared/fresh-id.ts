let made = 0;

/** A short name that no other thing of a document has. */
export const freshId = (kind: string): string => `${kind}-${Date.now().toString(36)}-${made++}`;
