import { api, type Reservation } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { useCommand } from '../../app/useCommand.ts';
import { TextArea, TextField } from '../../ui/controls.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { count, showDay, showInstantDay } from '../../ui/format.ts';
import { PeoplePicker } from '../../ui/PersonPicker.tsx';
import { Empty, Failed, Loading } from '../../ui/states.tsx';
import { NO_PLACE, PlaceFields } from './PlaceFields.tsx';

/** Numbers that were taken for somebody, and those that will never be given. */
export const Reservations = () => {
  const me = useMe();
  const [reserving, setReserving] = useState(false);
  const [ending, setEnding] = useState<Reservation | null>(null);
  const { data, error, isPending, refetch } = useQuery(ask(api.numbers.reservations));
  if (isPending) return <Loading what="the reservations" />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_320px]">
      <section aria-label="Reservations" className="flex min-h-0 flex-col border-r border-line bg-sheet">
        <div className="flex items-center justify-between gap-4 border-b border-line px-4 py-2">
          <p className="text-ink-2">
            Taken from the counter for a person, who uses each number by entering it. Numbers not used by the last day
            become void.
          </p>
          <button type="button" className="btn btn-pri" onClick={() => setReserving(true)}>
            Reserve numbers
          </button>
        </div>
        {data.reservations.length === 0 ? (
          <Empty title="No reservations">Reserve a block when numbers are needed before the documents exist.</Empty>
        ) : (
          <div tabIndex={0} role="region" aria-label="List of reservations" className="min-h-0 flex-1 overflow-y-auto">
            <table className="w-full">
              <thead>
                <tr className="border-b border-line text-left">
                  {['Numbers', 'For', 'Reason', 'Until', 'Open', ''].map((head) => (
                    <th key={head} className="cap px-4 py-1.5">
                      {head || <span className="sr-only">Actions</span>}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {data.reservations.map((r) => (
                  <tr key={r.id} className="border-b border-line-2 align-top">
                    <td className="num px-4 py-1.5">
                      {r.first}
                      {r.count > 1 && <span className="block">to {r.last}</span>}
                    </td>
                    <td className="px-4 py-1.5">
                      {r.forPerson.name}
                      <span className="block text-[11.5px] text-ink-3">
                        by {r.by.name}, {showInstantDay(r.at, me.organisation.zone)}
                      </span>
                    </td>
                    <td className="px-4 py-1.5 text-ink-2">{r.reason}</td>
                    <td className="px-4 py-1.5 whitespace-nowrap">
                      {r.endedWhy === null ? showDay(r.until) : 'ended'}
                    </td>
                    <td className="px-4 py-1.5 whitespace-nowrap">
                      {r.open} of {r.count}
                    </td>
                    <td className="px-4 py-1.5 text-right">
                      {r.endedWhy === null ? (
                        <button type="button" className="btn !h-6" onClick={() => setEnding(r)}>
                          End reservation
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
      <section aria-label="Void numbers" className="flex min-h-0 flex-col bg-sheet">
        <h2 className="border-b border-line px-4 py-2.5">Void, never given again</h2>
        {data.voids.length === 0 ? (
          <p className="px-4 py-2 text-ink-3">None.</p>
        ) : (
          <div tabIndex={0} role="region" aria-label="List of void numbers" className="min-h-0 flex-1 overflow-y-auto">
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
  const command = useCommand(api.numbers.reserve, ({ first, last }) => `${first} to ${last} reserved.`, close);
  return (
    <FormDialog
      title="Reserve numbers"
      columns
      command={command}
      button={`Reserve ${count(Number(n) || 0, 'number')}`}
      ready={person.length === 1}
      onSubmit={() =>
        command.mutate({ body: { ...place, count: Number(n), forPersonId: person[0]?.id ?? '', reason, until } })
      }
      onClose={close}
    >
      <PlaceFields value={place} onChange={setPlace} />
      <TextField
        label="How many"
        inputMode="numeric"
        pattern="[1-9][0-9]{0,2}"
        required
        value={n}
        onChange={(event) => setN(event.target.value)}
      />
      <TextField
        label="Until"
        type="date"
        required
        value={until}
        onChange={(event) => setUntil(event.target.value)}
        hint="Numbers not used by then become void"
      />
      <div className="col-span-2">
        <PeoplePicker label="For" single value={person} onChange={setPerson} />
      </div>
      <div className="col-span-2">
        <TextArea label="Reason" required rows={2} value={reason} onChange={(event) => setReason(event.target.value)} />
      </div>
    </FormDialog>
  );
};

const EndDialog = ({ reservation, close }: { reservation: Reservation; close: () => void }) => {
  const [reason, setReason] = useState('');
  const command = useCommand(
    api.numbers.endReservation,
    ({ voided }) => `Reservation ended; ${count(voided, 'number')} void.`,
    close,
  );
  return (
    <FormDialog
      title={`End the reservation of ${reservation.first} to ${reservation.last}`}
      about={
        <p>
          {count(reservation.open, 'unused number')} become void with this reason and are never given again. This cannot
          be undone.
        </p>
      }
      command={command}
      button="End reservation"
      danger
      onSubmit={() => command.mutate({ params: { id: reservation.id }, body: { reason } })}
      onClose={close}
    >
      <TextArea label="Reason" required rows={2} value={reason} onChange={(event) => setReason(event.target.value)} />
    </FormDialog>
  );
};
