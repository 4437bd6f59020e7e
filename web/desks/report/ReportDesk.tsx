import { useEffect, useState } from 'react';
import type { Report } from '#core/report/report.ts';
import type { DocumentSaver } from '#web/desks/shared/document-saver.ts';
import { EarlierStates } from '#web/desks/shared/EarlierStates.tsx';
import { Guard } from '#web/desks/shared/Guard.tsx';
import { NameOfDocument } from '#web/desks/shared/NameOfDocument.tsx';
import { SaveNotice } from '#web/desks/shared/SaveNotice.tsx';
import { TopBar } from '#web/desks/shared/TopBar.tsx';
import { UndoRedo } from '#web/desks/shared/UndoRedo.tsx';
import { undoneByKey } from '#web/desks/shared/undo-keys.ts';
import type { SeenForReport } from '#web/server/reports/kept-reports.ts';
import { GiveReport } from './GiveReport.tsx';
import { LivePage } from './LivePage.tsx';
import { askStanding, goOnLooking } from './look-at-sources.ts';
import { Outline } from './Outline.tsx';
import { ReportPreflight } from './ReportPreflight.tsx';
import { ReportSettings } from './ReportSettings.tsx';
import {
  editReport,
  openReportDesk,
  redoReport,
  replaceReport,
  undoReport,
  useReport,
  useReportDesk,
} from './report-store.ts';
import { SourcesNotice } from './SourcesNotice.tsx';

interface Props {
  id: string;
  document: Report;
  revision: number;
  seen: SeenForReport;
}

/** The desk where a report is put together, with the page as it will be beside it. */
export function ReportDesk({ id, document, revision, seen }: Props) {
  const [saver, setSaver] = useState<DocumentSaver<Report> | null>(null);
  useEffect(() => {
    const desk = openReportDesk(id, document, revision, seen);
    setSaver(desk.saver);
    const onKey = (event: KeyboardEvent): void => void undoneByKey(event, undoReport, redoReport);
    const onFocus = (): void => void askStanding();
    addEventListener('keydown', onKey);
    addEventListener('focus', onFocus);
    return () => {
      removeEventListener('keydown', onKey);
      removeEventListener('focus', onFocus);
      desk.close();
    };
  }, []);
  if (!saver) return null;
  return (
    <Guard what="The desk" onUndo={undoReport}>
      <Desk id={id} saver={saver} />
    </Guard>
  );
}

function Desk({ id, saver }: { id: string; saver: DocumentSaver<Report> }) {
  const { name, sources, blocks } = useReport();
  const history = useReportDesk((s) => s.history);
  const save = useReportDesk((s) => s.save);
  const looking = useReportDesk((s) => s.looking);
  const now = useReportDesk((s) => s.now);
  // What is new is looked at by itself.
  useEffect(() => {
    goOnLooking();
  }, [sources, blocks, looking === null, now]);
  // What the server knows of the sources depends on what is saved.
  useEffect(() => {
    if (save.kind === 'saved') void askStanding();
  }, [sources, save.kind]);
  return (
    <div className="flex h-screen flex-col overflow-hidden">
      <TopBar
        desk="report"
        stageHref={null}
        title={
          <NameOfDocument
            label="Title of the report"
            name={name}
            save={save.kind}
            onRename={(to) => editReport({ type: 'report.front', change: { name: to } }, 'rename')}
          />
        }
      >
        <EarlierStates<{ document: Report }>
          what="report"
          address={`/api/reports/${id}/states`}
          canKeep
          bringBack={({ document }) => replaceReport(document)}
        />
        <UndoRedo history={history} undo={undoReport} redo={redoReport} />
        <GiveReport id={id} />
      </TopBar>
      <SaveNotice what="report" save={save} saver={saver} />
      <div className="flex min-h-0 flex-1">
        <aside
          aria-label="What the report is made of"
          className="w-[380px] shrink-0 overflow-y-auto border-r border-rule bg-paper"
        >
          <Outline />
          <ReportSettings />
        </aside>
        <main className="flex min-w-0 flex-1 flex-col">
          <SourcesNotice />
          <ReportPreflight />
          <LivePage />
        </main>
      </div>
    </div>
  );
}
