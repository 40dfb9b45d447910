import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { ask } from '../../app/client.ts';
import { wording } from './wording.ts';

/** On the Desk of administrators until the first steps are finished: which are done, and the way to the next one. */
export const FirstStepsCard = () => {
  const { data } = useQuery({ ...ask(api.setup.state), staleTime: 60_000 });
  if (!data?.isOpen) return null;
  const done = data.steps.filter((one) => one.done).length;
  return (
    <section aria-label={wording.firstSteps} className="pane mb-3.5">
      <div className="flex items-baseline justify-between border-b border-line bg-film-2 px-3 py-1.5">
        <h2>{wording.firstSteps}</h2>
        <span className="text-ink-2">{wording.firstStepsDone(done, data.steps.length)}</span>
      </div>
      <ul className="px-3 py-2">
        {data.steps.map(({ step, done: isDone }) => (
          <li key={step} className="flex justify-between gap-3 py-0.5">
            <Link to={`/setup?step=${step}`} className={isDone ? 'text-ink-2' : 'font-semibold text-petrol underline'}>
              {wording.steps[step][0]}
            </Link>
            <span className="text-ink-2">{isDone ? wording.done : wording.toDo}</span>
          </li>
        ))}
      </ul>
      <div className="px-3 pb-2.5">
        <Link to="/setup" className="btn btn-pri">
          {wording.goOn}
        </Link>
      </div>
    </section>
  );
};
