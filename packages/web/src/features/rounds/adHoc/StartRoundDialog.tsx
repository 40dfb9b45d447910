import { type AnswerOf, api, type DocumentPage, type Upload } from '@kanonos/contract';
import { decideSignable } from '@kanonos/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { ask } from '../../../app/client.ts';
import { useCommand } from '../../../app/useCommand.ts';
import { routeAddress } from '../../../ui/addresses.ts';
import { Select, TextArea, TextField } from '../../../ui/controls.tsx';
import { DateField } from '../../../ui/DateField.tsx';
import { FileDrop } from '../../../ui/FileDrop.tsx';
import { FormDialog } from '../../../ui/FormDialog.tsx';
import { showDay } from '../../../ui/format.ts';
import { DocumentPicker } from '../../document/DocumentPicker.tsx';
import { StepRows } from './StepRows.tsx';
import { firstStep, isComplete, toSteps } from './steps.ts';
import { wording } from './wording.ts';

/** Starts a round outside the route on the revision in view, with steps made on the spot. */
export const StartRoundDialog = ({ page, close }: { page: DocumentPage; close: () => void }) => {
  const [name, setName] = useState('');
  const [message, setMessage] = useState('');
  const [steps, setSteps] = useState([firstStep(1)]);
  const [lastDay, setLastDay] = useState('');
  const [documents, setDocuments] = useState<string[]>([]);
  const [uploads, setUploads] = useState<Upload[]>([]);
  const [fromRoute, setFromRoute] = useState('');
  const navigate = useNavigate();
  const { revision } = page;
  const { data } = useQuery(
    ask(api.adHocRounds.routes, { params: { document: page.id }, query: { revisionId: revision.id } }),
  );
  const route = data?.routes.find((one) => one.name === fromRoute);
  const [on, setOn] = useState('');
  const toRoute = () => void navigate(routeAddress(page.number, revision));
  const start = useCommand(api.adHocRounds.start, ({ round }) => wording.started(round), toRoute);
  const plan = useCommand(api.adHocRounds.plan, () => wording.planned(showDay(on)), toRoute);
  return (
    <FormDialog
      title={wording.startOn(`${page.number} ${revision.label}`.trim())}
      about={<p className="text-[12.5px] text-ink-2">{wording.startAbout}</p>}
      wide
      command={on ? plan : start}
      button={on ? wording.planRound : wording.startRound}
      ready={route !== undefined || isComplete(steps)}
      onSubmit={() => {
        const params = { document: page.id };
        const body = {
          revisionId: revision.id,
          name,
          message,
          lastDay: lastDay || null,
          ...(route ? { fromRoute } : { steps: toSteps(steps) }),
          documents,
          uploads: uploads.map(({ id }) => id),
        };
        if (on) plan.mutate({ params, body: { ...body, on } });
        else start.mutate({ params, body });
      }}
      onClose={close}
    >
      <TextField label={wording.name} required maxLength={80} value={name} onChange={setName} hint={wording.nameHint} />
      <TextArea label={wording.message} optional rows={2} value={message} onChange={setMessage} />
      {data && data.routes.length > 0 && (
        <Select
          label={wording.stepsFrom}
          value={fromRoute}
          empty={wording.madeHere}
          options={data.routes.map((one) => ({ value: one.name, text: wording.ofRoute(one.name) }))}
          onChange={setFromRoute}
        />
      )}
      {route ? (
        <RouteInWords route={route} />
      ) : (
        <StepRows steps={steps} onChange={setSteps} maySign={decideSignable(revision.state).length === 0} />
      )}
      <DateField label={wording.begins} optional value={on} onChange={setOn} hint={wording.beginsHint} />
      <DateField label={wording.lastDay} optional value={lastDay} onChange={setLastDay} hint={wording.lastDayHint} />
      <Beside
        label={wording.sideDocuments}
        names={documents}
        onRemove={(number) => setDocuments(documents.filter((one) => one !== number))}
      >
        <DocumentPicker
          label={wording.sideDocuments}
          optional
          value=""
          onChange={(number) => number && setDocuments([...new Set([...documents, number])])}
        />
      </Beside>
      <Beside
        label={wording.sideFiles}
        names={uploads.map((upload) => upload.name)}
        onRemove={(name) => setUploads(uploads.filter((upload) => upload.name !== name))}
      >
        <FileDrop
          key={uploads.length}
          label={wording.sideFiles}
          value={null}
          onChange={(upload) => upload && setUploads([...uploads, upload])}
        />
      </Beside>
    </FormDialog>
  );
};

/** The steps of a route, with whom it would ask. */
const RouteInWords = ({ route }: { route: AnswerOf<typeof api.adHocRounds.routes>['routes'][number] }) => (
  <ol className="list-inside list-decimal text-[12.5px] text-ink-2">
    {route.steps.map((step) => (
      <li key={step.name} className={step.applies ? '' : 'text-ink-3'}>
        <b className="font-semibold text-ink">{step.name}</b>
        {step.people.length > 0 && `: ${step.people.join(', ')}`}
        {step.problem && <span className="text-vermilion"> {step.problem}</span>}
      </li>
    ))}
  </ol>
);

/** What is attached to the round, each with a way to take it off again. */
const Beside = ({
  label,
  names,
  onRemove,
  children,
}: {
  label: string;
  names: readonly string[];
  onRemove: (name: string) => void;
  children: React.ReactNode;
}) => (
  <div className="flex flex-col gap-1.5">
    {names.length > 0 && (
      <ul aria-label={label} className="flex flex-wrap gap-1">
        {names.map((name) => (
          <li key={name} className="chip">
            {name}
            <button
              type="button"
              className="min-w-6"
              aria-label={wording.removeOne(name)}
              onClick={() => onRemove(name)}
            >
              ×
            </button>
          </li>
        ))}
      </ul>
    )}
    {children}
  </div>
);
