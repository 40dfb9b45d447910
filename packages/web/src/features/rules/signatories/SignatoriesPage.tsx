import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { type ReactNode, useState } from 'react';
import { ask } from '../../../app/client.ts';
import { Segments } from '../../../ui/controls.tsx';
import { ExportMenu, listOf } from '../../../ui/ExportMenu.tsx';
import { Page } from '../../../ui/Page.tsx';
import { Empty, Failed, Loading } from '../../../ui/states.tsx';
import { Tick } from '../../../ui/Tick.tsx';
import { useInAddress } from '../../../ui/useInAddress.ts';
import { ChangeSignatoriesDialog } from './ChangeSignatoriesDialog.tsx';
import { askedWords, columnsIn, keyOf, placesOf, placeWords, rowsWith } from './cells.ts';
import { SignatoryHistory } from './SignatoryHistory.tsx';
import { SignatoryTable } from './SignatoryTable.tsx';
import { wording } from './wording.ts';

/** Who signs what: types and their routes by steps, changed in place, and how they were changed. */
export const SignatoriesPage = () => {
  const [show, setShow] = useInAddress('show');
  const segments = (
    <Segments
      label={wording.view}
      value={show}
      onChange={setShow}
      options={[
        { value: '', text: wording.table },
        { value: 'history', text: wording.history },
      ]}
    />
  );
  return show === 'history' ? (
    <Page title={wording.signatories} about={wording.about} actions={segments}>
      <SignatoryHistory />
    </Page>
  ) : (
    <Signatories segments={segments} />
  );
};

const Signatories = ({ segments }: { segments: ReactNode }) => {
  const [find, setFind] = useInAddress('q');
  const [all, setAll] = useInAddress('types');
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [isChanging, setChanging] = useState(false);
  const units = useQuery({ ...ask(api.people.units), staleTime: 60_000 });
  const { data, error, isPending, refetch } = useQuery(ask(api.signatories.table));
  if (isPending || units.isPending) return <Loading what={wording.theTable} />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  const known = units.data?.units ?? [];
  // Types without documents are many and alike: they are shown when asked for, or when nothing else has a route.
  const hasUsed = data.rows.some(({ documents }) => documents > 0);
  const rows = rowsWith(data, known, find).filter(({ documents }) => all || documents > 0 || !hasUsed);
  const columns = columnsIn(data, rows);
  const places = placesOf(data, rows);
  const picked = placesOf(data, data.rows).filter((place) => chosen.has(keyOf(place)));
  const toggle = (keys: readonly string[], on: boolean) => {
    const next = new Set(chosen);
    for (const key of keys) on ? next.add(key) : next.delete(key);
    setChosen(next);
  };
  return (
    <Page
      title={wording.signatories}
      about={wording.about}
      actions={
        <>
          {segments}
          {hasUsed && (
            <Tick checked={all !== ''} onChange={(on) => setAll(on ? 'all' : '')}>
              {wording.unusedToo}
            </Tick>
          )}
          <input
            type="search"
            className="inp !w-56"
            aria-label={wording.find}
            placeholder={wording.find}
            value={find}
            onChange={(event) => setFind(event.target.value)}
          />
          {places.length > 0 && (
            <ExportMenu
              list={listOf(wording.signatories, places, [
                [wording.type, ({ row }) => `${row.code} ${row.name}`],
                [wording.route, ({ row }) => placeWords(row)],
                [wording.step, ({ column }) => column],
                [wording.asked, ({ row, cell }) => askedWords(data, known, row, cell).join(', ')],
              ])}
            />
          )}
        </>
      }
    >
      {data.rows.length === 0 ? (
        <Empty title={wording.noRoutes}>{wording.noRoutesHint}</Empty>
      ) : rows.length === 0 ? (
        <Empty title={wording.noneFound}>{wording.noneFoundHint}</Empty>
      ) : (
        <>
          {picked.length > 0 && (
            <div className="sticky top-0 z-20 mb-2 flex flex-wrap items-center gap-2 border border-petrol bg-petrol-tint px-3 py-1.5">
              <span role="status">{wording.chosen(picked.length)}</span>
              <button type="button" className="btn btn-pri" onClick={() => setChanging(true)}>
                {wording.changeAssignees}
              </button>
              <button type="button" className="btn" onClick={() => setChosen(new Set())}>
                {wording.clear}
              </button>
            </div>
          )}
          <SignatoryTable table={data} columns={columns} rows={rows} units={known} chosen={chosen} toggle={toggle} />
          <p className="mt-2 text-[12px] text-ink-3">{wording.fallback}</p>
        </>
      )}
      {isChanging && (
        <ChangeSignatoriesDialog
          places={picked}
          table={data}
          units={known}
          done={() => setChosen(new Set())}
          close={() => setChanging(false)}
        />
      )}
    </Page>
  );
};
