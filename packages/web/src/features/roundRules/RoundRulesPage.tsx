import { api, type RoundRule } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { Link, useSearchParams } from 'react-router';
import { ask } from '../../app/client.ts';
import { ListAndDetail } from '../../ui/ListAndDetail.tsx';
import { Empty, Failed, Loading } from '../../ui/states.tsx';
import { occasionWords } from './occasionWords.ts';
import { RuleEditor } from './RuleEditor.tsx';
import { wording } from './wording.ts';

const NEW = 'new';

/** Rules that start rounds, each with what it did; the address says which is open. */
export const RoundRulesPage = () => {
  const [params] = useSearchParams();
  const { data, error, isPending, refetch } = useQuery(ask(api.roundRules.list));
  if (isPending) return <Loading what={wording.theRules} />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  const named = params.get('rule') ?? data.rules[0]?.id ?? null;
  const rule = data.rules.find(({ id }) => id === named);
  return (
    <ListAndDetail>
      <section aria-label={wording.rules} className="min-h-0 overflow-y-auto border-r border-line bg-film-2">
        <div className="border-b border-line px-3.5 py-2.5">
          <h1>{wording.title}</h1>
          <p className="text-[12px] text-ink-2">{wording.about}</p>
        </div>
        {data.rules.map((one) => (
          <RuleLine key={one.id} rule={one} isOpen={one.id === named} />
        ))}
        <Link className="link block px-3.5 py-2" to={`?rule=${NEW}`}>
          {wording.addRule}
        </Link>
      </section>
      {named === NEW || rule ? (
        <RuleEditor key={rule ? `${rule.id} ${rule.rowVersion}` : NEW} rule={rule} types={data.types} />
      ) : data.rules.length === 0 ? (
        <Empty title={wording.none}>{wording.noneHint}</Empty>
      ) : (
        <Empty title={wording.ruleNotFound}>{wording.chooseARuleHint}</Empty>
      )}
    </ListAndDetail>
  );
};

const RuleLine = ({ rule, isOpen }: { rule: RoundRule; isOpen: boolean }) => (
  <Link
    to={`?rule=${rule.id}`}
    aria-current={isOpen ? 'page' : undefined}
    className={`block border-l-3 border-b border-b-line-2 px-[11px] py-1.5 ${isOpen ? 'border-l-petrol bg-sheet' : 'border-l-transparent hover:bg-film'}`}
  >
    <span className="flex items-baseline justify-between gap-2">
      <b className="truncate font-semibold">{rule.name}</b>
      <span className="text-[11px] whitespace-nowrap text-ink-2">
        {rule.active ? wording.roundsStarted(rule.started) : wording.off}
      </span>
    </span>
    <span className="block truncate text-[12px] text-ink-2">
      {rule.type.code}
      {rule.folder ? ` · ${rule.folder}` : ''} · {occasionWords(rule.occasion, rule.field)}
    </span>
    {rule.failed > 0 && <span className="block text-[12px] text-vermilion">{wording.notStartedYet(rule.failed)}</span>}
  </Link>
);
