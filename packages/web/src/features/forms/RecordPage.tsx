import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { Link, useParams } from 'react-router';
import { addressOf, ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { documentAddress } from '../../ui/addresses.ts';
import { showInstant, showSize } from '../../ui/format.ts';
import { Page } from '../../ui/Page.tsx';
import { Failed, Loading } from '../../ui/states.tsx';
import { AnswersInWords } from './AnswersInWords.tsx';
import { wording } from './wording.ts';

/** A record as it was sent, with its files and as a PDF. */
export const RecordPage = () => {
  const { id = '' } = useParams();
  const { zone } = useMe().organisation;
  const { data, error, isPending, refetch } = useQuery(ask(api.forms.record, { params: { id } }));
  if (isPending) return <Loading what={wording.theRecord} />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  const when = data.sentAt
    ? wording.sentOn(data.by.name, showInstant(data.sentAt, zone))
    : wording.keptBy(data.by.name, showInstant(data.savedAt, zone));
  return (
    <Page
      title={`${data.form.name} ${data.number ?? wording.draft}`}
      about={`${when} · ${wording.version(data.form.version)}`}
      actions={
        <>
          {!data.number && data.mine && (
            <Link className="btn btn-pri" to={`/forms/${data.form.id}?draft=${data.id}`}>
              {wording.goOn}
            </Link>
          )}
          <a className="btn" href={addressOf(api.forms.pdf, { id })} target="_blank" rel="noreferrer">
            {wording.openPdf}
          </a>
        </>
      }
    >
      <div className="flex max-w-3xl flex-col gap-3">
        {data.document && (
          <p>
            <Link className="link" to={documentAddress(data.document.number)}>
              <span className="num">{data.document.number}</span> {data.document.title}
            </Link>
            {data.request && (
              <>
                {' · '}
                <Link className="link" to="/changes?show=requests">
                  {wording.changeRequest(data.request)}
                </Link>
              </>
            )}
          </p>
        )}
        <AnswersInWords sections={data.inWords} />
        {data.files.length > 0 && (
          <section aria-label={wording.files} className="border border-line bg-sheet">
            <h3 className="cap border-b border-line bg-film-2 px-3 py-1.5">{wording.files}</h3>
            <ul>
              {data.files.map((file) => (
                <li key={file.id} className="border-b border-line-2 px-3 py-1.5 last:border-0">
                  <a className="link" href={addressOf(api.forms.file, { id: file.id })}>
                    {file.name}
                  </a>{' '}
                  <span className="text-ink-3">{showSize(file.size)}</span>
                </li>
              ))}
            </ul>
          </section>
        )}
      </div>
    </Page>
  );
};
