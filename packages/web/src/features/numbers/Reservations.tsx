import { api, type Reservation } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { useCommand } from '../../app/useCommand.ts';
import { TextField } from '../../ui/controls.tsx';
import { DateField } from '../../ui/DateField.tsx';
import { ExportMenu, listOf } from '../../ui/ExportMenu.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { count, showDay, showInstantDay } from '../../ui/format.ts';
import { headings } from '../../ui/headings.ts';
import { PeoplePicker } from '../../ui/PersonPicker.tsx';
import { ReasonField } from '../../ui/ReasonField.tsx';
import { Empty, Failed, Loading } from '../../ui/states.tsx';
import { TableHead } from '../../ui/TableHead.tsx';
import { NO_PLACE, PlaceFields } from './PlaceFields.tsx';
import { wording } from './wording.ts';

/** Numbers that were taken for somebody, and those that will never be given. */
export const Reservations = () => {
  const me = useMe();
  const [reserving, setReserving] = useState(false);
  const [ending, setEnding] = useState<Reservation | null>(null);
  const { data, error, isPending, refetch } = useQuery(ask(api.numbers.reservations));
  if (isPending) return <Loading what={wording.theReservations} />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_320px] max-lg:grid-cols-1 max-lg:grid-rows-2">
      <section aria-label={wording.reservations} className="flex min-h-0 flex-col border-r border-line bg-sheet">
        <div className="flex flex-wrap items-center justify-between gap-x-4 gap-y-2 border-b border-line px-4 py-2">
          <p className="text-ink-2">{wording.takenFromTheCounterForA}</p>
          <span className="flex flex-wrap gap-2">
            <ExportMenu
              disabled={data.reservations.length === 0}
              list={listOf(wording.reservations, data.reservations, [
                [headings.first, (r) => r.first],
                [wording.last, (r) => r.last],
                [wording.for, (r) => r.forPerson.name],
                [wording.reason, (r) => r.reason],
                [wording.until, (r) => r.until],
                [wording.open, (r) => r.open],
              ])}
            />
            <button type="button" className="btn btn-pri" onClick={() => setReserving(true)}>
              {wording.reserveNumbers}
            </button>
          </span>
        </div>
        {data.reservations.length === 0 ? (
          <Empty title={wording.noReservations}>{wording.reserveABlockWhenNumbersAre}</Empty>
        ) : (
          <div
            tabIndex={0}
            role="region"
            aria-label={wording.listOfReservations}
            className="relative min-h-0 flex-1 overflow-auto"
          >
            <table className="w-full">
              <TableHead
                className=""
                cell="px-4 py-1.5"
                headings={[
                  wording.numbers,
                  wording.for,
                  wording.reason,
                  wording.until,
                  wording.open,
                  { text: wording.actions, hidden: true },
                ]}
              />
              <tbody>
                {data.reservations.map((r) => (
                  <tr key={r.id} className="border-b border-line-2 align-top">
                    <td className="num px-4 py-1.5">
                      {r.first}
                      {r.count > 1 && <span className="block">{wording.toLast(r.last)}</span>}
                    </td>
                    <td className="px-4 py-1.5">
                      {r.forPerson.name}
                      <span className="block text-[11.5px] text-ink-3">
                        {wording.byByRAt(r.by.name, showInstantDay(r.at, me.organisation.zone))}
                      </span>
                    </td>
                    <td className="px-4 py-1.5 text-ink-2">{r.reason}</td>
                    <td className="px-4 py-1.5 whitespace-nowrap">
                      {r.endedWhy === null ? showDay(r.until) : 'ended'}
                    </td>
                    <td className="px-4 py-1.5 whitespace-nowrap">{wording.openOfCount(r.open, r.count)}</td>
                    <td className="px-4 py-1.5 text-right">
                      {r.endedWhy === null ? (
                        <button type="button" className="btn !h-6" onClick={() => setEnding(r)}>
                          {wording.endReservation}
                        </button>
                      ) : (
                        <span className="text-[11.5px] text-ink-3">{r.endedWhy}</span>
                      )}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        )}
      </section>
      <section aria-label={wording.voidNumbers} className="flex min-h-0 flex-col bg-sheet">
        <h2 className="border-b border-line px-4 py-2.5">{wording.voidNeverGivenAgain}</h2>
        {data.voids.length === 0 ? (
          <p className="px-4 py-2 text-ink-3">{wording.none}</p>
        ) : (
          <div
            tabIndex={0}
            role="region"
            aria-label={wording.listOfVoidNumbers}
            className="min-h-0 flex-1 overflow-y-auto"
          >
            <ul>
              {data.voids.map((one) => (
                <li key={one.number} className="border-b border-line-2 px-4 py-1.5">
                  <span className="num">{one.number}</span>
                  <span className="block text-[12px] text-ink-2">{one.reason}</span>
                </li>
              ))}
            </ul>
          </div>
        )}
      </section>
      {reserving && <ReserveDialog close={() => setReserving(false)} />}
      {ending && <EndDialog reservation={ending} close={() => setEnding(null)} />}
    </div>
  );
};

const ReserveDialog = ({ close }: { close: () => void }) => {
  const [place, setPlace] = useState(NO_PLACE);
  const [n, setN] = useState('5');
  const [person, setPerson] = useState<{ id: string; name: string }[]>([]);
  const [until, setUntil] = useState('');
  const [reason, setReason] = useState('');
  const command = useCommand(api.numbers.reserve, ({ first, last }) => wording.toReserved(first, last), close);
  return (
    <FormDialog
      title={wording.reserveNumbers}
      columns
      command={command}
      button={wording.reserveNumbers2(count(Number(n) || 0, 'number'))}
      ready={person.length === 1}
      onSubmit={() =>
        command.mutate({ body: { ...place, count: Number(n), forPersonId: person[0]?.id ?? '', reason, until } })
      }
      onClose={close}
    >
      <PlaceFields value={place} onChange={setPlace} />
      <TextField
        label={wording.howMany}
        inputMode="numeric"
        pattern="[1-9][0-9]{0,2}"
        required
        value={n}
        onChange={setN}
      />
      <DateField
        label={wording.until}
        required
        value={until}
        onChange={setUntil}
        hint={wording.numbersNotUsedByThenBecome}
      />
      <div className="col-span-2">
        <PeoplePicker label={wording.for} single value={person} onChange={setPerson} />
      </div>
      <ReasonField wide value={reason} onChange={setReason} />
    </FormDialog>
  );
};

const EndDialog = ({ reservation, close }: { reservation: Reservation; close: () => void }) => {
  const [reason, setReason] = useState('');
  const command = useCommand(
    api.numbers.endReservation,
    ({ voided }) => wording.reservationEndedVoid(count(voided, 'number')),
    close,
  );
  return (
    <FormDialog
      title={wording.endTheReservationOfTo(reservation.first, reservation.last)}
      about={<p>{wording.becomeVoidWithThisReasonAnd(count(reservation.open, wording.unusedNumber))}</p>}
      command={command}
      button={wording.endReservation}
      danger
      onSubmit={() => command.mutate({ params: { id: reservation.id }, body: { reason } })}
      onClose={close}
    >
      <ReasonField value={reason} onChange={setReason} />
    </FormDialog>
  );
};
