import { api, type RecordLine } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { ExportMenu, listOf } from '../../ui/ExportMenu.tsx';
import { showInstant } from '../../ui/format.ts';
import { Page } from '../../ui/Page.tsx';
import { Empty, Failed, Loading } from '../../ui/states.tsx';
import { wording } from './wording.ts';

/** Forms to fill in, one's drafts, and the records that one sent or gets. */
export const FormsPage = () => {
  const { zone } = useMe().organisation;
  const { data, error, isPending, refetch } = useQuery(ask(api.forms.offered));
  if (isPending) return <Loading what={wording.theForms} />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  const { forms, drafts, records } = data;
  return (
    <Page
      title={wording.forms}
      about={wording.about}
      actions={
        records.length > 0 && (
          <ExportMenu
            list={listOf(wording.records, records, [
              [wording.number, ({ number }) => number ?? ''],
              [wording.form, ({ form }) => form.name],
              [wording.first, ({ first }) => first],
              [wording.sent, ({ by, sentAt }) => wording.sentBy(by.name, sentAt ? showInstant(sentAt, zone) : '')],
            ])}
          />
        )
      }
    >
      {forms.length + drafts.length + records.length === 0 ? (
        <Empty title={wording.noForms}>{wording.noFormsHint}</Empty>
      ) : (
        <div className="grid grid-cols-[minmax(0,1fr)_minmax(0,2fr)] items-start gap-5 max-lg:grid-cols-1">
          <div className="flex flex-col gap-5">
            <section className="pane" aria-label={wording.toFillIn}>
              <h2 className="border-b border-line bg-film-2 px-3 py-1.5">{wording.toFillIn}</h2>
              <ul>
                {forms.map((form) => (
                  <li key={form.id} className="border-b border-line-2 px-3 py-2 last:border-0">
                    <Link
                      className="link font-semibold"
                      to={`/forms/${form.id}`}
                      aria-label={wording.fillIn(form.name)}
                    >
                      {form.name}
                    </Link>
                    <p className="text-[12.5px] text-ink-2">{form.about}</p>
                  </li>
                ))}
              </ul>
            </section>
            <section className="pane" aria-label={wording.drafts}>
              <h2 className="border-b border-line bg-film-2 px-3 py-1.5">{wording.drafts}</h2>
              {drafts.length === 0 ? (
                <p className="px-3 py-2 text-ink-2">{wording.noDrafts}</p>
              ) : (
                <ul>
                  {drafts.map((draft) => (
                    <li key={draft.id} className="border-b border-line-2 px-3 py-2 last:border-0">
                      <Link
                        className="link font-semibold"
                        to={draftAddress(draft)}
                        aria-label={wording.goOnWith(draft.form.name)}
                      >
                        {draft.form.name}
                      </Link>
                      <p className="text-[12.5px] text-ink-2">
                        {draft.document && `${draft.document.number} · `}
                        {wording.keptOn(showInstant(draft.savedAt, zone))}
                      </p>
                    </li>
                  ))}
                </ul>
              )}
            </section>
          </div>
          <section className="pane" aria-label={wording.records}>
            <h2 className="border-b border-line bg-film-2 px-3 py-1.5">{wording.records}</h2>
            {records.length === 0 ? (
              <p className="px-3 py-2 text-ink-2">{wording.noRecords}</p>
            ) : (
              <ul>
                {records.map((record) => (
                  <RecordRow key={record.id} record={record} zone={zone} />
                ))}
              </ul>
            )}
          </section>
        </div>
      )}
    </Page>
  );
};

const draftAddress = (draft: RecordLine): string =>
  `/forms/${draft.form.id}?draft=${draft.id}${draft.document ? `&document=${encodeURIComponent(draft.document.number)}` : ''}`;

const RecordRow = ({ record, zone }: { record: RecordLine; zone: string }) => (
  <li className="grid grid-cols-[140px_minmax(0,1fr)_auto] gap-x-3 border-b border-line-2 px-3 py-1.5 last:border-0 max-md:grid-cols-1">
    <Link className="link num" to={`/records/${record.id}`}>
      {record.number}
    </Link>
    <span className="min-w-0">
      <b className="font-semibold">{record.form.name}</b>
      {record.document && <span className="num text-ink-2"> {record.document.number}</span>}
      <span className="block truncate text-ink-2">{record.first}</span>
    </span>
    <span className="text-[12px] text-ink-2">
      {wording.sentBy(record.by.name, record.sentAt ? showInstant(record.sentAt, zone) : '')}
    </span>
  </li>
);
