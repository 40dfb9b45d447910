import { api, type ChoiceList, type Lookup } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { Link, useSearchParams } from 'react-router';
import { ask } from '../../app/client.ts';
import { count } from '../../ui/format.ts';
import { ListAndDetail } from '../../ui/ListAndDetail.tsx';
import { Empty, Failed, Loading } from '../../ui/states.tsx';
import { useLastChosen } from '../../ui/useLastChosen.ts';
import { ChoiceEditor } from './ChoiceEditor.tsx';
import { LookupEditor } from './LookupEditor.tsx';
import { wording } from './wording.ts';

const NEW_CHOICES: ChoiceList = { key: '', name: '', dependsOn: null, options: [], rowVersion: 0, usedBy: [] };
const NEW_LOOKUP: Lookup = { key: '', name: '', metadata: [], entries: [], rowVersion: 0, usedBy: [] };

/** Lists that types share: choices, which may depend on one another, and look-up lists, whose entries have metadata. */
export const ListsPage = () => {
  const [params] = useSearchParams();
  const { data, error, isPending, refetch } = useQuery(ask(api.rules.lists));
  const all = [
    ...(data?.choices ?? []).map((list) => `choices/${list.key}`),
    ...(data?.lookups ?? []).map((list) => `lookup/${list.key}`),
  ];
  const named = (['choices', 'lookup'] as const).find((one) => params.get(one) !== null);
  const last = useLastChosen('list', all, String, named && `${named}/${params.get(named)}`);
  if (isPending) return <Loading what={wording.theLists} />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  const [kind, key = null] = named ? [named, params.get(named)] : (last?.split('/') ?? []);
  const choices = key === '' ? NEW_CHOICES : data.choices.find((list) => list.key === key);
  const lookup = key === '' ? NEW_LOOKUP : data.lookups.find((list) => list.key === key);
  return (
    <ListAndDetail>
      <section aria-label={wording.lists} className="min-h-0 overflow-y-auto border-r border-line bg-film-2">
        <div className="border-b border-line px-3.5 py-2.5">
          <h1>{wording.lists}</h1>
        </div>
        <Group title={wording.choices} add="?choices=" addText={wording.addChoiceList}>
          {data.choices.map((list) => (
            <Row
              key={list.key}
              to={`?choices=${list.key}`}
              on={kind === 'choices' && key === list.key}
              name={list.name}
              about={count(list.options.length, 'option', 'options')}
            />
          ))}
        </Group>
        <Group title={wording.lookUpLists} add="?lookup=" addText={wording.addLookUpList}>
          {data.lookups.map((list) => (
            <Row
              key={list.key}
              to={`?lookup=${list.key}`}
              on={kind === 'lookup' && key === list.key}
              name={list.name}
              about={count(list.entries.length, 'entry', 'entries')}
            />
          ))}
        </Group>
      </section>
      {key === null ? (
        <Empty title={wording.chooseAList}>{wording.aListIsMaintainedOnceAnd}</Empty>
      ) : kind === 'choices' && choices ? (
        <ChoiceEditor key={choices.key} now={choices} all={data.choices} />
      ) : kind === 'lookup' && lookup ? (
        <LookupEditor key={lookup.key} now={lookup} />
      ) : (
        <Empty title={wording.listNotFound} />
      )}
    </ListAndDetail>
  );
};

const Group = ({
  title,
  add,
  addText,
  children,
}: {
  title: string;
  add: string;
  addText: string;
  children: React.ReactNode;
}) => (
  <div className="pt-2">
    <p className="cap px-3.5 pb-0.5">{title}</p>
    {children}
    <Link className="link block px-3.5 py-1" to={add}>
      {addText}
    </Link>
  </div>
);

const Row = ({ to, on, name, about }: { to: string; on: boolean; name: string; about: string }) => (
  <Link
    to={to}
    aria-current={on ? 'page' : undefined}
    className={`flex items-baseline justify-between gap-2 border-l-3 px-[11px] py-1 ${on ? 'border-petrol bg-sheet font-[600]' : 'border-transparent hover:bg-film'}`}
  >
    <span className="truncate">{name}</span>
    <span className="text-[11px] font-normal whitespace-nowrap text-ink-3">{about}</span>
  </Link>
);
