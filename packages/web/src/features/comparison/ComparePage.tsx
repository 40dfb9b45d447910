import { api, type ComparedSide } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { ArrowLeftRight } from 'lucide-react';
import { Link, useParams, useSearchParams } from 'react-router';
import { addressOf, ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { workAddress } from '../../ui/addresses.ts';
import { showInstantDay } from '../../ui/format.ts';
import { Empty, Failed, Loading } from '../../ui/states.tsx';
import { ComparisonView } from './ComparisonView.tsx';
import { ReportButton } from './report/ReportButton.tsx';
import { sideName } from './sides.ts';
import { useComparison } from './useComparison.ts';
import { wording } from './wording.ts';

/** Any two versions of a document beside each other; the address carries the pair, so that it can be shared. */
export const ComparePage = () => {
  const { number = '' } = useParams();
  const [params, setParams] = useSearchParams();
  const me = useMe();
  const { data, error, isPending, refetch } = useQuery(ask(api.comparison.sides, { params: { document: number } }));
  const versions = { old: params.get('old') ?? data?.usual?.old, new: params.get('new') ?? data?.usual?.new };
  const files = { old: params.get('oldFile') ?? undefined, new: params.get('newFile') ?? undefined };
  const comparison = useComparison(versions, files);
  if (isPending) return <Loading what={wording.theVersions} />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  const set = (change: Record<string, string | undefined>) =>
    setParams(
      (before) => {
        const next = new URLSearchParams(before);
        for (const [key, value] of Object.entries({ ...versions, ...change })) {
          if (value === undefined) next.delete(key);
          else next.set(key, value);
        }
        return next;
      },
      { replace: true },
    );
  const choice = (side: 'old' | 'new') => (
    <SideChoice
      label={side === 'old' ? wording.from : wording.to}
      sides={data.sides}
      value={versions[side] ?? ''}
      zone={me.organisation.zone}
      onChange={(id) => set({ [side]: id, [`${side}File`]: undefined })}
      files={comparison[side]?.files ?? []}
      file={comparison[side]?.fileId ?? ''}
      onFile={(id) => set({ [`${side}File`]: id })}
    />
  );
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="flex flex-wrap items-end gap-x-3 gap-y-2 border-b border-line px-5 py-2">
        <div className="min-w-0 flex-1 basis-48">
          <Link className="num inline-block min-h-6 hover:underline" to={workAddress(data.document.number)}>
            {data.document.number}
          </Link>
          <h1 className="truncate !text-[16px]">{data.document.title}</h1>
        </div>
        {choice('old')}
        <button
          type="button"
          className="btn"
          aria-label={wording.swapSides}
          title={wording.swapSides}
          onClick={() => set({ old: versions.new, new: versions.old, oldFile: files.new, newFile: files.old })}
        >
          <ArrowLeftRight size={14} aria-hidden />
        </button>
        {choice('new')}
        {versions.old && versions.new && (
          <a
            className="btn print:hidden"
            title={wording.bothVersionsAsAZipFor}
            href={addressOf(api.comparison.pair, { version: versions.new }, { old: versions.old })}
          >
            {wording.downloadBothFiles}
          </a>
        )}
        <ReportButton comparison={comparison} title={data.document.title} />
      </div>
      {versions.old && versions.new ? (
        <ComparisonView key={`${versions.old} ${versions.new}`} comparison={comparison} />
      ) : (
        <Empty title={wording.onlyOneVersionSoFar}>{wording.changesAppearHereOnceThereIs}</Empty>
      )}
    </div>
  );
};

const SideChoice = ({
  label,
  sides,
  value,
  zone,
  onChange,
  files,
  file,
  onFile,
}: {
  label: string;
  sides: readonly ComparedSide[];
  value: string;
  zone: string;
  onChange: (versionId: string) => void;
  files: readonly { id: string; name: string }[];
  file: string;
  onFile: (fileId: string) => void;
}) => (
  <div className="flex gap-1 max-md:w-full max-md:[&>label]:flex-1 max-md:[&_select]:w-full">
    <label>
      <span className="cap block">{label}</span>
      <select className="inp !min-h-7 !w-60 !py-0.5" value={value} onChange={(event) => onChange(event.target.value)}>
        {!sides.some((side) => side.versionId === value) && (
          <option value={value}>{wording.fromAnotherDocument}</option>
        )}
        {sides.map((side) => (
          <option key={side.versionId} value={side.versionId}>
            {sideName(side)}, {side.state}, {showInstantDay(side.at, zone)}
          </option>
        ))}
      </select>
    </label>
    {files.length > 1 && (
      <label>
        <span className="cap block">{wording.file}</span>
        <select className="inp !min-h-7 !w-32 !py-0.5" value={file} onChange={(event) => onFile(event.target.value)}>
          {files.map((one) => (
            <option key={one.id} value={one.id}>
              {one.name}
            </option>
          ))}
        </select>
      </label>
    )}
  </div>
);
