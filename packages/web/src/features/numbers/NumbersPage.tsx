import { api, type NumberRule } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useSearchParams } from 'react-router';
import { ask } from '../../app/client.ts';
import { Segments } from '../../ui/controls.tsx';
import { Empty, Failed, Loading } from '../../ui/states.tsx';
import { Reservations } from './Reservations.tsx';
import { RuleBench } from './RuleBench.tsx';

const TABS = [
  { value: 'rules', text: 'Rules and counters' },
  { value: 'bench', text: 'Rule bench' },
  { value: 'reserved', text: 'Reserved and void' },
] as const;
type Tab = (typeof TABS)[number]['value'];

/** How the house numbers: its rules with their counters, a bench to try lists on, and what is reserved or void. */
export const NumbersPage = () => {
  const [params, setParams] = useSearchParams();
  const tab = TABS.find(({ value }) => value === params.get('tab'))?.value ?? 'rules';
  const { data, error, isPending, refetch } = useQuery(ask(api.numbers.rules));
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="flex items-center gap-4 border-b border-line px-4 py-2.5">
        <h1>Numbers</h1>
        <Segments<Tab>
          label="What is shown"
          value={tab}
          options={TABS}
          onChange={(value) => setParams(value === 'rules' ? {} : { tab: value })}
        />
      </div>
      {isPending ? (
        <Loading what="the rules" />
      ) : error ? (
        <Failed error={error} again={() => void refetch()} />
      ) : tab === 'bench' ? (
        <RuleBench rules={data.rules} />
      ) : tab === 'reserved' ? (
        <Reservations />
      ) : (
        <Rules rules={data.rules} />
      )}
    </div>
  );
};

const Rules = ({ rules }: { rules: readonly NumberRule[] }) =>
  rules.length === 0 ? (
    <Empty title="No numbering rule yet">Types whose numbers come from outside need none.</Empty>
  ) : (
    <div tabIndex={0} role="region" aria-label="Rules" className="min-h-0 flex-1 overflow-y-auto p-4">
      <ul className="flex max-w-5xl flex-col gap-3">
        {rules.map((rule) => (
          <li key={rule.rule} className="pane">
            <div className="flex items-baseline gap-4 border-b border-line bg-film-2 px-4 py-2">
              <h2 className="num !text-[13px]">{rule.rule}</h2>
              <span className="text-ink-2">{rule.types.map((type) => `${type.code} ${type.name}`).join(', ')}</span>
            </div>
            {rule.scopes.length === 0 ? (
              <p className="px-4 py-2 text-ink-3">It has not begun to count.</p>
            ) : (
              <table className="w-full">
                <thead className="sr-only">
                  <tr>
                    <th>Counts in</th>
                    <th>Last number given</th>
                    <th>Next</th>
                  </tr>
                </thead>
                <tbody>
                  {rule.scopes.map((scope) => (
                    <tr key={scope.scope} className="border-b border-line-2 last:border-0">
                      <td className="num px-4 py-1">{scope.scope}</td>
                      <td className="px-4 py-1 text-ink-2">
                        last <span className="num">{scope.last}</span>
                      </td>
                      <td className="px-4 py-1 text-ink-2">
                        next <span className="num">{nextOf(rule.rule, scope)}</span>
                      </td>
                    </tr>
                  ))}
                </tbody>
              </table>
            )}
          </li>
        ))}
      </ul>
    </div>
  );

/** The next number of a scope that stands for whole numbers; where a rule counts per less than the rest, its counter alone. */
const nextOf = (rule: string, { scope, last }: { scope: string; last: number }): string => {
  const width = Number(/\{counter:(\d)/.exec(rule)?.[1] ?? 1);
  const next = String(last + 1).padStart(width, '0');
  return scope.includes('{') ? next : scope.replace('#', next);
};
