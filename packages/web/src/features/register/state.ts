import { useSearchParams } from 'react-router';
import { wording } from './wording.ts';

export type RevisionScope = 'in force' | 'newest' | 'all revisions';
export type Facet = 'state' | 'area' | 'type' | 'department';
export const FACETS: { key: Facet | 'review'; title: string }[] = [
  { key: 'state', title: wording.state },
  { key: 'area', title: wording.area },
  { key: 'type', title: wording.type },
  { key: 'department', title: wording.department },
  { key: 'review', title: wording.reviewDue },
];

/** The picks of a facet after one of its values was clicked; of the review bounds only one can hold. */
export const toggled = (facet: string, picks: readonly string[], value: string): string[] =>
  picks.includes(value) ? picks.filter((v) => v !== value) : facet === 'review' ? [value] : [...picks, value];

/** The filter in an address. */
export const readFilter = (params: URLSearchParams, defaultRevisionScope: RevisionScope) => {
  const get = (name: string) => params.get(name) ?? undefined;
  return {
    revisionScope: (get('revisionScope') as RevisionScope | undefined) ?? defaultRevisionScope,
    q: get('q') ?? '',
    state: get('state'),
    area: get('area'),
    type: get('type'),
    department: get('department'),
    review: get('review') as 'overdue' | '30' | '90' | undefined,
    folder: get('folder'),
    reach: (get('reach') as 'here' | 'below' | undefined) ?? 'below',
    on: get('on'),
  };
};

/** The address carries what the register shows: every state can be linked to, and Back goes back. */
export const useRegisterState = (defaultRevisionScope: RevisionScope) => {
  const [params, setParams] = useSearchParams();
  const get = (name: string) => params.get(name) ?? undefined;
  const set = (changes: Record<string, string | undefined>) =>
    setParams((before) => {
      const next = new URLSearchParams(before);
      for (const [name, value] of Object.entries(changes)) {
        if (value) next.set(name, value);
        else next.delete(name);
      }
      return next;
    });
  const filter = readFilter(params, defaultRevisionScope);
  const sort = {
    sort: (get('sort') as 'number' | 'title' | 'changed' | 'review' | 'effective' | undefined) ?? 'number',
    order: (get('order') as 'asc' | 'desc' | undefined) ?? 'asc',
  };
  const picks = (facet: string) => (get(facet) ?? '').split('~').filter(Boolean);
  const toggle = (facet: string, value: string) =>
    set({ [facet]: toggled(facet, picks(facet), value).join('~') || undefined });
  return {
    filter,
    sort,
    view: get('view') === 'pictures' ? ('pictures' as const) : ('rows' as const),
    set,
    picks,
    toggle,
    isNarrowed: FACETS.some(({ key }) => get(key)) || Boolean(filter.q || filter.folder),
  };
};
