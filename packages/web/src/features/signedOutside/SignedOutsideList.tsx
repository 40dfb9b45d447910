import { api, type DocumentPage, type FoundSignature, type SignedOutside } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { addressOf, ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { useCommand } from '../../app/useCommand.ts';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { showInstant } from '../../ui/format.ts';
import { ReasonField } from '../../ui/ReasonField.tsx';
import { wording } from './wording.ts';

/** What of a document people outside signed, or are asked to sign; nothing where there is none. */
export const SignedOutsideList = ({ page }: { page: DocumentPage }) => {
  const { zone } = useMe().organisation;
  const { data } = useQuery(ask(api.signedOutside.list, { params: { document: page.id } }));
  const [cancelling, setCancelling] = useState<SignedOutside | null>(null);
  const items = (data?.items ?? []).filter(({ label }) => label === page.revision.label);
  if (items.length === 0) return null;
  return (
    <section>
      <h2>{wording.signedOutside}</h2>
      <ul className="flex flex-col gap-2">
        {items.map((item) => (
          <li key={item.id} className="border border-line px-2.5 py-1.5">
            <Item item={item} zone={zone} cancel={() => setCancelling(item)} />
          </li>
        ))}
      </ul>
      {cancelling && <CancelRequest page={page} item={cancelling} close={() => setCancelling(null)} />}
    </section>
  );
};

const Item = ({ item, zone, cancel }: { item: SignedOutside; zone: string; cancel: () => void }) => {
  const when = showInstant(item.at, zone);
  return (
    <>
      <div className="flex flex-wrap items-baseline justify-between gap-2">
        <span>
          {item.file ? (
            <a className="link font-semibold" href={addressOf(api.signedOutside.file, { id: item.id })}>
              {item.file}
            </a>
          ) : (
            <b className="font-semibold">{standingOf(item)}</b>
          )}{' '}
          <span className="text-ink-2">
            {item.how === 'sent' ? wording.sentBy(item.by.name, when) : wording.broughtBy(item.by.name, when)}
          </span>
        </span>
        {item.mayCancel && (
          <button type="button" className="btn !h-6" onClick={cancel}>
            {wording.cancel}
          </button>
        )}
      </div>
      {item.note && <p className="text-ink-2">“{item.note}”</p>}
      {item.why && <p className="text-ink-2">{item.why}</p>}
      {item.state === 'waiting' && (
        <ul>
          {item.signers.map(({ name, signedAt, address }) => (
            <li key={name}>
              {signedAt ? (
                wording.hasSigned(name, showInstant(signedAt, zone))
              ) : address ? (
                <a className="link" href={address} target="_blank" rel="noreferrer">
                  {wording.signHere(name)}
                </a>
              ) : (
                name
              )}
            </li>
          ))}
        </ul>
      )}
      {item.signatures.map((signature, at) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: signatures of a file are told by their order
        <Found key={at} signature={signature} zone={zone} />
      ))}
    </>
  );
};

const standingOf = ({ state, isSent }: SignedOutside): string => {
  if (state === 'declined') return wording.declined;
  if (state === 'cancelled') return wording.cancelled;
  return isSent ? wording.waiting : wording.waitsForService;
};

/** A signature that was found: unchanged or not, by whom, when by their own word, and whether they are trusted. */
export const Found = ({ signature, zone }: { signature: FoundSignature; zone: string }) => (
  <p className={`mt-1 border-l-3 pl-2 ${signature.intact ? 'border-petrol' : 'border-vermilion text-vermilion'}`}>
    <b className="font-semibold">{wording.signature(signature.by)}</b>,{' '}
    {signature.at ? `${showInstant(signature.at, zone)} ${zone}` : wording.noTime}:{' '}
    {signature.intact ? wording.intact : wording.altered}
    {signature.intact && !signature.coversAll && `; ${wording.addedAfter}`}
    {signature.intact && `; ${signature.trusted ? wording.trusted : wording.notTrusted(signature.issuedBy)}`}
  </p>
);

const CancelRequest = ({ page, item, close }: { page: DocumentPage; item: SignedOutside; close: () => void }) => {
  const [reason, setReason] = useState('');
  const command = useCommand(api.signedOutside.cancel, wording.taken, close);
  return (
    <FormDialog
      title={wording.cancelOf(page.number)}
      about={<p className="text-ink-2">{wording.cancelAbout}</p>}
      command={command}
      button={wording.cancel}
      danger
      onSubmit={() => command.mutate({ params: { id: item.id }, body: { reason } })}
      onClose={close}
    >
      <ReasonField value={reason} onChange={setReason} />
    </FormDialog>
  );
};
