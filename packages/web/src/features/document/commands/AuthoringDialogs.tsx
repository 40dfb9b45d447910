import { api, type DocumentPage, type FileInfo, type Upload } from '@kanonos/contract';
import type { FieldValue } from '@kanonos/core';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { addressOf, call, Problem } from '../../../app/client.ts';
import { useMe } from '../../../app/session.tsx';
import { useCommand } from '../../../app/useCommand.ts';
import { Choice, TextArea, TextField } from '../../../ui/controls.tsx';
import { DateField } from '../../../ui/DateField.tsx';
import { FormDialog } from '../../../ui/FormDialog.tsx';
import { showInstant, showSize } from '../../../ui/format.ts';
import { Tick } from '../../../ui/Tick.tsx';
import { SuggestChangeDialog } from '../../changes/SuggestChangeDialog.tsx';
import { OrderRevisionDialog } from '../../orders/GiveOrderDialog.tsx';
import { SignOutsideDialog } from '../../rounds/adHoc/SignOutsideDialog.tsx';
import { StartRoundDialog } from '../../rounds/adHoc/StartRoundDialog.tsx';
import { BringSignedDialog, SendToSignDialog } from '../../signedOutside/SignedOutsideDialogs.tsx';
import { DrawingReferences } from '../DrawingReferences.tsx';
import { fileDifferences } from '../fileDifferences.ts';
import { MetadataFields } from '../MetadataFields.tsx';
import { MoreOriginals, OriginalFacts } from '../MoreOriginals.tsx';
import { type MetadataValues, toMetadata, toValues } from '../metadataValues.ts';
import { OriginalField } from '../OriginalField.tsx';
import { EMPTY_ROW, keptRow, type OriginalRow, toFacts } from '../originals.ts';
import { useFileMatch } from '../useFileMatch.ts';
import { wording } from '../wording.ts';
import { AddSupportingFile, OnDrive } from './DriveDialogs.tsx';
import { FileDifferences } from './FileDifferences.tsx';
import { useOpenCommand } from './openCommand.ts';

/** Check out, check in, discard a check-out. */
export const AuthoringDialogs = ({
  page,
  command,
  close,
}: {
  page: DocumentPage;
  command: string | null;
  close: () => void;
}) => (
  <>
    {command === 'check out' && <CheckOut page={page} close={close} />}
    {command === 'check in' && <CheckIn page={page} close={close} />}
    {command === 'discard check-out' && <DiscardCheckout page={page} close={close} />}
    {command === 'on the network drive' && <OnDrive page={page} close={close} />}
    {command === 'start a round' && <StartRoundDialog page={page} close={close} />}
    {command === 'sign outside a round' && <SignOutsideDialog page={page} close={close} />}
    {command === 'add a PDF signed outside' && <BringSignedDialog page={page} close={close} />}
    {command === 'send to be signed outside' && <SendToSignDialog page={page} close={close} />}
    {command === 'order a revision' && <OrderRevisionDialog page={page} close={close} />}
    {command === 'suggest a change' && <SuggestChangeDialog page={page} close={close} />}
    {command === 'add supporting file' && <AddSupportingFile page={page} close={close} />}
  </>
);

type How = 'file' | 'browser' | 'drive' | 'none';
const HOWS: readonly [How, string, string][] = [
  ['file', wording.downloadTheFile, wording.youGetTheFileNowAnd],
  ['browser', wording.editInTheBrowser, wording.savedAsYouTypeVisibleTo],
  ['drive', wording.useTheNetworkDrive, wording.openedAndSavedByYourDesktop],
  ['none', wording.reserveOnly, wording.noFileIsHandedOut],
];

/** Hands the originals out under their rule-made names: one as it is, several in one package. */
const handOut = async (documentId: string, fileIds: readonly string[]) => {
  const [file, second] = fileIds;
  if (!file) return;
  if (!second) return location.assign(addressOf(api.documents.file, { file }, { as: 'download' }));
  const { id } = await call(api.bulk.downloadPackage, { body: { ids: [documentId], filter: null, content: 'work' } });
  location.assign(addressOf(api.bulk.fetchDownloadPackage, { id }));
};

const CheckOut = ({ page, close }: { page: DocumentPage; close: () => void }) => {
  const [note, setNote] = useState('');
  const [back, setBack] = useState('');
  const navigate = useNavigate();
  const openCommand = useOpenCommand();
  const originals = page.versions[0]?.files.filter((file) => file.role === 'original') ?? [];
  const isText = /^text\//.test(page.versions[0]?.files[0]?.mediaType ?? '');
  const [how, setHow] = useState<How>('file');
  const command = useCommand(api.documents.checkOut, wording.isCheckedOutToYou(page.number), ({ fileIds }) => {
    if (how === 'browser') return void navigate(`/d/${encodeURIComponent(page.number)}/edit`);
    if (how === 'drive') return openCommand('on the network drive');
    if (how === 'file') void handOut(page.id, fileIds);
    close();
  });
  return (
    <FormDialog
      title={wording.checkOut(page.number)}
      about={
        <>
          <p>{wording.nobodyElseCanChangeTheDocument}</p>
          {how === 'file' && originals.length > 0 && (
            <p className="text-ink-2">
              {originals.length === 1 ? wording.file2 : wording.filesInOnePackage}{' '}
              <span className="num">{originals.map((file) => file.handedOutName).join(', ')}</span>
            </p>
          )}
        </>
      }
      command={command}
      button={wording.checkOut2}
      onSubmit={() =>
        command.mutate({
          params: { document: page.id },
          body: { seen: page.stateTag, note, expectedBack: back || null },
        })
      }
      onClose={close}
    >
      <fieldset>
        <legend className="cap">{wording.howYouWantToWork}</legend>
        {HOWS.filter(([value]) => value !== 'browser' || isText).map(([value, title, about]) => (
          <Choice
            key={value}
            name="how"
            title={title}
            about={about}
            checked={how === value}
            onChange={() => setHow(value)}
          />
        ))}
      </fieldset>
      <TextField label={wording.purpose} optional value={note} onChange={setNote} />
      <DateField label={wording.expectedBack} optional value={back} onChange={setBack} />
    </FormDialog>
  );
};

const CheckIn = ({ page, close }: { page: DocumentPage; close: () => void }) => {
  const me = useMe();
  const [main, ...others] = (page.versions[0]?.files ?? []).filter((file) => file.role === 'original');
  const [upload, setUpload] = useState<Upload | null>(null);
  const [name, setName] = useState('');
  const [original, setOriginal] = useState<OriginalRow>(() => (main ? keptRow(main) : EMPTY_ROW));
  const [more, setMore] = useState<OriginalRow[]>(() => others.map(keptRow));
  const [note, setNote] = useState('');
  const [corrected, setCorrected] = useState<Corrected>(() => ({
    title: page.revision.title,
    summary: page.revision.summary,
    metadata: toValues(page.metadata),
  }));
  const [submitForReview, setSubmitForReview] = useState(false);
  const openCommand = useOpenCommand();
  // Submitting has a dialog of its own. It opens once the version exists.
  const command = useCommand(
    api.documents.checkIn,
    ({ version }) => wording.versionIsCheckedIn(version),
    () => (submitForReview ? openCommand('submit') : close()),
  );
  const same = command.error instanceof Problem && command.error.code === 'same_content';
  const otherwise = fileDifferences(page, useFileMatch(upload)?.named ?? {});
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const taken = Object.fromEntries(otherwise.filter(({ key }) => !left.has(key)).map(({ key, value }) => [key, value]));
  const submit = (sameContentMeant: boolean) =>
    command.mutate({
      params: { document: page.id },
      body: {
        seen: page.stateTag,
        uploadId: upload?.id ?? null,
        ...(name && upload ? { name } : {}),
        about: toFacts(original),
        more: more
          .filter((row) => row.upload || row.kept)
          .map((row) => ({
            ...toFacts(row),
            ...(row.upload ? { uploadId: row.upload.id } : { keep: row.kept?.id ?? '' }),
          })),
        note,
        title: typeof taken.title === 'string' ? taken.title : corrected.title,
        summary: corrected.summary,
        metadata: { ...toMetadata(page.fields, corrected.metadata), ...withoutTitle(taken) },
        sameContentMeant,
      },
    });
  return (
    <FormDialog
      title={wording.checkIn(page.number)}
      wide
      command={command}
      button={wording.checkIn2}
      more={
        same && (
          <button type="button" className="btn" disabled={command.isPending} onClick={() => submit(true)}>
            {wording.checkInUnchangedContent}
          </button>
        )
      }
      onSubmit={() => submit(false)}
      onClose={close}
    >
      {page.checkout && (
        <p className="text-ink-2">
          {wording.checkedOutSinceThisCreatesVersion(
            showInstant(page.checkout.since, me.organisation.zone),
            page.revision.versions + 1,
          )}
        </p>
      )}
      {page.checkout?.saved && !upload && (
        <p className="border-l-3 border-petrol bg-petrol-tint px-2.5 py-1.5">
          <b className="font-semibold">{wording.savedOnTheNetworkDrive}</b>{' '}
          {wording.thisFileIsCheckedInUnless(
            showInstant(page.checkout.saved.at, me.organisation.zone),
            showSize(page.checkout.saved.size),
          )}
        </p>
      )}
      <OriginalField
        label={page.checkout?.saved ? wording.useAnotherFile : wording.theChangedFile}
        value={upload}
        onChange={setUpload}
      />
      {upload && <DrawingReferences upload={upload} />}
      <FileDifferences found={otherwise} left={left} onLeft={setLeft} />
      {upload && main && upload.name !== main.name && !page.followsNamingRule.holds && (
        <StoredName main={main} uploaded={upload.name} name={name} onChange={setName} />
      )}
      <TextArea label={wording.noteOnThisVersion} required rows={2} value={note} onChange={setNote} />
      {page.hasRoute && page.revision.state === 'draft' && (
        <Tick checked={submitForReview} onChange={setSubmitForReview}>
          {wording.thenSubmitItForReview}
        </Tick>
      )}
      <details open={more.length > 0}>
        <summary className="cursor-pointer font-[550] text-petrol">
          {more.length ? wording.theOtherOriginals(more.length) : wording.moreOriginalsOrSheets}
        </summary>
        <div className="mt-2 flex flex-col gap-2">
          {more.length > 0 && (
            <div className="border-l-3 border-line pl-2.5">
              <span className="cap mb-1 block">
                {wording.original1} {upload?.name ?? main?.name}
              </span>
              <OriginalFacts name="original 1" value={original} onChange={setOriginal} />
            </div>
          )}
          <MoreOriginals rows={more} onChange={setMore} />
        </div>
      </details>
      <AlsoCorrect page={page} value={corrected} onChange={setCorrected} />
    </FormDialog>
  );
};

/** Under which name a file is kept whose name is another one than that of the version before. */
const StoredName = ({
  main,
  uploaded,
  name,
  onChange,
}: {
  main: FileInfo;
  uploaded: string;
  /** Empty: as it was uploaded. */
  name: string;
  onChange: (name: string) => void;
}) => (
  <TextField
    label={wording.storedName}
    value={name || uploaded}
    maxLength={200}
    onChange={onChange}
    hint={
      <span className="flex flex-wrap items-center gap-1.5">
        {wording.theFileHasAnotherNameOther}
        {[...new Set([main.name, main.handedOutName, uploaded])]
          .filter((one) => one !== (name || uploaded))
          .map((one) => (
            <button key={one} type="button" className="btn !h-6" onClick={() => onChange(one)}>
              {one}
            </button>
          ))}
      </span>
    }
  />
);

type Corrected = { title: string; summary: string; metadata: MetadataValues };

/** Title, summary and metadata, folded: most check-ins leave them as they are. */
const AlsoCorrect = ({
  page,
  value,
  onChange,
}: {
  page: DocumentPage;
  value: Corrected;
  onChange: (value: Corrected) => void;
}) => (
  <details>
    <summary className="cursor-pointer font-[550] text-petrol">{wording.alsoCorrectTitleSummaryOrMetadata}</summary>
    <div className="mt-2 grid grid-cols-2 gap-3">
      <TextField
        wide
        label={wording.title}
        required
        value={value.title}
        onChange={(text) => onChange({ ...value, title: text })}
      />
      <TextArea
        wide
        label={wording.summaryOfTheRevisionForReaders}
        value={value.summary}
        rows={2}
        onChange={(text) => onChange({ ...value, summary: text })}
      />
      <MetadataFields
        fields={page.fields}
        values={value.metadata}
        onChange={(metadata) => onChange({ ...value, metadata })}
        names={page.fieldNames}
      />
    </div>
  </details>
);

const withoutTitle = ({ title: _, ...metadata }: Record<string, FieldValue>): Record<string, FieldValue> => metadata;

const DiscardCheckout = ({ page, close }: { page: DocumentPage; close: () => void }) => {
  const command = useCommand(api.documents.discardCheckout, wording.checkOutDiscarded, close);
  return (
    <FormDialog
      title={wording.discardTheCheckOutOf(page.number)}
      about={<p>{wording.othersCanCheckItOutAgain}</p>}
      command={command}
      button={wording.discard}
      leave={wording.keepCheckOut}
      onSubmit={() => command.mutate({ params: { document: page.id }, body: { seen: page.stateTag } })}
      onClose={close}
    />
  );
};
