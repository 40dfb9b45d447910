import { api, FIRST_STEPS, type FirstStep } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { Check } from 'lucide-react';
import { Navigate, useSearchParams } from 'react-router';
import { ask } from '../../app/client.ts';
import { useCommand } from '../../app/useCommand.ts';
import { Failed, Loading, Refusals } from '../../ui/states.tsx';
import { AdministratorStep } from './AdministratorStep.tsx';
import { ConfigurationStep } from './ConfigurationStep.tsx';
import { DocumentsStep } from './DocumentsStep.tsx';
import { MailStep } from './MailStep.tsx';
import { OrganisationStep } from './OrganisationStep.tsx';
import { PeopleStep } from './PeopleStep.tsx';
import { wording } from './wording.ts';

const PANELS: Record<FirstStep, () => React.ReactNode> = {
  organisation: OrganisationStep,
  administrator: AdministratorStep,
  configuration: ConfigurationStep,
  people: PeopleStep,
  mail: MailStep,
  documents: DocumentsStep,
};

/** The first steps of a new organisation: each can be left and resumed. The address carries the open one. */
export const SetupPage = () => {
  const { data, error, isPending, refetch } = useQuery(ask(api.setup.state));
  const [params, setParams] = useSearchParams();
  const close = useCommand(api.setup.close, data?.isOpen ? wording.finished : wording.reopened);
  if (isPending) return <Loading what={wording.theFirstSteps} />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  const current = FIRST_STEPS.find((step) => step === params.get('step'));
  // Opened without a step it is the first one that is not done; saving it does not lead on by itself.
  if (!current) return <Navigate replace to={`?step=${data.steps.find(({ done }) => !done)?.step ?? 'documents'}`} />;
  const next = FIRST_STEPS[FIRST_STEPS.indexOf(current) + 1];
  const Panel = PANELS[current];
  const done = data.steps.filter((one) => one.done).length;
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[280px_minmax(0,1fr)] overflow-hidden max-lg:grid-cols-1 max-lg:overflow-y-auto">
      <section aria-label={wording.stepsList} className="flex flex-col border-r border-line bg-film-2 p-4">
        <h1>{wording.firstSteps}</h1>
        <p className="mt-0.5 text-ink-2">{wording.firstStepsDone(done, data.steps.length)}</p>
        <ol className="mt-3 flex flex-col gap-1">
          {data.steps.map(({ step, done: isDone }, i) => (
            <li key={step}>
              <button
                type="button"
                aria-current={step === current ? 'step' : undefined}
                onClick={() => setParams({ step })}
                className={`grid w-full grid-cols-[24px_minmax(0,1fr)] gap-2 px-2 py-1.5 text-left ${step === current ? 'bg-sheet shadow-[inset_3px_0_0_var(--color-petrol)]' : ''}`}
              >
                <span className="num pt-0.5 text-ink-2">{isDone ? <Check size={15} aria-hidden /> : i + 1}</span>
                <span>
                  <b className="block font-semibold">{wording.steps[step][0]}</b>
                  <span className="text-[12px] text-ink-2 max-md:hidden">
                    {isDone ? wording.done : wording.toDo} · {wording.steps[step][1]}
                  </span>
                </span>
              </button>
            </li>
          ))}
        </ol>
        <p className="mt-3 text-[12px] text-ink-2 max-md:hidden">{wording.aboutSteps}</p>
        <div className="mt-auto flex flex-col gap-2 pt-4">
          <Refusals error={close.error} />
          <button
            type="button"
            className={done === data.steps.length && data.isOpen ? 'btn btn-pri justify-center' : 'btn justify-center'}
            disabled={close.isPending}
            onClick={() => close.mutate({ body: { open: !data.isOpen } })}
          >
            {data.isOpen ? wording.finish : wording.resume}
          </button>
        </div>
      </section>
      <section aria-labelledby="step" className="min-h-0 overflow-y-auto px-6 py-4 max-lg:overflow-visible">
        <h2 id="step" className="!text-[17px]">
          {wording.steps[current][0]}
        </h2>
        <p className="mb-3 text-ink-2">{wording.steps[current][1]}</p>
        <Panel />
        {next && (
          <div className="mt-5 border-t border-line pt-3">
            <button type="button" className="btn" onClick={() => setParams({ step: next })}>
              {wording.next}: {wording.steps[next][0]}
            </button>
          </div>
        )}
      </section>
    </div>
  );
};
