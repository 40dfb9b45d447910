import { api, type DocumentPage as Page } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { Link, useParams, useSearchParams } from 'react-router';
import { addressOf, ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { documentAddress } from '../../ui/addresses.ts';
import { fingerprint, showDay, showInstant, showInstantDay } from '../../ui/format.ts';
import { Empty, Failed, Loading } from '../../ui/states.tsx';
import { TabPanel } from '../../ui/TabPanel.tsx';
import { ChangeNotePanel } from '../changes/ChangeNotePanel.tsx';
import { NotesOnDocument } from '../changes/NotesOnDocument.tsx';
import { CitationsPanel } from '../citations/CitationsPanel.tsx';
import { Commenting } from '../comments/Commenting.tsx';
import { CommentsPanel } from '../comments/CommentsPanel.tsx';
import { WithMarks } from '../comments/WithMarks.tsx';
import { OrdersOnDocument } from '../orders/OrdersOnDocument.tsx';
import { RightsPanel } from '../rights/RightsPanel.tsx';
import { FileViewer } from '../viewer/FileViewer.tsx';
import { ActionsMenu } from './commands/ActionsMenu.tsx';
import { useOpenCommand } from './commands/openCommand.ts';
import { History } from './History.tsx';
import { HoldNotice } from './HoldNotice.tsx';
import { MetadataPanel } from './MetadataPanel.tsx';
import { NextStrip } from './NextStrip.tsx';
import { saidOf } from './originals.ts';
import { ReadersPanel } from './ReadersPanel.tsx';
import { RoundPanel } from './RoundPanel.tsx';
import { TitleBlock } from './TitleBlock.tsx';
import { UsagePanel } from './UsagePanel.tsx';
import { VersionsPanel } from './VersionsPanel.tsx';
import { wording } from './wording.ts';

/** Formats shown as pages that can be marked and downloaded as a PDF. */
const MARKED = new Set(['pdf', 'pages', 'html', 'sheets']);

/** A document: title block, next step, the text, and its history beside it. The address carries tab and revision. */
export const DocumentPage = () => {
  const { number = '' } = useParams();
  const [params] = useSearchParams();
  const { data, error, isPending, isPlaceholderData, refetch } = useQuery({
    ...ask(api.documents.page, {
      params: { document: number },
      query: { rev: params.get('rev') ?? undefined, on: params.get('on') ?? undefined },
    }),
    placeholderData: (before) => (before?.number === number ? before : undefined),
  });
  if (isPending) return <Loading what={number} />;
  if (error)
    return params.get('on') ? (
      <NotOnThatDay number={number} day={params.get('on') ?? ''} />
    ) : (
      <Failed error={error} again={() => void refetch()} />
    );
  return <DocumentView page={data} isSettled={!isPlaceholderData} />;
};

const NotOnThatDay = ({ number, day }: { number: string; day: string }) => (
  <Empty title={wording.nothingWasInForceOnOr(number, showDay(day))}>
    <Link className="btn mt-2" to={documentAddress(number)}>
      {wording.showAsOfToday}
    </Link>
  </Empty>
);

export const useTabs = () => {
  const [params, setParams] = useSearchParams();
  return {
    tab: params.get('tab') ?? 'read',
    side: params.get('side') ?? 'history',
    version: params.get('v'),
    set: (changes: Record<string, string | null>) =>
      setParams((before) => {
        const next = new URLSearchParams(before);
        for (const [key, value] of Object.entries(changes)) value === null ? next.delete(key) : next.set(key, value);
        return next;
      }),
  };
};

/** Which of several originals is shown: sheets, languages, or files that belong together. */
const FileChooser = ({
  files,
  value,
  onChange,
}: {
  files: Page['versions'][number]['files'];
  value: string;
  onChange: (id: string) => void;
}) => (
  <div className="flex flex-wrap gap-1 border-b border-line-2 bg-film-2 px-3 py-1">
    {files.map((file) => (
      <button
        key={file.id}
        type="button"
        aria-pressed={file.id === value}
        className={`btn !h-6 ${file.id === value ? 'btn-pri' : ''}`}
        title={file.handedOutName}
        onClick={() => onChange(file.id)}
      >
        {saidOf(file, files) || file.name}
      </button>
    ))}
  </div>
);

/** A revision no longer in force shows its state across every page. */
const markOf = ({ revision }: Page): string | undefined =>
  revision.state === 'superseded' || revision.state === 'withdrawn' ? revision.state : undefined;

/** `isSettled` once the page is of the revision that the address names: dialogs of commands wait for it. */
const DocumentView = ({ page, isSettled }: { page: Page; isSettled: boolean }) => {
  const me = useMe();
  const openCommand = useOpenCommand(page);
  const [params] = useSearchParams();
  const { tab, side, version, set } = useTabs();
  const shown = page.versions.find((v) => String(v.n) === version) ?? page.versions[0];
  const files = shown?.files ?? [];
  const file = files.find((one) => one.id === params.get('file')) ?? files[0];
  const tabs = [
    { key: 'read', text: shown && shown !== page.versions[0] ? wording.readVersion(shown.n) : wording.read },
    ...(page.rights.includes('read work')
      ? [{ key: 'versions', text: wording.versionsVersions(page.versions.length) }]
      : []),
    ...(page.isChangeNote ? [{ key: 'change', text: wording.affectedAndTasks }] : []),
    ...(page.rounds.length ? [{ key: 'route', text: wording.route }] : []),
    {
      key: 'readers',
      text: wording.readersPart(page.counts.readers ? ` ${page.counts.readersDone}/${page.counts.readers}` : ''),
    },
    { key: 'citations', text: wording.linksAndCitations },
    ...(page.rights.includes('manage') || me.organisationRights.includes('audit')
      ? [{ key: 'usage', text: wording.openedBy }]
      : []),
  ];
  const sides = [
    { key: 'history', text: wording.history },
    { key: 'comments', text: wording.commentsComments(page.counts.comments || '') },
    { key: 'metadata', text: wording.metadata },
    { key: 'rights', text: wording.rights },
  ];
  const signatures = page.rounds.flatMap((round) =>
    round.steps.flatMap((step) =>
      step.assignments.flatMap((a) => (a.signature && a.signature.state !== 'void' ? [a.signature] : [])),
    ),
  );
  const mark = markOf(page);
  return (
    <div className="flex min-h-0 flex-1 flex-col gap-2.5 overflow-y-auto px-3.5 py-3">
      {page.view && (
        <div className="border border-ochre-line bg-ochre-tint px-3 py-1.5 text-[12.5px] text-ochre">
          {wording.asInForceOn} <b>{showDay(page.view.day)}</b>
          {page.view.until.map((u) => wording.uUntilTime(u.label, u.time))}
          {wording.folderOwnerKeywordsAndRightsAre}
        </div>
      )}
      {page.removedAt && (
        <div className="flex items-center gap-3 border border-ochre-line bg-ochre-tint px-3 py-1.5 text-[12.5px] text-ochre">
          {wording.removedOnItAppearsInNo(showInstantDay(page.removedAt, me.organisation.zone))}
          <button type="button" className="btn ml-auto !h-6" onClick={() => openCommand('restore')}>
            {wording.restore}
          </button>
        </div>
      )}
      {page.unverifiedSince && (
        <div className="flex items-center gap-3 border border-ochre-line bg-ochre-tint px-3 py-1.5 text-[12.5px] text-ochre">
          {wording.importedOnLabelsDatesAndSigners(showInstantDay(page.unverifiedSince, me.organisation.zone))}
          {page.rights.includes('manage') && (
            <Link className="btn ml-auto !h-6" to="/imports/check">
              {wording.showUnverifiedDocuments}
            </Link>
          )}
        </div>
      )}
      {page.hold && <HoldNotice hold={page.hold} />}
      <TitleBlock page={page} />
      <NextStrip page={page} />
      {page.view === null && <OrdersOnDocument documentId={page.id} />}
      {page.changeNotes.length > 0 && <NotesOnDocument notes={page.changeNotes} />}
      <Commenting
        subject={{
          documentId: page.id,
          number: page.number,
          revision: { id: page.revision.id, state: page.revision.state },
          versionId: shown?.id ?? '',
          fileSort: Math.max(0, file ? files.indexOf(file) : 0),
          current:
            page.work !== null && page.revision.state === page.work.state && shown === page.versions[0] && !page.view,
        }}
      >
        <div className="grid min-h-[420px] flex-1 grid-cols-[minmax(0,1fr)_318px] gap-3 max-lg:flex-none max-lg:grid-cols-1 max-lg:[&>section]:h-[78vh]">
          <section aria-label={wording.document} className="pane flex min-h-0 flex-col overflow-hidden">
            <Tabs
              label={wording.document}
              tabs={tabs}
              value={tab}
              onChange={(key) => set({ tab: key === 'read' ? null : key, v: null })}
            >
              <span className="flex items-center gap-1.5 pr-2 max-md:justify-end max-md:border-b max-md:border-line max-md:py-1.5">
                {file && tab === 'read' && (page.rights.includes('download') || page.checkout?.mine) && (
                  <a
                    className="btn !h-6"
                    href={addressOf(api.documents.file, { file: file.id }, { as: 'download' })}
                    title={file.handedOutName}
                  >
                    {wording.download}
                  </a>
                )}
                {file &&
                  MARKED.has(file.show) &&
                  tab === 'read' &&
                  page.counts.comments > 0 &&
                  page.rights.includes('download') && <WithMarks file={file.id} name={file.handedOutName} />}
                <ActionsMenu page={page} isSettled={isSettled} />
              </span>
            </Tabs>
            {tab === 'versions' ? (
              <VersionsPanel page={page} />
            ) : tab === 'citations' ? (
              <CitationsPanel number={page.number} />
            ) : tab === 'change' && page.isChangeNote ? (
              <ChangeNotePanel number={page.number} />
            ) : tab === 'readers' ? (
              <ReadersPanel page={page} />
            ) : tab === 'route' ? (
              <RoundPanel page={page} rounds={page.rounds} />
            ) : tab === 'usage' ? (
              <UsagePanel number={page.number} />
            ) : file ? (
              <>
                {files.length > 1 && <FileChooser files={files} value={file.id} onChange={(id) => set({ file: id })} />}
                <FileViewer key={file.id} file={file} mark={mark} />
              </>
            ) : (
              <Empty title={wording.noFile} />
            )}
          </section>
          <AboutPane
            file={file}
            me={me}
            page={page}
            set={set}
            shown={shown}
            side={side}
            sides={sides}
            signatures={signatures}
          />
        </div>
      </Commenting>
    </div>
  );
};

/** Beside the document: what is known of it. */
const AboutPane = ({
  file,
  me,
  page,
  set,
  shown,
  side,
  sides,
  signatures,
}: {
  file: Page['versions'][number]['files'][number] | undefined;
  me: ReturnType<typeof useMe>;
  page: Page;
  set: (changes: Record<string, string | null>) => void;
  shown: Page['versions'][number] | undefined;
  side: string;
  sides: { key: string; text: string }[];
  signatures: NonNullable<Page['rounds'][number]['steps'][number]['assignments'][number]['signature']>[];
}) => (
  <section aria-label={wording.aboutTheDocument} className="pane flex min-h-0 flex-col overflow-hidden">
    <Tabs
      label={wording.aboutTheDocument}
      tabs={sides}
      value={side}
      onChange={(key) => set({ side: key === 'history' ? null : key })}
    />
    <TabPanel label={sides.find((s) => s.key === side)?.text.trim() ?? side} className="outline-offset-[-2px]">
      {side === 'comments' ? (
        <CommentsPanel />
      ) : side === 'metadata' ? (
        <MetadataPanel page={page} />
      ) : side === 'rights' ? (
        <RightsPanel number={page.number} />
      ) : (
        <History number={page.number} revisions={page.revisions} />
      )}
    </TabPanel>
    {shown && file && (
      <div className="border-t border-line px-3 py-2">
        <span className="cap">{wording.fingerprintOfVersion(page.revision.label || page.number, shown.n)}</span>
        <span className="block text-[12.5px]">
          <span className="num" title={file.sha256}>
            {fingerprint(file.sha256)}
          </span>
          {signatures.length > 0 &&
            ` · ${signatures.length === 1 ? wording.n1SignatureCoversIt : wording.signaturesCoverIt(signatures.length)}, ${signatures.every((s) => s.state === 'intact') ? 'intact' : 'altered'}`}
        </span>
        <span className="text-[11.5px] text-ink-3">
          {shown.by.name}, {showInstant(shown.at, me.organisation.zone)}
          {page.revision.effectiveTo &&
            wording.untilEffectiveTo(showInstantDay(page.revision.effectiveTo, me.organisation.zone))}
        </span>
      </div>
    )}
  </section>
);

export const Tabs = ({
  label,
  tabs,
  value,
  onChange,
  children,
}: {
  label: string;
  tabs: { key: string; text: string }[];
  value: string;
  onChange: (key: string) => void;
  children?: React.ReactNode;
}) => (
  <div className="flex items-center border-b border-line bg-film-2 max-md:flex-col-reverse max-md:items-stretch">
    <div role="tablist" aria-label={label} className="flex min-w-0 flex-1 overflow-x-auto">
      {tabs.map((tab, i) => (
        <button
          key={tab.key}
          type="button"
          role="tab"
          aria-selected={tab.key === value}
          tabIndex={tab.key === value ? 0 : -1}
          onClick={() => onChange(tab.key)}
          onKeyDown={(event) => {
            const next = tabs[i + ({ ArrowRight: 1, ArrowLeft: -1 }[event.key] ?? 99)];
            if (!next) return;
            onChange(next.key);
            (event.currentTarget.parentElement?.children[tabs.indexOf(next)] as HTMLElement | undefined)?.focus();
          }}
          className={`px-[13px] py-[7px] font-[550] whitespace-nowrap outline-offset-[-2px] ${tab.key === value ? 'bg-sheet text-ink shadow-[inset_0_2px_0_var(--color-petrol)]' : 'text-ink-2 hover:text-ink'}`}
        >
          {tab.text}
        </button>
      ))}
    </div>
    {children}
  </div>
);
