import { api, type ConfigurationPackage } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { call, uploadFile } from '../../app/client.ts';
import { useCommand } from '../../app/useCommand.ts';

import { FormDialog } from '../../ui/FormDialog.tsx';
import { count } from '../../ui/format.ts';
import { ReasonField } from '../../ui/ReasonField.tsx';
import { Loading, Refusals } from '../../ui/states.tsx';
import { Differences } from './Differences.tsx';
import { wording } from './wording.ts';

const KINDS = { unit: wording.unit, choices: wording.choiceList, lookup: wording.lookUpList, type: wording.type };

/** Reads a package of rules in: what it would change is shown first; what it does not name stays as it is. */
export const ReadRulesDialog = ({ close }: { close: () => void }) => {
  const [wanted, setWanted] = useState<ConfigurationPackage | null>(null);
  const [problem, setProblem] = useState('');
  const [wrong, setWrong] = useState<{ line: number; reason: string }[]>([]);
  const [reason, setReason] = useState('');
  const trial = useQuery({
    queryKey: ['rules', 'tryConfigurationPackage', wanted],
    queryFn: ({ signal }) =>
      call(api.configurationPackages.try, { body: { package: wanted as ConfigurationPackage }, signal }),
    enabled: wanted !== null,
  });
  const command = useCommand(
    api.configurationPackages.apply,
    ({ changed }) => `${count(changed, 'setting', 'settings')} changed.`,
    close,
  );
  const take = async (file: File | undefined) => {
    if (!file) return;
    setWanted(null);
    setProblem('');
    setWrong([]);
    if (/\.(csv|xlsx)$/i.test(file.name)) {
      try {
        const upload = await uploadFile(file, () => {});
        const read = await call(api.configurationPackages.classification, { body: { uploadId: upload.id } });
        setWanted(read.package);
        setWrong(read.wrong);
      } catch (failure) {
        setProblem((failure as Error).message);
      }
      return;
    }
    try {
      // Whether it is a configuration is judged by the trial, which names the place of what is wrong.
      setWanted(JSON.parse(await file.text()) as ConfigurationPackage);
    } catch {
      setProblem(wording.isNotValidJson(file.name));
    }
  };
  return (
    <FormDialog
      title={wording.importConfiguration}
      wide
      command={command}
      button={trial.data ? wording.changeChanges(trial.data.changes.length) : wording.import}
      ready={(trial.data?.changes.length ?? 0) > 0 && reason.trim() !== ''}
      onSubmit={() => wanted && command.mutate({ body: { package: wanted, reason } })}
      onClose={close}
    >
      <label className="cap">
        {wording.aConfigurationJsonOrAClassification}
        <input
          type="file"
          accept=".json,.csv,.xlsx,application/json"
          className="mt-1 block font-sans text-[13px] tracking-normal normal-case"
          onChange={(event) => void take(event.target.files?.[0])}
        />
      </label>
      {wrong.length > 0 && (
        <ul className="max-h-32 overflow-y-auto border-l-3 border-ochre bg-ochre-tint px-3 py-1.5 text-ochre">
          {wrong.map((one) => (
            <li key={`${one.line} ${one.reason}`}>
              {one.line > 0 && wording.lineLine(one.line)}
              {wording.reasonSkipped(one.reason)}
            </li>
          ))}
        </ul>
      )}
      {problem && (
        <p role="alert" className="border-l-3 border-vermilion bg-vermilion-tint px-3 py-2 text-vermilion">
          {problem}
        </p>
      )}
      {wanted &&
        (trial.isPending ? (
          <Loading what={wording.thePreview} />
        ) : trial.error ? (
          <Refusals error={trial.error} />
        ) : (
          <div className="max-h-[44vh] overflow-y-auto">
            <p className="mb-1">
              {wording.fromOrganisationExportedOn(wanted.organisation.name, wanted.organisation.exportedOn)}{' '}
              <b className="font-semibold">{count(trial.data.changes.length, 'change', 'changes')}</b>
              {wording.unchangedAnythingTheFileDoesNot(count(trial.data.same, 'is', 'are'))}
            </p>
            <ul>
              {trial.data.changes.map((change) => (
                <li key={`${change.kind} ${change.name}`} className="border-t border-line-2 py-1">
                  <b className="font-semibold">
                    {KINDS[change.kind]} {change.name}
                  </b>{' '}
                  {change.isNew && <span className="text-petrol">{wording.isNew}</span>}
                  <Differences differences={change.differences} />
                </li>
              ))}
            </ul>
          </div>
        ))}
      <ReasonField value={reason} onChange={setReason} />
    </FormDialog>
  );
};
