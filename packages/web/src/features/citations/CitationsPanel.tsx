import { api, type CitationInfo } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { ask } from '../../app/client.ts';
import { ExportMenu } from '../../ui/ExportMenu.tsx';
import { count } from '../../ui/format.ts';
import { headings } from '../../ui/headings.ts';
import { HoldWords } from '../../ui/marks.tsx';
import { Empty, Failed, Loading } from '../../ui/states.tsx';
import { TabPanel } from '../../ui/TabPanel.tsx';
import { LinksSection } from '../links/LinksSection.tsx';
import { ImpactGraph } from './ImpactGraph.tsx';
import { wording } from './wording.ts';

const KIND: Record<CitationInfo['kind'], { words: string; tone: string }> = {
  self: { words: 'itself', tone: 'text-ink-3' },
  current: { words: 'current', tone: 'text-petrol' },
  ahead: { words: wording.notInForceYet, tone: 'text-ochre' },
  outdated: { words: wording.olderRevision, tone: 'text-vermilion' },
  withdrawn: { words: 'withdrawn', tone: 'text-vermilion' },
  'no such revision': { words: 'no such revision', tone: 'text-vermilion' },
  'never in force': { words: wording.wasNeverInForce, tone: 'text-ochre' },
  'unknown number': { words: wording.noDocumentHasThisNumber, tone: 'text-vermilion' },
};

/** What the text cites and whether that still holds, what cites this document, and what a change of it would reach. */
export const CitationsPanel = ({ number }: { number: string }) => {
  const { data, error, isPending, refetch } = useQuery({
    ...ask(api.citations.ofDocument, { params: { document: number } }),
    refetchInterval: (query) => (query.state.data?.complete === false ? 5000 : false),
  });
  if (isPending) return <Loading what={wording.theCitations} />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  const further = data.reached.filter((one) => one.distance > 1);
  const broken = data.cites.filter((one) => !['self', 'current', 'ahead'].includes(one.kind)).length;
  return (
    <TabPanel label={wording.citations} className="px-3 py-2">
      <LinksSection number={number} />
      {data.cites.length + data.citedBy.length > 0 && (
        <div className="float-right">
          <ExportMenu
            list={{
              name: `${number} ${wording.citations}`,
              headings: [headings.direction, headings.number, headings.revision, headings.title, headings.validity],
              rows: () => [
                ...data.cites.map((one) => [
                  wording.cites,
                  one.number,
                  one.label,
                  one.document?.title ?? '',
                  KIND[one.kind].words,
                ]),
                ...data.citedBy.map((one) => [
                  wording.citedBy,
                  one.number,
                  one.citedLabel,
                  one.title,
                  KIND[one.kind].words,
                ]),
              ],
            }}
          />
        </div>
      )}
      {!data.complete && <p className="mb-2 text-ink-3">{wording.theNewestTextIsStillBeing}</p>}
      <Part
        title={wording.cites}
        about={
          broken
            ? wording.noLongerValid(count(broken, wording.citationIs, wording.citationsAre))
            : data.cites.length
              ? wording.allValid
              : ''
        }
      >
        {data.cites.length === 0 && data.complete && (
          <p className="py-1 text-ink-3">{wording.theTextContainsNoDocumentNumber}</p>
        )}
        {data.cites.map((one) => (
          <Line
            key={`${one.number} ${one.label}`}
            number={one.number}
            label={one.label}
            title={one.document?.title ?? ''}
            linked={one.document !== null}
            onHold={one.document?.onHold ?? false}
            kind={one.kind}
            excerpt={one.excerpt}
            times={one.times}
          />
        ))}
      </Part>
      <Part
        title={wording.citedBy}
        about={data.citedBy.length ? count(data.citedBy.length, 'citation', 'citations') : ''}
      >
        {data.citedBy.length === 0 && <p className="py-1 text-ink-3">{wording.noDocumentYouMaySeeCites}</p>}
        {data.citedBy.map((one) => (
          <Line
            key={`${one.id} ${one.citedLabel}`}
            number={one.number}
            label={one.citedLabel && wording.citesCitedLabel(one.citedLabel)}
            title={one.title}
            linked
            onHold={one.onHold}
            kind={one.kind}
            excerpt={one.excerpt}
            times={1}
          />
        ))}
      </Part>
      {data.edges.length > 0 && (
        <Part title={wording.impactOfAChange} about={count(data.reached.length, 'document', 'documents')}>
          <div className="mt-1.5">
            <ImpactGraph
              number={number}
              edges={data.edges}
              titles={new Map(data.reached.map((one) => [one.number, one.title]))}
            />
          </div>
        </Part>
      )}
      {further.length > 0 && (
        <Part
          title={wording.affectedByAChange}
          about={data.capped ? wording.theNearest(further.length) : count(further.length, 'document')}
        >
          {further.map((one) => (
            <p key={one.id} className="border-b border-line-2 py-1 text-[12.5px] last:border-0">
              <Link className="num mr-2 hover:underline" to={`/d/${encodeURIComponent(one.number)}?tab=citations`}>
                {one.number}
              </Link>
              <b className="font-semibold">{one.title}</b>
              <HoldWords when={one.onHold} />
              <span className="block text-[11.5px] text-ink-3">
                {wording.distanceStepsPath(one.distance, one.path.join(' → '))}
              </span>
            </p>
          ))}
        </Part>
      )}
      {data.cites.length + data.citedBy.length === 0 && data.complete && (
        <Empty title={wording.nothingElseIsAffected}>{wording.numbersFoundInDocumentTextsAre}</Empty>
      )}
    </TabPanel>
  );
};

const Part = ({ title, about, children }: { title: string; about: string; children: ReactNode }) => (
  <section aria-label={title} className="mb-3">
    <div className="flex items-baseline gap-2 border-b border-line pb-1">
      <h2>{title}</h2>
      <span className="text-ink-3">{about}</span>
    </div>
    {children}
  </section>
);

const Line = ({
  number,
  label,
  title,
  linked,
  onHold,
  kind,
  excerpt,
  times,
}: {
  number: string;
  label: string | null;
  title: string;
  linked: boolean;
  onHold: boolean;
  kind: CitationInfo['kind'];
  excerpt: string;
  times: number;
}) => (
  <div className="grid grid-cols-[minmax(0,1fr)_auto] gap-3 border-b border-line-2 py-1.5 last:border-0">
    <span className="min-w-0">
      {linked ? (
        <Link className="num mr-2 hover:underline" to={`/d/${encodeURIComponent(number)}?tab=citations`}>
          {number}
        </Link>
      ) : (
        <span className="num mr-2">{number}</span>
      )}
      {label && <span className="num mr-2 text-ink-2">{label}</span>}
      <b className="font-semibold">{title}</b>
      <HoldWords when={onHold} />
      {times > 1 && <span className="ml-2 text-[11.5px] text-ink-3">{wording.timesTimes(times)}</span>}
      <span className="block truncate text-[12px] text-ink-3" title={excerpt}>
        … {excerpt} …
      </span>
    </span>
    <span className={`text-[12.5px] font-[550] whitespace-nowrap ${KIND[kind].tone}`}>{KIND[kind].words}</span>
  </div>
);
