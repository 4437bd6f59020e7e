/** The pattern of a text between quotation marks, in which a mark of its own stands behind a backslash (as in JSON, RFC 8259). */
export const QUOTED = String.raw`"(?:\\.|[^"\\])*"`;
