import { api, type ReadingTask } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { useCommand } from '../../app/useCommand.ts';
import { CommandButton, TextArea } from '../../ui/controls.tsx';
import { FileTabs, OpenFirst } from '../../ui/FilesToOpen.tsx';
import { count, fingerprint, showDay, showInstantDay } from '../../ui/format.ts';
import { SignBox } from '../../ui/SignBox.tsx';
import { Failed, Loading, Refusals } from '../../ui/states.tsx';
import { useFilesToOpen } from '../../ui/useFilesToOpen.ts';
import { Signature } from '../document/RoundPanel.tsx';
import { Block, TaskHead } from '../tasks/TaskHead.tsx';
import { FileViewer } from '../viewer/FileViewer.tsx';
import { wording } from './wording.ts';

/** One reading: what is to be read and why, how long it takes, and the signature. */
export const ReadAndSignPage = () => {
  const { id = '' } = useParams();
  const { data, error, isPending, refetch } = useQuery(ask(api.reading.task, { params: { id } }));
  if (isPending) return <Loading what={wording.theReading} />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  return <Read key={data.id} task={data} askAgain={refetch} />;
};

const Read = ({ task, askAgain }: { task: ReadingTask; askAgain: () => void }) => {
  const me = useMe();
  const navigate = useNavigate();
  const [remark, setRemark] = useState('');
  const [sign, setSign] = useState({ name: '', password: '' });
  const command = useCommand(api.reading.sign, wording.signedYouHaveRead(task.document.number, task.label), () =>
    navigate('/'),
  );
  const { chosen, choose, isAllOpened } = useFilesToOpen(task.files, askAgain);
  const file = task.version.files.find((one) => one.id === chosen) ?? task.version.files[0];
  const changes = task.policy === 'read the changes' && task.lastSigned;
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_344px] max-lg:block max-lg:overflow-y-auto">
      <section aria-label={wording.whatToRead} className="flex min-h-0 min-w-0 flex-col max-lg:h-[68vh]">
        <TaskHead
          task={task}
          about={
            task.inForceSince
              ? wording.inForceSince(showInstantDay(task.inForceSince, me.organisation.zone))
              : wording.notYetInForceYouMay
          }
          more={wording.aboutMinutes2(count(task.minutes, 'minute'))}
        />
        <FileTabs files={task.files} chosen={file?.id} onChoose={choose} />
        {file && (
          <FileViewer key={file.id} file={file} mark={task.mark === 'old' ? wording.noLongerInForce : undefined} />
        )}
      </section>
      <aside
        aria-label={wording.yourReading}
        className="flex min-h-0 flex-col border-l border-line bg-sheet max-lg:border-t max-lg:border-l-0"
      >
        <div className="min-h-0 flex-1 overflow-y-auto">
          <Block caption={wording.youAreAskedTo}>
            <h1 className="!text-[16px]">{changes ? wording.readTheChangesAndSign : wording.readAndSign}</h1>
            <p className={task.state === 'overdue' ? 'text-vermilion' : 'text-ink-2'}>
              {wording.partDueAboutMinutes(
                task.state === 'overdue' ? wording.wasDue : 'due',
                showDay(task.due),
                count(task.minutes, 'minute'),
              )}
              {task.newJoiner && wording.newToYou}
            </p>
            {task.instructions && <p className="mt-1">“{task.instructions}”</p>}
          </Block>
          {(task.summary || task.reason || task.changes.length > 0) && (
            <Block
              caption={
                task.lastSigned
                  ? wording.whatChangedSinceWhichYouSigned(
                      task.lastSigned.label,
                      showInstantDay(task.lastSigned.at, me.organisation.zone),
                    )
                  : wording.aboutThisRevision
              }
            >
              {task.summary && <p>{task.summary}</p>}
              {task.changes.map((change) => (
                <p key={change.label} className="text-[12.5px]">
                  {change.label}: <del className="text-vermilion">{change.before}</del> →{' '}
                  <b className="font-semibold">{change.after}</b>
                </p>
              ))}
              {task.reason && <p className="mt-1 text-ink-2">{wording.reasonReason(task.reason)}</p>}
            </Block>
          )}
          {task.signature ? (
            <Block caption={wording.yourSignature}>
              <Signature signature={task.signature} />
              {task.remark && <p>{wording.yourRemark(task.remark)}</p>}
            </Block>
          ) : task.maySign ? (
            <Block caption={wording.whenYouHaveReadIt}>
              <div className="flex flex-col gap-3">
                <TextArea
                  label={wording.remarkTo(task.owner.name)}
                  optional
                  rows={2}
                  placeholder={wording.whatWasUnclearWhatIsMissing}
                  value={remark}
                  onChange={setRemark}
                />
                <SignBox asksForName={task.asksForName} value={sign} onChange={setSign} error={command.error} />
              </div>
            </Block>
          ) : (
            <Block caption={wording.noSignatureIsNeeded}>
              {task.refusals.map((r) => (
                <p key={r.code}>{r.detail}</p>
              ))}
            </Block>
          )}
        </div>
        {task.maySign && (
          <div className="border-t border-line bg-sheet px-3.5 py-2.5 max-lg:sticky max-lg:bottom-0">
            <OpenFirst files={task.files} onChoose={choose} />
            <Refusals error={command.error} />
            <CommandButton
              type="button"
              busy={command.isPending}
              disabled={!sign.password || !isAllOpened}
              className="!h-9 w-full"
              onClick={() =>
                command.mutate({
                  params: { id: task.id },
                  body: {
                    name: task.asksForName ? sign.name : null,
                    password: sign.password,
                    digest: task.digest,
                    remark,
                  },
                })
              }
            >
              {wording.signReadAndUnderstood}
            </CommandButton>
            <p className="mt-1.5 text-[11.5px] text-ink-3">
              {wording.sha256} <span className="num">{fingerprint(task.digest)}</span> · {task.zone}
            </p>
          </div>
        )}
      </aside>
    </div>
  );
};
