import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { ask } from '../../app/client.ts';

const KEPT = 'kanonos.register.columns';
const TAKEN_AWAY = 'kanonos.register.columns.away';
const WIDTHS = 'kanonos.register.columns.widths';
const DEFAULT = ['owner', 'due', 'where', 'review'];

/** The column of a field, apart from the columns that every document has. */
export const fieldColumn = (key: string): string => `field:${key}`;

type ShownField = { key: string; label: string; types: string[] };

/** Metadata that types show in lists, with the types that do. */
export const useShownMetadata = (): ShownField[] => {
  const { data } = useQuery({ ...ask(api.documents.types), staleTime: 60_000 });
  return useMemo(() => {
    const metadata = new Map<string, ShownField>();
    for (const { code, fields } of data?.types ?? [])
      for (const { key, label } of fields.filter((field) => field.shown))
        metadata.set(key, { key, label, types: [...(metadata.get(key)?.types ?? []), code] });
    return [...metadata.values()];
  }, [data]);
};

/**
 * The columns of the register in order: those that were chosen, and the metadata of the types that it is narrowed to,
 * unless they were removed.
 */
export const columnsShown = (
  kept: readonly string[],
  away: readonly string[],
  metadata: readonly ShownField[],
  types: readonly string[],
): string[] => {
  const narrowed = metadata
    .filter((fieldValue) => types.length > 0 && types.every((type) => fieldValue.types.includes(type)))
    .map(({ key }) => fieldColumn(key));
  const known = new Set(metadata.map(({ key }) => fieldColumn(key)));
  const chosen = kept.filter((key) => !key.startsWith('field:') || known.has(key));
  return [...chosen, ...narrowed.filter((key) => !chosen.includes(key) && !away.includes(key))];
};

const readKept = (name: string): string[] => (localStorage.getItem(name) ?? '').split(',').filter(Boolean);

const readWidths = (): Record<string, number> => {
  try {
    const kept = JSON.parse(localStorage.getItem(WIDTHS) ?? '{}') as Record<string, unknown>;
    return Object.fromEntries(Object.entries(kept).filter((one): one is [string, number] => Number.isFinite(one[1])));
  } catch {
    // Whatever it was, it was not written here.
    return {};
  }
};

/** The columns shown, their order and widths, kept in this browser: moved before another one, shown or removed. */
export const useColumns = (metadata: readonly ShownField[], types: readonly string[]) => {
  const [kept, setKept] = useState(() => (readKept(KEPT).length ? readKept(KEPT) : DEFAULT));
  const [away, setAway] = useState(() => readKept(TAKEN_AWAY));
  const [widths, setWidths] = useState(readWidths);
  const columns = columnsShown(kept, away, metadata, types);
  const resize = (key: string, width: number | undefined) => {
    const { [key]: _before, ...others } = widths;
    const next = width === undefined ? others : { ...others, [key]: width };
    localStorage.setItem(WIDTHS, JSON.stringify(next));
    setWidths(next);
  };
  const keep = (next: string[], removed: string[] = away) => {
    localStorage.setItem(KEPT, next.join(','));
    localStorage.setItem(TAKEN_AWAY, removed.join(','));
    setKept(next);
    setAway(removed);
  };
  const move = (from: string, to: string) => {
    if (from === to || !columns.includes(from)) return;
    const next = columns.filter((key) => key !== from);
    next.splice(columns.indexOf(to), 0, from);
    keep(next);
  };
  const toggle = (key: string) => {
    if (!columns.includes(key))
      return keep(
        [...columns, key],
        away.filter((one) => one !== key),
      );
    const next = columns.filter((other) => other !== key);
    if (next.length > 0)
      keep(
        kept.filter((other) => other !== key),
        [...away, key],
      );
  };
  return { columns, move, toggle, widths, resize };
};
