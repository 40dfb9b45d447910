import { api, type ChangeTask, type Upload } from '@kanonos/contract';
import { useState } from 'react';
import { useCommand } from '../../app/useCommand.ts';
import { Select, TextArea } from '../../ui/controls.tsx';
import { DateField } from '../../ui/DateField.tsx';
import { FileDrop } from '../../ui/FileDrop.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { PeoplePicker } from '../../ui/PersonPicker.tsx';
import { ReasonField } from '../../ui/ReasonField.tsx';
import { wording } from './wording.ts';

type Props = { number: string; close: () => void };

/** Gives somebody a task, or changes one that is open. */
export const TaskDialog = ({ number, task, close }: Props & { task?: ChangeTask }) => {
  const [what, setWhat] = useState(task?.what ?? '');
  const [who, setWho] = useState(task ? [task.assignee] : []);
  const [dueOn, setDueOn] = useState(task?.dueOn ?? '');
  const [before, setBefore] = useState<ChangeTask['before']>(task?.before ?? 'closure');
  const add = useCommand(api.changes.addTask, wording.taskAdded, close);
  const change = useCommand(api.changes.changeTask, wording.taskSaved, close);
  const body = { what, assigneeId: who[0]?.id ?? '', dueOn: dueOn || null, before };
  return (
    <FormDialog
      title={task ? wording.changeTask(task.n) : wording.addTaskTo(number)}
      command={task ? change : add}
      button={task ? wording.save : wording.addTask}
      ready={who.length > 0}
      onSubmit={() =>
        task
          ? change.mutate({ params: { document: number, task: task.id }, body })
          : add.mutate({ params: { document: number }, body })
      }
      onClose={close}
    >
      <TextArea label={wording.what} required rows={2} value={what} onChange={setWhat} />
      <PeoplePicker label={wording.who} single value={who} onChange={setWho} />
      <DateField label={wording.dueOn} optional value={dueOn} onChange={setDueOn} />
      <Select
        label={wording.before}
        value={before}
        onChange={(value) => setBefore(value as ChangeTask['before'])}
        options={[
          { value: 'closure', text: wording.beforeClosure },
          { value: 'release', text: wording.beforeRelease },
        ]}
      />
    </FormDialog>
  );
};

/** Reports a task as done, with what came out of it. */
export const DoneTaskDialog = ({ number, task, close }: Props & { task: ChangeTask }) => {
  const [result, setResult] = useState('');
  const [upload, setUpload] = useState<Upload | null>(null);
  const command = useCommand(api.changes.doneTask, wording.taskDone, close);
  return (
    <FormDialog
      title={wording.reportTask(task.n)}
      about={<p>{task.what}</p>}
      command={command}
      button={wording.reportDone}
      onSubmit={() =>
        command.mutate({
          params: { document: number, task: task.id },
          body: { result, uploadIds: upload ? [upload.id] : [] },
        })
      }
      onClose={close}
    >
      <TextArea label={wording.whatCameOut} required rows={3} value={result} onChange={setResult} />
      <FileDrop label={wording.file} value={upload} onChange={setUpload} />
    </FormDialog>
  );
};

export const DropTaskDialog = ({ number, task, close }: Props & { task: ChangeTask }) => {
  const [reason, setReason] = useState('');
  const command = useCommand(api.changes.dropTask, wording.taskDropped, close);
  return (
    <FormDialog
      title={wording.dropTask(task.n)}
      about={<p>{task.what}</p>}
      command={command}
      button={wording.drop}
      danger
      onSubmit={() => command.mutate({ params: { document: number, task: task.id }, body: { reason } })}
      onClose={close}
    >
      <ReasonField value={reason} onChange={setReason} />
    </FormDialog>
  );
};
