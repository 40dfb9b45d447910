import { api, type Step, type Unit } from '@kanonos/contract';
import { changedAssignees } from '@kanonos/core';
import { useQuery } from '@tanstack/react-query';
import { ask } from '../../../app/client.ts';
import { askedWords, keyOf, type Place, placeWords, type Table } from './cells.ts';
import { wording } from './wording.ts';

/** What a change means for each type before it is saved: who is asked now, and who will be. */
export const WhatChanges = ({
  places,
  table,
  units,
  assignees,
  how,
}: {
  places: readonly Place[];
  table: Table;
  units: readonly Unit[];
  assignees: Step['assignees'];
  how: 'replace' | 'add' | 'remove';
}) => {
  const names = useQuery({ ...ask(api.people.names, { query: { find: '' } }), staleTime: 60_000 });
  // Whoever was just picked may stand in no cell yet.
  const known = { ...table, people: [...(names.data?.people ?? []), ...table.people] };
  const changes = places.flatMap((place) => {
    const after = changedAssignees(place.cell.assignees, assignees, how);
    const words = (asked: Step['assignees']) =>
      askedWords(known, units, place.row, { ...place.cell, assignees: asked as typeof place.cell.assignees }).join(
        ', ',
      );
    const [was, becomes] = [words(place.cell.assignees), words(after as Step['assignees'])];
    return was === becomes ? [] : [{ place, was, becomes }];
  });
  const types = new Set(changes.map(({ place }) => place.row.typeId));
  return (
    <section aria-label={wording.whatChanges} className="border border-line bg-film-2 px-3 py-2">
      <h3 className="cap mb-1">{wording.whatChanges}</h3>
      {changes.length === 0 ? (
        <p className="text-ink-2">{wording.nothingChanges}</p>
      ) : (
        <>
          <p role="status">{wording.changesIn(changes.length, types.size)}</p>
          <ul className="max-h-48 overflow-y-auto">
            {changes.map(({ place, was, becomes }) => (
              <li key={keyOf(place)} className="py-0.5">
                <b className="font-semibold">{place.row.code}</b> {placeWords(place.row)}, {place.column}: {was || '–'}{' '}
                → {becomes || '–'}
              </li>
            ))}
          </ul>
        </>
      )}
    </section>
  );
};
