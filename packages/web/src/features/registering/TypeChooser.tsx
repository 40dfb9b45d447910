import type { TypeInfo } from '@kanonos/contract';
import { useEffect, useRef, useState } from 'react';
import { findTypes } from './findTypes.ts';
import { wording } from './wording.ts';

/**
 * Chooses a type: by a few letters, by what one registered lately, or by going down from family to group to type. Chosen, it
 * folds to one line with the purpose of the type.
 */
export const TypeChooser = ({
  types,
  recent,
  value,
  onChange,
}: {
  types: readonly TypeInfo[];
  recent: readonly string[];
  value: string;
  onChange: (id: string) => void;
}) => {
  const [open, setOpen] = useState(value === '');
  const [find, setFind] = useState('');
  const input = useRef<HTMLInputElement>(null);
  const type = types.find((one) => one.id === value);
  const usable = types.filter((one) => one.mayRegister);
  // Opened again, one goes on typing at once.
  useEffect(() => {
    if (open) input.current?.focus();
  }, [open]);
  const choose = (id: string) => {
    onChange(id);
    setFind('');
    setOpen(false);
  };
  if (!open && type)
    return (
      <div className="flex items-center gap-3 border border-line bg-sheet px-3 py-2">
        <span className="num !text-[14px]">{type.code}</span>
        <span className="min-w-0 flex-1">
          <b className="font-semibold">{type.name}</b>
          <span className="block text-[12px] text-ink-2">
            {type.help}
            {type.example && wording.forExample(type.example)}
          </span>
        </span>
        <button type="button" className="btn" onClick={() => setOpen(true)}>
          {wording.chooseAnotherType}
        </button>
      </div>
    );
  const found = find.trim() ? findTypes(usable, find) : undefined;
  const recentTypes = recent.flatMap((id) => usable.find((one) => one.id === id) ?? []);
  return (
    <fieldset className="border border-line bg-sheet">
      <legend className="sr-only">{wording.type}</legend>
      <div className="flex items-center gap-3 border-b border-line px-3 py-2">
        <input
          ref={input}
          className="inp !w-72"
          aria-label={wording.findAType}
          placeholder={wording.typeAFewLettersSuchAs}
          value={find}
          onChange={(event) => setFind(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === 'Enter' && found?.[0]) {
              event.preventDefault();
              choose(found[0].id);
            }
            if (event.key === 'Escape' && type) setOpen(false);
          }}
        />
        {recentTypes.length > 0 && !found && (
          <span className="flex min-w-0 flex-wrap items-center gap-1">
            <span className="text-[11.5px] text-ink-3">{wording.recent}</span>
            {recentTypes.slice(0, 4).map((one) => (
              <button key={one.id} type="button" className="btn !h-6" onClick={() => choose(one.id)}>
                <span className="num !text-[11px]">{one.code}</span> {one.name}
              </button>
            ))}
          </span>
        )}
        {type && (
          <button type="button" className="btn ml-auto" onClick={() => setOpen(false)}>
            {wording.keepType(type.code)}
          </button>
        )}
      </div>
      {found ? <Found types={found} choose={choose} /> : <DrillDown types={usable} chosen={type} choose={choose} />}
    </fieldset>
  );
};

const TypeButton = ({ type, choose, on }: { type: TypeInfo; choose: (id: string) => void; on?: boolean }) => (
  <button
    type="button"
    title={type.help}
    className={`grid w-full grid-cols-[44px_minmax(0,1fr)] items-baseline gap-2 px-2.5 py-1 text-left hover:bg-petrol-tint ${on ? 'bg-petrol-tint font-[600]' : ''}`}
    onClick={() => choose(type.id)}
  >
    <span className="num">{type.code}</span>
    <span className="truncate">{type.name}</span>
  </button>
);

const Found = ({ types, choose }: { types: readonly TypeInfo[]; choose: (id: string) => void }) => (
  <ul className="h-60 overflow-y-auto" aria-label={wording.typesFound}>
    {types.map((type, index) => (
      <li key={type.id} className="border-b border-line-2 last:border-0">
        <button
          type="button"
          className={`grid w-full grid-cols-[52px_minmax(0,1fr)_auto] items-baseline gap-2 px-3 py-1.5 text-left hover:bg-petrol-tint ${index === 0 ? 'bg-film-2' : ''}`}
          onClick={() => choose(type.id)}
        >
          <span className="num !text-[12.5px]">{type.code}</span>
          <span className="min-w-0">
            <b className="font-semibold">{type.name}</b>
            <span className="block truncate text-[12px] text-ink-2">{type.help}</span>
          </span>
          <span className="text-[11px] text-ink-3">
            {index === 0 ? wording.enterSelectsIt : [type.family, type.group].filter(Boolean).join(', ')}
          </span>
        </button>
      </li>
    ))}
    {types.length === 0 && <li className="px-3 py-3 text-ink-2">{wording.noMatchingType}</li>}
  </ul>
);

/** Three columns: a family opens its groups, a group its types. */
const DrillDown = ({
  types,
  chosen,
  choose,
}: {
  types: readonly TypeInfo[];
  chosen: TypeInfo | undefined;
  choose: (id: string) => void;
}) => {
  const families = [...new Set(types.map((type) => type.family))];
  const [family, setFamily] = useState(chosen?.family ?? families[0] ?? '');
  const inFamily = types.filter((type) => type.family === family);
  const groups = [...new Set(inFamily.map((type) => type.group))];
  const [group, setGroup] = useState(chosen?.group ?? '');
  const shownGroup = groups.includes(group) ? group : (groups[0] ?? '');
  const step = (text: string, on: boolean, command: () => void, n: number) => (
    <button
      key={text}
      type="button"
      aria-pressed={on}
      className={`flex w-full items-baseline justify-between border-l-3 px-2.5 py-1 text-left ${on ? 'border-petrol bg-petrol-tint font-[600]' : 'border-transparent hover:bg-film-2'}`}
      onClick={command}
    >
      <span className="truncate">{text || wording.others}</span>
      <span className="font-mono text-[10.5px] text-ink-3">{n}</span>
    </button>
  );
  return (
    <div className="grid h-60 grid-cols-3 [&>div]:min-h-0 [&>div]:overflow-y-auto [&>div]:border-r [&>div]:border-line [&>div]:py-1 [&>div:last-child]:border-0">
      <div>
        {families.map((one) =>
          step(one, one === family, () => setFamily(one), types.filter((type) => type.family === one).length),
        )}
      </div>
      <div>
        {groups.map((one) =>
          step(one, one === shownGroup, () => setGroup(one), inFamily.filter((type) => type.group === one).length),
        )}
      </div>
      <div>
        {inFamily
          .filter((type) => type.group === shownGroup)
          .map((type) => (
            <TypeButton key={type.id} type={type} choose={choose} on={type.id === chosen?.id} />
          ))}
      </div>
    </div>
  );
};
