import { api, type DocumentPage, type Upload } from '@kanonos/contract';
import { useState } from 'react';
import { useCommand } from '../../../app/useCommand.ts';
import { Choice, TextArea, TextField } from '../../../ui/controls.tsx';
import { FileDrop } from '../../../ui/FileDrop.tsx';
import { FormDialog } from '../../../ui/FormDialog.tsx';

const KINDS = [
  { kind: 'major', title: 'Major', about: 'what people must do or know changes; readers read it again' },
  { kind: 'minor', title: 'Minor', about: 'a small change of content' },
  { kind: 'editorial', title: 'Editorial', about: 'wording and layout only' },
] as const;

/** Begins the next revision: how large the change is, why, and from which file. */
export const ReviseDialog = ({ page, close }: { page: DocumentPage; close: () => void }) => {
  const [kind, setKind] = useState<'major' | 'minor' | 'editorial'>('major');
  const [reason, setReason] = useState('');
  const [summary, setSummary] = useState('');
  const [outside, setOutside] = useState(false);
  const [upload, setUpload] = useState<Upload | null>(null);
  const [label, setLabel] = useState('');
  const command = useCommand(
    api.documents.revise,
    ({ label: begun }) => `Revision ${begun} started as a draft.`,
    close,
  );
  const ahead = page.labelsAhead;
  const [stage, setStage] = useState(0);
  const stages = ahead.by === 'stage' ? ahead.stages : [];
  const next = ahead.by === 'change kind' ? ahead.labels[kind] : ahead.by === 'stage' ? stages[stage]?.label : label;
  return (
    <FormDialog
      title={`Revise ${page.number}${next ? ` to ${next}` : ''}`}
      wide
      command={command}
      button={next ? `Start revision ${next}` : 'Start revision'}
      ready={!outside || upload !== null}
      onSubmit={() =>
        command.mutate({
          params: { document: page.id },
          body: {
            seen: page.stateTag,
            changeKind: kind,
            reason,
            summary,
            uploadId: outside ? (upload?.id ?? null) : null,
            label: ahead.by === 'maker' ? label : null,
            ...(stages[stage] ? { toStage: stages[stage].stage } : {}),
          },
        })
      }
      onClose={close}
    >
      <fieldset>
        <legend className="cap">Change kind</legend>
        <div className="grid grid-cols-3 gap-2">
          {KINDS.map((k) => (
            <Choice
              key={k.kind}
              name="kind"
              title={k.title}
              about={k.about}
              checked={kind === k.kind}
              onChange={() => setKind(k.kind)}
            />
          ))}
        </div>
      </fieldset>
      {stages.length > 1 && (
        <fieldset>
          <legend className="cap">Revision label</legend>
          <div className="grid grid-cols-3 gap-2">
            {stages.map((s, i) => (
              <Choice
                key={s.label}
                name="stage"
                title={s.label}
                about={i === 0 ? 'the next in this stage' : 'starts a later stage; you cannot go back'}
                checked={stage === i}
                onChange={() => setStage(i)}
              />
            ))}
          </div>
        </fieldset>
      )}
      <TextField
        label="Reason"
        required
        value={reason}
        onChange={(event) => setReason(event.target.value)}
        hint="Shown with the signatures and in the history"
      />
      <TextArea
        label="Summary of the changes, for readers"
        optional
        rows={2}
        value={summary}
        onChange={(event) => setSummary(event.target.value)}
      />
      {ahead.by === 'maker' && (
        <TextField
          label="Supplier's revision"
          required
          value={label}
          onChange={(event) => setLabel(event.target.value)}
        />
      )}
      <fieldset>
        <legend className="cap">Start from</legend>
        <div className="grid grid-cols-2 gap-2">
          <Choice
            name="from"
            title={`The file of ${page.inForce?.label || page.revision.label || 'the last revision'}`}
            about="to be checked out and edited"
            checked={!outside}
            onChange={() => setOutside(false)}
          />
          <Choice
            name="from"
            title="A new file"
            about="also in another format, such as PDF instead of Word"
            checked={outside}
            onChange={() => setOutside(true)}
          />
        </div>
      </fieldset>
      {outside && <FileDrop label="New file" value={upload} onChange={setUpload} />}
    </FormDialog>
  );
};
