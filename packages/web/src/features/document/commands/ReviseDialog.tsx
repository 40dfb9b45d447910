import { api, type DocumentPage, type NewNote, type Upload } from '@kanonos/contract';
import { useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { useCommand } from '../../../app/useCommand.ts';
import { workAddress } from '../../../ui/addresses.ts';
import { Choice, TextArea, TextField } from '../../../ui/controls.tsx';
import { FileDrop } from '../../../ui/FileDrop.tsx';
import { FormDialog } from '../../../ui/FormDialog.tsx';
import { ReasonField } from '../../../ui/ReasonField.tsx';
import { ChangeNoteField } from '../../changes/ChangeNoteField.tsx';
import { wording } from '../wording.ts';

const KINDS = [
  { kind: 'major', title: wording.major, about: wording.whatPeopleMustDoOrKnow },
  { kind: 'minor', title: wording.minor, about: wording.aSmallChangeOfContent },
  { kind: 'editorial', title: wording.editorial, about: wording.wordingAndLayoutOnly },
] as const;

/** Begins the next revision: how large the change is, why, and from which file. */
export const ReviseDialog = ({ page, close }: { page: DocumentPage; close: () => void }) => {
  // A review that asks for a change leads here with what it said.
  const [asked] = useSearchParams();
  const [kind, setKind] = useState<'major' | 'minor' | 'editorial'>(asked.get('kind') === 'minor' ? 'minor' : 'major');
  const [reason, setReason] = useState(asked.get('reason') ?? '');
  const [summary, setSummary] = useState('');
  const [outside, setOutside] = useState(false);
  const [upload, setUpload] = useState<Upload | null>(null);
  const [label, setLabel] = useState('');
  const [note, setNote] = useState('');
  const [newNote, setNewNote] = useState<NewNote | null>(null);
  const navigate = useNavigate();
  const command = useCommand(
    api.documents.revise,
    ({ label: begun }) => wording.revisionStartedAsADraft(begun),
    () => void navigate(workAddress(page.number)),
  );
  const ahead = page.labelsAhead;
  const [stage, setStage] = useState(0);
  const stages = ahead.by === 'stage' ? ahead.stages : [];
  const next = ahead.by === 'change kind' ? ahead.labels[kind] : ahead.by === 'stage' ? stages[stage]?.label : label;
  return (
    <FormDialog
      title={wording.reviseNumberPart(page.number, next ? wording.toNext(next) : '')}
      wide
      command={command}
      button={next ? wording.startRevision(next) : wording.startRevision2}
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
            ...(newNote ? { newNote } : { changeNote: note || null }),
            ...(stages[stage] ? { toStage: stages[stage].stage } : {}),
          },
        })
      }
      onClose={close}
    >
      <fieldset>
        <legend className="cap">{wording.changeKind}</legend>
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
          <legend className="cap">{wording.revisionLabel}</legend>
          <div className="grid grid-cols-3 gap-2">
            {stages.map((s, i) => (
              <Choice
                key={s.label}
                name="stage"
                title={s.label}
                about={i === 0 ? wording.theNextInThisStage : wording.startsALaterStageYouCannot}
                checked={stage === i}
                onChange={() => setStage(i)}
              />
            ))}
          </div>
        </fieldset>
      )}
      <ReasonField oneLine value={reason} onChange={setReason} hint={wording.shownWithTheSignaturesAndIn} />
      <ChangeNoteField number={page.number} value={note} onChange={setNote} newNote={newNote} onNewNote={setNewNote} />
      <TextArea label={wording.summaryOfTheChangesForReaders} optional rows={2} value={summary} onChange={setSummary} />
      {ahead.by === 'maker' && (
        <TextField label={wording.suppliersRevision} required value={label} onChange={setLabel} />
      )}
      <fieldset>
        <legend className="cap">{wording.startFrom}</legend>
        <div className="grid grid-cols-2 gap-2">
          <Choice
            name="from"
            title={wording.theFileOf(page.inForce?.label || page.revision.label || wording.theLastRevision)}
            about={wording.toBeCheckedOutAndEdited}
            checked={!outside}
            onChange={() => setOutside(false)}
          />
          <Choice
            name="from"
            title={wording.aNewFile}
            about={wording.alsoInAnotherFormatSuchAs}
            checked={outside}
            onChange={() => setOutside(true)}
          />
        </div>
      </fieldset>
      {outside && <FileDrop label={wording.newFile} value={upload} onChange={setUpload} />}
    </FormDialog>
  );
};
