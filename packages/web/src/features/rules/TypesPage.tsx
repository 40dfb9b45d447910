import { api, NEW_TYPE } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { ask } from '../../app/client.ts';
import { count } from '../../ui/format.ts';
import { ListAndDetail } from '../../ui/ListAndDetail.tsx';
import { Empty, Failed, Loading } from '../../ui/states.tsx';
import { useLastChosen } from '../../ui/useLastChosen.ts';
import { TypeEditor } from './TypeEditor.tsx';
import { TypeTree } from './TypeTree.tsx';
import { wording } from './wording.ts';

const NEW = { id: null, rule: NEW_TYPE } as const;

/** The types of the organisation by their place in the classification, and the one that is looked at. */
export const TypesPage = () => {
  const wanted = useParams().id;
  const [find, setFind] = useState('');
  const { data, error, isPending, refetch } = useQuery(ask(api.rules.types));
  // An address may name a type by its code, as people do.
  const byCode = data?.types.find((type) => type.code.toLowerCase() === wanted?.toLowerCase());
  const last = useLastChosen('type', data?.types ?? [], (type) => type.id, wanted && (byCode?.id ?? wanted));
  if (isPending) return <Loading what={wording.theTypes} />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  const id = wanted ? (byCode?.id ?? wanted) : last?.id;
  const inUse = data.types.filter((type) => !type.retired).length;
  return (
    <ListAndDetail>
      <section aria-label={wording.types} className="flex min-h-0 flex-col border-r border-line bg-film-2">
        <div className="border-b border-line px-3.5 py-2.5">
          <div className="flex items-baseline justify-between">
            <h1>{wording.types}</h1>
            <span className="text-[12px] text-ink-2">{count(inUse, 'type', 'types')}</span>
          </div>
          <div className="mt-2 flex gap-2">
            <input
              className="inp"
              aria-label={wording.findAType}
              placeholder={wording.findAType}
              value={find}
              onChange={(event) => setFind(event.target.value)}
            />
            <Link className="btn" to="/rules/types/new">
              {wording.newType}
            </Link>
          </div>
        </div>
        <TypeTree types={data.types} find={find} chosen={id} />
      </section>
      {id === 'new' ? (
        <TypeEditor key="new" now={NEW} types={data.types} />
      ) : id ? (
        <OpenType key={id} id={id} types={data.types} />
      ) : (
        <Empty title={wording.chooseAType}>{wording.theNumberFileNameFieldsAnd}</Empty>
      )}
    </ListAndDetail>
  );
};

type Types = readonly import('@kanonos/contract').TypeSummary[];

const OpenType = ({ id, types }: { id: string; types: Types }) => {
  const { data, error, isPending, refetch } = useQuery(ask(api.rules.type, { params: { id } }));
  if (isPending) return <Loading what={wording.theType} />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  return <TypeEditor now={data} types={types} />;
};
