import { api, type RegisterRow } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { addressOf, ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { count } from '../../ui/format.ts';
import { Loading } from '../../ui/states.tsx';
import { toast } from '../../ui/toast.ts';
import { wording as ui } from '../../ui/wording.ts';
import { nextSentence } from '../document/sentences.ts';
import { SmallPicture } from '../viewer/SmallPicture.tsx';
import { wording } from './wording.ts';

/** The row under the cursor: title block, what waits for whom, what changed, the beginning of its text. */
export const PreviewPane = ({ row, address }: { row: RegisterRow | undefined; address: string }) => {
  const me = useMe();
  const { data, isPending } = useQuery({
    ...ask(api.find.preview, { params: { document: row?.documentId ?? '' }, query: { revision: row?.revisionId } }),
    enabled: row !== undefined,
    placeholderData: (before) => before,
  });
  if (!row) return <aside aria-label={wording.preview} className="border-l border-line" />;
  if (isPending || !data)
    return (
      <aside aria-label={wording.preview} className="border-l border-line">
        <Loading what={wording.thePreview} />
      </aside>
    );
  const sentence = data.next && nextSentence(data.next, me.organisation.zone);
  return (
    <aside
      aria-label={wording.preview}
      className="flex min-h-0 flex-col gap-2.5 overflow-y-auto border-l border-line p-3"
    >
      <div className="tb grid-cols-[1fr_62px]">
        <div className="border-r border-b border-line">
          <span className="cap">{wording.number}</span>
          <b className="num !text-[13px]">{data.number}</b>
        </div>
        <div className="border-b border-line">
          <span className="cap">{wording.rev}</span>
          <b className={`num truncate ${data.label.length > 4 ? '!text-[10px]' : '!text-[15px]'}`}>
            {data.label || '–'}
          </b>
        </div>
        <div className="col-span-2 border-b border-line">
          <span className="cap">{wording.title}</span>
          <b>{data.title}</b>
        </div>
        <div className="border-r border-line">
          <span className="cap">{wording.owner}</span>
          <b>{data.owner.name}</b>
        </div>
        <div>
          <span className="cap">{wording.now}</span>
          <b>{data.now ?? '–'}</b>
        </div>
      </div>
      {sentence && (
        <div className="border-l-3 border-ochre bg-ochre-tint px-2.5 py-1.5 text-[12.5px]">
          <b className="font-semibold">{sentence.lead}</b> {sentence.rest}
        </div>
      )}
      {data.mark === 'on hold' && (
        <p className="border-2 border-vermilion bg-vermilion-tint px-3 py-1.5 font-semibold text-vermilion">
          {ui.onHoldDoNotUse}
        </p>
      )}
      {(data.summary || data.reason || data.metadata.length > 0) && (
        <section>
          <h2 className="cap mb-1">{data.from ? wording.changedSince(data.from) : wording.summary}</h2>
          {data.summary && <p>{data.summary}</p>}
          {data.metadata.map((field) => (
            <p key={field.label} className="text-[12.5px]">
              {field.label}: <del className="text-vermilion">{field.before}</del> →{' '}
              <b className="font-semibold">{field.after}</b>
            </p>
          ))}
          {data.reason && (
            <p className="mt-0.5 text-[12.5px] text-ink-2">
              {wording.reasonReasonChangeKind(data.reason, data.changeKind)}
            </p>
          )}
        </section>
      )}
      {data.readers.owed > 0 && (
        <section>
          <h2 className="cap mb-1">{wording.readers}</h2>
          <p>{wording.signedOf(count(data.readers.done, wording.personHas, wording.peopleHave), data.readers.owed)}</p>
        </section>
      )}
      {data.smallOf && (
        <SmallPicture
          key={data.smallOf}
          address={addressOf(api.viewing.small, { file: data.smallOf })}
          name={data.number}
        />
      )}
      {data.passageHtml ? (
        <article
          className="reading max-h-40 overflow-hidden border border-line bg-sheet px-3 py-2.5 !text-[10px] [&_h1]:!text-[12px] [&_h2]:!mt-1.5 [&_h2]:!text-[11px] [&_h3]:!text-[10.5px]"
          // biome-ignore lint/security/noDangerouslySetInnerHtml: the server cleans it: structure and words alone
          dangerouslySetInnerHTML={{ __html: data.passageHtml }}
        />
      ) : (
        data.passage && (
          <div className="max-h-40 overflow-hidden border border-line bg-sheet px-3 py-2.5 text-[9.5px] leading-[1.45] whitespace-pre-line text-[#33474f]">
            {data.passage}
          </div>
        )
      )}
      <div className="mt-auto flex gap-1.5 pt-2">
        <Link to={address} className="btn btn-pri">
          {wording.open}
        </Link>
        <button
          type="button"
          className="btn"
          onClick={() =>
            void navigator.clipboard
              ?.writeText(new URL(address, location.href).href)
              .then(() => toast.success(wording.addressCopied))
          }
        >
          {wording.copyLink}
        </button>
      </div>
    </aside>
  );
};
