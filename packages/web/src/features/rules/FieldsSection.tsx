import { api, type Field, type TypeRule } from '@kanonos/contract';
import { fieldUses } from '@kanonos/core';
import { useQuery } from '@tanstack/react-query';
import { ArrowDown, ArrowUp, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { ask } from '../../app/client.ts';
import { Empty } from '../../ui/states.tsx';
import { TableHead } from '../../ui/TableHead.tsx';
import { FieldDetail } from './FieldDetail.tsx';
import { wording } from './wording.ts';
import { KIND_WORDS, keyFrom, useInWords } from './words.ts';

const moved = <T,>(items: readonly T[], from: number, to: number): T[] => {
  const next = [...items];
  const [item] = next.splice(from, 1);
  if (item !== undefined) next.splice(to, 0, item);
  return next;
};

/** The metadata that the type asks for, in the order in which they are asked; one is open for its details. */
export const FieldsSection = ({ rule, edit }: { rule: TypeRule; edit: (change: Partial<TypeRule>) => void }) => {
  const [open, setOpen] = useState<number | null>(null);
  const lists = useQuery(ask(api.rules.lists));
  const set = (index: number, field: Field) =>
    edit({ fields: rule.fields.map((one, i) => (i === index ? field : one)) });
  const add = () => {
    const key = keyFrom(
      'field',
      rule.fields.map((field) => field.key),
    );
    edit({ fields: [...rule.fields, { key, label: '', kind: 'text', mandatory: false, level: 'revision' }] });
    setOpen(rule.fields.length);
  };
  return (
    <div className="relative max-w-3xl max-md:overflow-x-auto">
      {rule.fields.length === 0 ? (
        <Empty title={wording.thisTypeHasNoFieldsBesides}>{wording.addFieldsForWhatYouAlways}</Empty>
      ) : (
        <table className="w-full min-w-[560px] table-fixed border border-line bg-sheet">
          <TableHead
            headings={[
              { text: wording.field, className: 'w-[34%]' },
              { text: wording.kind, className: 'w-[24%]' },
              { text: wording.required, className: 'w-[14%]' },
              { text: wording.level, className: 'w-[14%]' },
              { text: wording.order, className: 'w-[14%]', hidden: true },
            ]}
          />
          {rule.fields.map((field, index) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: a key may be typed anew while its field stays at its place
            <tbody key={index} className="border-b border-line-2 last:border-0">
              <tr className={open === index ? 'bg-petrol-tint' : ''}>
                <td className="px-3 py-1">
                  <button
                    type="button"
                    aria-expanded={open === index}
                    className="link block w-full truncate text-left"
                    onClick={() => setOpen(open === index ? null : index)}
                  >
                    {field.label || wording.noLabelYet}
                    <span className="num ml-2 !text-[10.5px] font-normal text-ink-3">{field.key}</span>
                  </button>
                </td>
                <td className="truncate">
                  {KIND_WORDS[field.kind]}
                  {field.list && <span className="text-ink-3"> {field.list}</span>}
                </td>
                <td>
                  {field.mandatory ? (
                    <b className="font-semibold">{wording.required2}</b>
                  ) : (
                    <span className="text-ink-3">{wording.optional}</span>
                  )}
                </td>
                <td>{field.level === 'revision' ? 'revision' : 'document'}</td>
                <td className="pr-2 text-right whitespace-nowrap">
                  <IconButton
                    label={wording.moveUp(field.label)}
                    disabled={index === 0}
                    onClick={() => edit({ fields: moved(rule.fields, index, index - 1) })}
                  >
                    <ArrowUp size={14} aria-hidden />
                  </IconButton>
                  <IconButton
                    label={wording.moveDown(field.label)}
                    disabled={index === rule.fields.length - 1}
                    onClick={() => edit({ fields: moved(rule.fields, index, index + 1) })}
                  >
                    <ArrowDown size={14} aria-hidden />
                  </IconButton>
                  <IconButton
                    label={wording.removeField(field.label)}
                    onClick={() => {
                      edit({ fields: rule.fields.filter((_, i) => i !== index) });
                      setOpen(null);
                    }}
                  >
                    <Trash2 size={14} aria-hidden />
                  </IconButton>
                </td>
              </tr>
              {open === index && (
                <tr>
                  <td colSpan={5} className="border-t border-line bg-film-2 px-3 py-3">
                    <FieldDetail
                      field={field}
                      uses={fieldUses(rule, field.key).map(useInWords)}
                      fields={rule.fields}
                      choices={lists.data?.choices ?? []}
                      lookups={lists.data?.lookups ?? []}
                      onChange={(next) => set(index, next)}
                    />
                  </td>
                </tr>
              )}
            </tbody>
          ))}
        </table>
      )}
      <button type="button" className="btn mt-3" onClick={add}>
        {wording.addField}
      </button>
    </div>
  );
};

const IconButton = ({
  label,
  children,
  ...props
}: { label: string } & React.ButtonHTMLAttributes<HTMLButtonElement>) => (
  <button
    type="button"
    aria-label={label}
    title={label}
    className="rounded-xs p-[5px] text-ink-2 hover:bg-film disabled:text-line"
    {...props}
  >
    {children}
  </button>
);
