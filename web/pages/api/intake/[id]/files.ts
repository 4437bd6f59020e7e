import { ReadError } from '#core/model/read-error.ts';
import { answer } from '#web/server/answer.ts';
import { receiveFile } from '#web/server/intake.ts';

/** Takes the bytes of one file, named by `?name=`. */
export const PUT = answer(async ({ params, request, url }) => {
  const name = url.searchParams.get('name');
  if (!name) throw new ReadError('the file has no name', 'name', 'Drop it again.');
  const announced = Number(request.headers.get('content-length')) || null;
  await receiveFile(params.id!, name, request.body ?? new Blob([]).stream(), announced);
});
