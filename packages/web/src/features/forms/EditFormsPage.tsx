import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { Link, useSearchParams } from 'react-router';
import { ask } from '../../app/client.ts';
import { ListAndDetail } from '../../ui/ListAndDetail.tsx';
import { Empty, Failed, Loading } from '../../ui/states.tsx';
import { FormEditor } from './FormEditor.tsx';
import { wording } from './wording.ts';

const NEW = 'new';

/** The forms of the organisation, for whoever makes them; the address says which is open. */
export const EditFormsPage = () => {
  const [params] = useSearchParams();
  const { data, error, isPending, refetch } = useQuery(ask(api.forms.all));
  if (isPending) return <Loading what={wording.theForms} />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  const named = params.get('form') ?? data.forms[0]?.id ?? null;
  const form = data.forms.find(({ id }) => id === named);
  return (
    <ListAndDetail>
      <section aria-label={wording.forms} className="min-h-0 overflow-y-auto border-r border-line bg-film-2">
        <div className="border-b border-line px-3.5 py-2.5">
          <h1>{wording.forms}</h1>
        </div>
        {data.forms.map((one) => (
          <Link
            key={one.id}
            to={`?form=${one.id}`}
            aria-current={one.id === named ? 'page' : undefined}
            className={`flex items-baseline justify-between gap-2 border-l-3 px-[11px] py-1 ${one.id === named ? 'border-petrol bg-sheet font-[600]' : 'border-transparent hover:bg-film'}`}
          >
            <span className="truncate">{one.name}</span>
            <span className="text-[11px] font-normal whitespace-nowrap text-ink-2">
              {one.active ? wording.recordsSent(one.records) : wording.notOffered}
            </span>
          </Link>
        ))}
        <Link className="link block px-3.5 py-2" to={`?form=${NEW}`}>
          {wording.addForm}
        </Link>
      </section>
      {named === NEW || form ? (
        <FormEditor key={form ? `${form.id} ${form.rowVersion}` : NEW} form={form} />
      ) : (
        <Empty title={data.forms.length === 0 ? wording.noForms : wording.formNotFound}>
          {wording.chooseAFormHint}
        </Empty>
      )}
    </ListAndDetail>
  );
};
