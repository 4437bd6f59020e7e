/** A file as an answer, to be kept by whoever asks under its name. */
export const attachment = (name: string, type: string, body: BodyInit): Response =>
  new Response(body, {
    headers: {
      'Content-Type': type,
      // Headers have no letters beyond ASCII: a name travels as an address does.
      'Content-Disposition': `attachment; filename="${encodeURIComponent(name)}"`,
    },
  });
