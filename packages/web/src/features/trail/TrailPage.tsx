import { api, type TrailRow } from '@kanonos/contract';
import { keepPreviousData, useInfiniteQuery } from '@tanstack/react-query';
import { ChevronDown, ChevronRight } from 'lucide-react';
import { type ReactNode, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { addressOf, call } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { revisionAddress } from '../../ui/addresses.ts';
import { DayInput } from '../../ui/DateField.tsx';
import { ExportMenu } from '../../ui/ExportMenu.tsx';
import { fingerprint, showInstant } from '../../ui/format.ts';
import { PeoplePicker } from '../../ui/PersonPicker.tsx';
import { Empty, Failed, Loading } from '../../ui/states.tsx';
import { DocumentPicker } from '../document/DocumentPicker.tsx';
import { foldSignIns } from './foldSignIns.ts';
import { wording } from './wording.ts';

/** The audit trail: every command, newest first, by person, document, kind and time; the whole of it for the verifier. */
export const TrailPage = () => {
  const me = useMe();
  const [params, setParams] = useSearchParams();
  const [names, setNames] = useState<ReadonlyMap<string, string>>(new Map());
  const filter = {
    person: params.get('person') ?? undefined,
    document: params.get('document') ?? undefined,
    kind: params.get('kind') ?? undefined,
    from: params.get('from') || undefined,
    to: params.get('to') || undefined,
  };
  const set = (name: string, value: string) =>
    setParams((before) => {
      const next = new URLSearchParams(before);
      if (value) next.set(name, value);
      else next.delete(name);
      return next;
    });
  const list = useInfiniteQuery({
    queryKey: ['trail', filter],
    queryFn: ({ pageParam, signal }) => call(api.evidence.trail, { query: { ...filter, before: pageParam }, signal }),
    initialPageParam: undefined as number | undefined,
    getNextPageParam: (page) => page.next ?? undefined,
    placeholderData: keepPreviousData,
  });
  if (list.isPending) return <Loading what={wording.theAuditTrail} />;
  if (list.error) return <Failed error={list.error} again={() => void list.refetch()} />;
  const [first] = list.data.pages;
  const rows = list.data.pages.flatMap((page) => page.rows);
  // Who is not picked here but named by the address is named by what they did.
  const personName = (id: string) => names.get(id) ?? first?.person ?? id;
  return (
    <div className="flex min-h-0 flex-1 flex-col px-4 py-3.5">
      <div className="mb-2.5 flex flex-wrap items-end justify-between gap-3">
        <div>
          <h1>{wording.auditTrail}</h1>
          <span className="text-ink-2">
            {first?.total.toLocaleString('en-GB')} {wording.eventsEachLinkedToThePrevious}{' '}
            {first?.lastHead ? (
              <>
                {wording.lastSignedHeadCoversEvents(first.lastHead.size.toLocaleString('en-GB'))}{' '}
                <span className="num">{fingerprint(first.lastHead.root)}</span>,{' '}
                {showInstant(first.lastHead.at, me.organisation.zone)}.
              </>
            ) : (
              wording.theFirstHeadIsSignedAt
            )}
          </span>
        </div>
        <span className="flex flex-wrap gap-2">
          <ExportMenu
            disabled={rows.length === 0}
            list={{ addressOf: (format) => addressOf(api.evidence.trailFile, {}, { ...filter, format }) }}
          />
          <a className="btn btn-pri" href={api.evidence.exportTrail.path} download>
            {wording.exportForVerification}
          </a>
        </span>
      </div>
      <div className="mb-2 grid grid-cols-[1fr_1fr_1.2fr_150px_150px] items-start gap-2 max-lg:grid-cols-2">
        <PeoplePicker
          label={wording.person}
          single
          outside
          value={filter.person ? [{ id: filter.person, name: personName(filter.person) }] : []}
          onChange={([person]) => {
            if (person) setNames((before) => new Map(before).set(person.id, person.name));
            set('person', person?.id ?? '');
          }}
        />
        <DocumentPicker
          label={wording.document}
          value={filter.document ?? ''}
          onChange={(number) => set('document', number)}
        />
        <Labelled text={wording.kind}>
          <select
            aria-label={wording.kind}
            className="inp !h-[34px]"
            value={filter.kind ?? ''}
            onChange={(event) => set('kind', event.target.value)}
          >
            <option value="">{wording.allKinds}</option>
            {first?.kinds.map((kind) => (
              <option key={kind}>{kind}</option>
            ))}
          </select>
        </Labelled>
        <Labelled text={wording.from}>
          <DayInput aria-label={wording.from} value={params.get('from') ?? ''} onChange={(day) => set('from', day)} />
        </Labelled>
        <Labelled text={wording.to}>
          <DayInput aria-label={wording.to} value={params.get('to') ?? ''} onChange={(day) => set('to', day)} />
        </Labelled>
      </div>
      <div className="pane min-h-0 flex-1 overflow-y-auto">
        {rows.length === 0 && <Empty title={wording.noMatchingEvents} />}
        <ul>
          {foldSignIns(rows).map((line) =>
            'row' in line ? (
              <Row key={line.row.seq} row={line.row} zone={me.organisation.zone} />
            ) : (
              <SignIns key={line.signIns[0]?.seq} rows={line.signIns} zone={me.organisation.zone} />
            ),
          )}
        </ul>
        {list.hasNextPage && (
          <button
            type="button"
            className="btn m-3"
            disabled={list.isFetchingNextPage}
            onClick={() => void list.fetchNextPage()}
          >
            {list.isFetchingNextPage ? wording.loading : wording.showOlderEvents}
          </button>
        )}
      </div>
    </div>
  );
};

/** A field of the filter under its name; the field names itself to screen readers. */
const Labelled = ({ text, children }: { text: string; children: ReactNode }) => (
  <div>
    <span aria-hidden className="cap mb-1 block">
      {text}
    </span>
    {children}
  </div>
);

/** Sign-ins that follow each other, as one line that opens. */
const SignIns = ({ rows, zone }: { rows: readonly TrailRow[]; zone: string }) => {
  const [open, setOpen] = useState(false);
  const people = [...new Set(rows.map((row) => row.actorName))];
  return (
    <>
      <li className="border-b border-line-2">
        <button
          type="button"
          aria-expanded={open}
          className="flex w-full items-center gap-2 px-3 py-1 text-left text-[12px] text-ink-3 hover:bg-film-2"
          onClick={() => setOpen(!open)}
        >
          <Chevron open={open} />
          {wording.signInsOf(rows.length, people.slice(0, 4).join(', '), people.length > 4)}
        </button>
      </li>
      {open && rows.map((row) => <Row key={row.seq} row={row} zone={zone} />)}
    </>
  );
};

const Chevron = ({ open }: { open: boolean }) => {
  const Icon = open ? ChevronDown : ChevronRight;
  return <Icon size={14} aria-hidden className="shrink-0 text-ink-3" />;
};

/** One event; a press on its line shows its record in the chain. */
const Row = ({ row, zone }: { row: TrailRow; zone: string }) => {
  const [open, setOpen] = useState(false);
  return (
    <li className="border-b border-line-2 text-[12.5px]">
      <div
        className="grid cursor-pointer grid-cols-[78px_150px_150px_minmax(0,1fr)_130px] items-center gap-3 px-3 py-1.5 hover:bg-film-2 max-lg:grid-cols-[78px_minmax(0,1fr)]"
        onClick={(event) => {
          if (!(event.target as Element).closest('a, button')) setOpen(!open);
        }}
      >
        <button
          type="button"
          className="num flex items-center gap-1 text-ink-3"
          aria-expanded={open}
          aria-label={wording.showEventInFull(row.seq)}
          onClick={() => setOpen(!open)}
        >
          <Chevron open={open} />
          {row.seq.toLocaleString('en-GB')}
        </button>
        <span className="whitespace-nowrap">{showInstant(row.at, zone)}</span>
        <b className="truncate font-semibold">
          {row.actorName}
          {row.forPerson && (
            <span className="block text-[11px] font-normal text-ink-3">{wording.actingFor(row.forPerson)}</span>
          )}
        </b>
        <span className="truncate" title={row.text}>
          {row.text}
        </span>
        {row.documentNumber ? (
          <Link className="num hover:underline" to={revisionAddress(row.documentNumber, { label: row.label ?? '' })}>
            {row.documentNumber} {row.label}
          </Link>
        ) : (
          <span />
        )}
      </div>
      {open && (
        <pre className="overflow-x-auto border-t border-line-2 bg-film-2 px-3 py-2 font-mono text-[11px] leading-[1.5]">
          {JSON.stringify(row.event, null, 2)}
        </pre>
      )}
    </li>
  );
};
