import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useSearchParams } from 'react-router';
import { ask } from '../../app/client.ts';
import { Segments } from '../../ui/controls.tsx';
import { Failed, Loading } from '../../ui/states.tsx';
import { NumberRules } from './NumberRules.tsx';
import { Reservations } from './Reservations.tsx';
import { RuleBench } from './RuleBench.tsx';
import { wording } from './wording.ts';

const TABS = [
  { value: 'rules', text: wording.rulesAndCounters },
  { value: 'bench', text: wording.ruleBench },
  { value: 'reserved', text: wording.reservedAndVoid },
] as const;
type Tab = (typeof TABS)[number]['value'];

/** How the organisation numbers: its rules with their counters, a bench to try lists on, and what is reserved or void. */
export const NumbersPage = () => {
  const [params, setParams] = useSearchParams();
  const tab = TABS.find(({ value }) => value === params.get('tab'))?.value ?? 'rules';
  const { data, error, isPending, refetch } = useQuery(ask(api.numbers.rules));
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2 border-b border-line px-4 py-2.5">
        <h1>{wording.numbers}</h1>
        <Segments<Tab>
          label={wording.view}
          value={tab}
          options={TABS}
          onChange={(value) => setParams(value === 'rules' ? {} : { tab: value })}
        />
      </div>
      {isPending ? (
        <Loading what={wording.theRules} />
      ) : error ? (
        <Failed error={error} again={() => void refetch()} />
      ) : tab === 'bench' ? (
        <RuleBench rules={data.rules} />
      ) : tab === 'reserved' ? (
        <Reservations />
      ) : (
        <NumberRules rules={data.rules} />
      )}
    </div>
  );
};
