import { api, type Facets, type RegisterRow, type TableFormat } from '@kanonos/contract';
import { useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { Images, Rows3, X } from 'lucide-react';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { addressOf as addressOfApi, ask, call } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { documentAddress, revisionAddress } from '../../ui/addresses.ts';
import { Key, Segments } from '../../ui/controls.tsx';
import { ExportMenu } from '../../ui/ExportMenu.tsx';
import { showDay } from '../../ui/format.ts';
import { Empty, Failed, Loading } from '../../ui/states.tsx';
import { useWidth } from '../../ui/useWidth.ts';
import { type Dropped, DroppedDialog } from '../bulk/DroppedDialog.tsx';
import { dragDocuments } from '../bulk/drag.ts';
import { MarkBar } from '../bulk/MarkBar.tsx';
import { useMarks } from '../bulk/useMarks.ts';
import { OrderedStrip } from '../orders/OrderedStrip.tsx';
import { ColumnHead } from './ColumnHead.tsx';
import { ColumnMenu, columnsThatFit, columnsWith, withWidths } from './columns.tsx';
import { FacetColumn } from './FacetColumn.tsx';
import { FilterLine } from './FilterLine.tsx';
import { PictureGrid } from './PictureGrid.tsx';
import { PreviewPane } from './PreviewPane.tsx';
import { RowList } from './RowList.tsx';
import type { ShownDocuments } from './shown.ts';
import { FACETS, type RevisionScope, useRegisterState } from './state.ts';
import { useColumns, useShownMetadata } from './useColumns.ts';
import { type Panes, usePanes } from './usePanes.ts';
import { wording } from './wording.ts';

const REVISION_SCOPES = [
  { value: 'in force', text: wording.inForce },
  { value: 'newest', text: wording.newest },
  { value: 'all revisions', text: wording.allRevisions },
] as const;

/** The rows of the register by filter and order, 50 at a time; the former ones stay until the new ones have come. */
const useRegisterList = (
  filter: ReturnType<typeof useRegisterState>['filter'],
  sort: ReturnType<typeof useRegisterState>['sort'],
) =>
  useInfiniteQuery({
    queryKey: ['find', 'register', filter, sort],
    queryFn: ({ pageParam, signal }) =>
      call(api.find.register, { query: { ...filter, ...sort, after: pageParam, limit: 50 }, signal }),
    initialPageParam: undefined as string | undefined,
    getNextPageParam: (page) => page.next ?? undefined,
    placeholderData: (before) => before,
  });

/** The list of all documents that I may see, through three scopes, narrowed by facets, folders and words. */
export const RegisterPage = () => {
  const me = useMe();
  const navigate = useNavigate();
  const { filter, sort, view, set, picks, toggle, isNarrowed } = useRegisterState(
    me.mayRegister ? 'newest' : 'in force',
  );
  const { data: facets } = useQuery({
    ...ask(api.find.facets, { query: filter }),
    placeholderData: (before) => before,
  });
  const { data: folders } = useQuery({ ...ask(api.documents.folders), staleTime: 60_000 });
  const list = useRegisterList(filter, sort);
  const rows = list.data?.pages.flatMap((page) => page.rows) ?? [];
  const [selected, setSelected] = useState(0);
  const { marks, toggle: toggleMark, clear: clearMarks } = useMarks();
  const order = rows.map((row) => row.documentId);
  const metadata = useShownMetadata();
  const { columns: chosen, widths, ...columnChanges } = useColumns(metadata, picks('type'));
  const all = useMemo(() => withWidths(columnsWith(metadata), widths), [metadata, widths]);
  const [panes, togglePane] = usePanes();
  const section = useRef<HTMLElement>(null);
  const columns = columnsThatFit(all, chosen, useWidth(section));
  const { hasNextPage, isFetchingNextPage, fetchNextPage } = list;
  const more = useCallback(() => {
    if (hasNextPage && !isFetchingNextPage) void fetchNextPage();
  }, [hasNextPage, isFetchingNextPage, fetchNextPage]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new filter begins at the top
  useEffect(() => {
    setSelected(0);
    clearMarks();
  }, [JSON.stringify(filter)]);
  const current: RegisterRow | undefined = rows[Math.min(selected, rows.length - 1)];
  const addressOf = (row: RegisterRow) =>
    filter.on ? `${documentAddress(row.number)}?on=${filter.on}` : revisionAddress(row.number, row);
  const [dropped, setDropped] = useState<Dropped | null>(null);
  const typesOf = (ids: Iterable<string>) => {
    const wanted = new Set(ids);
    return [...new Set(rows.filter((row) => wanted.has(row.documentId)).map((row) => row.type))];
  };
  const shownTotal = facets?.total;
  const shown: ShownDocuments = {
    rows,
    total: shownTotal,
    selected: Math.min(selected, rows.length - 1),
    select: setSelected,
    open: (row) => void navigate(addressOf(row)),
    addressOf,
    marks,
    mark: (row, extend) => toggleMark(row.documentId, order, extend),
    drag: me.mayRegister
      ? (row, event) => dragDocuments(event, marks.has(row.documentId) ? [...marks] : [row.documentId])
      : undefined,
    more,
  };
  return (
    <div
      className="grid min-h-0 flex-1 max-lg:!grid-cols-1"
      style={{
        gridTemplateColumns: `${panes.filters ? '176px ' : ''}minmax(0,1fr)${panes.preview ? ' 306px' : ''}`,
      }}
    >
      {panes.filters && (
        <FacetColumn
          close={() => togglePane('filters')}
          facets={facets}
          picks={picks}
          toggle={toggle}
          folders={folders?.folders ?? []}
          folder={filter.folder}
          reach={filter.reach}
          set={set}
          q={filter.q}
          drop={me.mayRegister ? (ids, on) => setDropped({ ids, types: typesOf(ids), ...on }) : undefined}
        />
      )}
      <section ref={section} aria-label={wording.register} className="flex min-h-0 min-w-0 flex-col bg-sheet">
        <RegisterHead filter={filter} me={me} set={set} facets={facets} />
        <OrderedStrip />
        <Picks picks={picks} toggle={toggle} facets={facets} q={filter.q} set={set} narrowed={isNarrowed} />
        {view === 'rows' && columns.length > 0 && (
          <ColumnHead
            all={all}
            columns={columns}
            sort={sort}
            onSort={(key) => set({ sort: key, order: sort.sort === key && sort.order === 'asc' ? 'desc' : 'asc' })}
            onMove={columnChanges.move}
            onResize={columnChanges.resize}
          />
        )}
        {list.isPending ? (
          <Loading what={wording.theRegister} />
        ) : list.error ? (
          <Failed error={list.error} again={() => void list.refetch()} />
        ) : rows.length === 0 ? (
          <Empty title={wording.noMatchingDocuments}>
            {isNarrowed ? wording.removeAFilterOrChooseAnother : wording.registeredDocumentsYouMaySeeAppear}
          </Empty>
        ) : view === 'pictures' ? (
          <PictureGrid {...shown} />
        ) : (
          <RowList {...shown} all={all} columns={columns} compact={panes.compact} />
        )}
        {me.mayRegister && (
          <MarkBar
            marked={
              marks.size
                ? {
                    ids: [...marks],
                    filter: null,
                    number: marks.size,
                    types: typesOf(marks),
                  }
                : null
            }
            found={{ ids: null, filter, number: shownTotal ?? 0, types: picks('type') }}
            clear={clearMarks}
            zone={me.organisation.zone}
          />
        )}
        <RegisterFoot
          all={all}
          chosen={chosen}
          columns={columns}
          exportAddress={(format) => exportAddress(filter, sort, chosen, format)}
          me={me}
          loaded={rows.length}
          set={set}
          shownTotal={shownTotal}
          toggleColumn={columnChanges.toggle}
          panes={panes}
          togglePane={togglePane}
          view={view}
        />
      </section>
      {dropped && (
        <DroppedDialog
          dropped={dropped}
          close={() => {
            setDropped(null);
            clearMarks();
          }}
        />
      )}
      {panes.preview && <PreviewPane row={current} address={current ? addressOf(current) : ''} />}
    </div>
  );
};

type RegisterState = ReturnType<typeof useRegisterState>;

/** Where all that is found leaves as a file, with the columns that were chosen. */
const exportAddress = (
  filter: RegisterState['filter'],
  sort: RegisterState['sort'],
  columns: readonly string[],
  format: TableFormat,
): string =>
  addressOfApi(
    api.find.file,
    {},
    { ...filter, ...sort, format, columns: columns.filter((key) => key !== 'picture').join(',') },
  );

/** Above the rows: of which revisions they are, the filter in words, and how many there are. */
const RegisterHead = ({
  filter,
  me,
  set,
  facets,
}: {
  filter: { on?: string | undefined; revisionScope: RevisionScope; q: string };
  me: ReturnType<typeof useMe>;
  set: (changes: Record<string, string | undefined>) => void;
  facets: Facets | undefined;
}) => (
  <div className="flex items-center gap-2 border-b border-line bg-film-2 px-3 py-[9px] whitespace-nowrap max-md:flex-wrap">
    <h1 className="!text-[13px] !font-[650]">{wording.register}</h1>
    {filter.on && filter.on !== me.organisation.today ? (
      <span className="chip !bg-ochre-tint !text-ochre">{wording.inForceOn(showDay(filter.on))}</span>
    ) : (
      <Segments<RevisionScope>
        label={wording.revisions}
        value={filter.revisionScope}
        options={REVISION_SCOPES}
        onChange={(revisionScope) => set({ revisionScope })}
      />
    )}
    <FilterLine key={filter.q} q={filter.q} facets={facets} apply={(q) => set({ q: q || undefined })} />
    <span className="text-ink-3">{facets?.total.toLocaleString('en-GB')}</span>
    {me.mayRegister && (
      <Link to="/new" className="btn btn-pri">
        {wording.registerADocument}{' '}
        <span className="max-lg:hidden">
          <Key>N</Key>
        </span>
      </Link>
    )}
  </div>
);

/** Below the rows: how many there are, and the columns. */
const RegisterFoot = ({
  all,
  chosen,
  columns,
  exportAddress,
  me,
  loaded,
  set,
  shownTotal,
  toggleColumn,
  panes,
  togglePane,
  view,
}: {
  all: ReturnType<typeof columnsWith>;
  chosen: readonly string[];
  columns: readonly string[];
  exportAddress: (format: TableFormat) => string;
  me: ReturnType<typeof useMe>;
  loaded: number;
  set: (changes: Record<string, string | undefined>) => void;
  shownTotal: number | undefined;
  toggleColumn: (key: string) => void;
  panes: Panes;
  togglePane: (pane: keyof Panes) => void;
  view: 'pictures' | 'rows';
}) => (
  <div className="flex items-center gap-1 border-t border-line bg-film-2 px-3 py-1.5 text-[12px] text-ink-2">
    <span className="min-w-0 flex-1 truncate max-lg:[&>*]:hidden">
      {loaded > 0 && wording.rows1Of(loaded.toLocaleString('en-GB'), shownTotal?.toLocaleString('en-GB') ?? '…')}
      <span className="num">↑ ↓</span> {wording.move} <span className="num">{wording.enter}</span> {wording.open2}{' '}
      {me.mayRegister && (
        <>
          · <span className="num">{wording.space}</span> {wording.select}{' '}
        </>
      )}
      {view === 'rows' && wording.dragAHeadingToMoveThe}
    </span>
    {me.mayRegister && (
      <Link to="/removed" className="btn btn-quiet !h-6 !px-1 text-[12px]">
        {wording.removed}
      </Link>
    )}
    {(
      [
        ['filters', wording.showFilters, 'F'],
        ['preview', wording.showPreview, 'P'],
        ['compact', wording.compact, 'C'],
      ] as const
    ).map(([pane, text, key]) => (
      <button
        key={pane}
        type="button"
        aria-pressed={panes[pane]}
        className={`btn btn-quiet !h-6 !px-1 text-[12px] ${pane === 'filters' ? '' : 'max-lg:hidden'} ${panes[pane] ? 'font-[650] underline underline-offset-4' : '!text-ink-2'}`}
        onClick={() => togglePane(pane)}
      >
        {text} <span className="num !text-[10px] max-lg:hidden">{key}</span>
      </button>
    ))}
    <ViewSwitch view={view} set={(next) => set({ view: next === 'rows' ? undefined : next })} />
    <ExportMenu quiet list={{ addressOf: exportAddress }} disabled={loaded === 0} />
    {columns.length > 0 && (
      <ColumnMenu all={all} columns={chosen} hidden={chosen.length - columns.length} toggle={toggleColumn} />
    )}
  </div>
);

/** Rows, or the first pages as pictures. */
const ViewSwitch = ({ view, set }: { view: 'rows' | 'pictures'; set: (view: 'rows' | 'pictures') => void }) => (
  <fieldset className="flex">
    <legend className="sr-only">{wording.view}</legend>
    {(
      [
        ['rows', wording.rows, Rows3],
        ['pictures', wording.thumbnails, Images],
      ] as const
    ).map(([key, label, Icon]) => (
      <button
        key={key}
        type="button"
        aria-label={label}
        title={label}
        aria-pressed={view === key}
        onClick={() => set(key)}
        className={`grid h-6 w-7 place-items-center ${view === key ? 'bg-ink text-white' : 'text-ink-2 hover:text-ink'}`}
      >
        <Icon size={14} aria-hidden />
      </button>
    ))}
  </fieldset>
);

const Picks = ({
  picks,
  toggle,
  facets,
  q,
  set,
  narrowed,
}: {
  picks: (f: string) => string[];
  toggle: (f: string, v: string) => void;
  facets: { [K in (typeof FACETS)[number]['key']]: { value: string; name: string }[] } | undefined;
  q: string;
  set: (c: Record<string, string | undefined>) => void;
  narrowed: boolean;
}) => {
  if (!narrowed) return null;
  const chosen = FACETS.flatMap(({ key }) =>
    picks(key).map((value) => ({ key, value, name: facets?.[key].find((v) => v.value === value)?.name ?? value })),
  );
  return (
    <div className="flex flex-wrap gap-1.5 border-b border-line-2 px-3 py-1.5">
      {q && (
        <button type="button" className="chip" onClick={() => set({ q: undefined })}>
          {q} <X size={12} aria-label="remove" />
        </button>
      )}
      {chosen.map(({ key, value, name }) => (
        <button key={key + value} type="button" className="chip" onClick={() => toggle(key, value)}>
          {name} <X size={12} aria-label="remove" />
        </button>
      ))}
      <button
        type="button"
        className="btn btn-quiet !h-[22px]"
        onClick={() =>
          set({ ...Object.fromEntries(FACETS.map(({ key }) => [key, undefined])), q: undefined, folder: undefined })
        }
      >
        {wording.clearFilters}
      </button>
    </div>
  );
};
