import { answer } from '#web/server/answer.ts';
import { sourcesNow } from '#web/server/reports/kept-reports.ts';

/** What is there now of everything that a report shows, by its sources. */
export const GET = answer(({ params }) => sourcesNow(params.id!));
