/** A text as a piece of a pattern that matches the very same text. */
export const literalPattern = (text: string): string => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');
