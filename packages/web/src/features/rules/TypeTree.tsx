import type { TypeSummary } from '@kanonos/contract';
import { Link } from 'react-router';
import { showDay } from '../../ui/format.ts';
import { wording } from './wording.ts';

const fits = (type: TypeSummary, find: string) =>
  find
    .toLowerCase()
    .split(/\s+/)
    .every((word) => `${type.code} ${type.name} ${type.family} ${type.group}`.toLowerCase().includes(word));

/** Types below their family and group, in the order of the classification. Retired ones come last, marked so. */
export const TypeTree = ({
  types,
  find,
  chosen,
}: {
  types: readonly TypeSummary[];
  find: string;
  chosen: string | undefined;
}) => {
  const shown = types.filter((type) => fits(type, find));
  const families = [...new Set(shown.map((type) => type.family))];
  return (
    <div className="min-h-0 flex-1 overflow-y-auto py-1.5">
      {shown.length === 0 && <p className="px-3.5 py-2 text-ink-3">{wording.noMatchingType}</p>}
      {families.map((family) => (
        <div key={family}>
          <p className="cap px-3.5 pt-2.5 pb-0.5">{family || wording.withoutAFamily}</p>
          {[...new Set(shown.filter((type) => type.family === family).map((type) => type.group))].map((group) => (
            <div key={group}>
              {group && <p className="px-3.5 pt-1 text-[11.5px] text-ink-3">{group}</p>}
              <ul>
                {shown
                  .filter((type) => type.family === family && type.group === group)
                  .sort((a, b) => Number(a.retired) - Number(b.retired))
                  .map((type) => (
                    <li key={type.id}>
                      <Link
                        to={`/rules/types/${type.id}`}
                        aria-current={type.id === chosen ? 'page' : undefined}
                        className={`grid grid-cols-[46px_minmax(0,1fr)_auto] items-baseline gap-2 border-l-3 px-[11px] py-1 ${type.id === chosen ? 'border-petrol bg-sheet font-[600]' : 'border-transparent hover:bg-film'}`}
                      >
                        <span className={`num ${type.retired ? 'line-through' : ''}`}>{type.code}</span>
                        <span className={`truncate ${type.retired ? 'text-ink-3' : ''}`}>
                          {type.name}
                          {type.retired && <span className="text-[11px]"> {wording.retired}</span>}
                          {type.planned && (
                            <span className="block text-[11px] font-normal text-ochre">
                              {wording.changesOn2(showDay(type.planned))}
                            </span>
                          )}
                        </span>
                        <span className="font-mono text-[10.5px] text-ink-3">{type.documents || ''}</span>
                      </Link>
                    </li>
                  ))}
              </ul>
            </div>
          ))}
        </div>
      ))}
    </div>
  );
};
