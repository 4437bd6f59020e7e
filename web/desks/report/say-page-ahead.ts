import { MOST_FOR_MAIL } from '#core/preflight/rules/large-for-mail.ts';
import { sayBytes } from '#web/desks/shared/say-bytes.ts';
import type { PageAhead } from '#web/server/reports/report-file.ts';

const figures = (count: number): string => (count === 1 ? '1 figure' : `${count} figures`);

/** What the page of a report will be, before it is written. */
export function sayPageAhead({ bytes, living, tooLarge, unready }: PageAhead): string {
  const said = [`About ${sayBytes(bytes)}`];
  if (living > 0) said.push(`${figures(living)} can be turned by its readers`);
  if (unready > 0)
    said.push(`${figures(unready)} ${unready === 1 ? 'is' : 'are'} not ready to be turned yet`);
  if (tooLarge > 0) said.push(`${figures(tooLarge)} ${tooLarge === 1 ? 'is' : 'are'} too large for it`);
  if (bytes > MOST_FOR_MAIL) said.push(`many mail servers take no more than ${MOST_FOR_MAIL / 1e6} MB`);
  return `${said.join('; ')}.`;
}
