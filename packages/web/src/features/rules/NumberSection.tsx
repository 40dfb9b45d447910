import type { NumberRule, TypeRule } from '@kanonos/contract';
import { filingPath, makeFileName } from '@kanonos/core';
import { useMemo } from 'react';
import { useMe } from '../../app/session.tsx';
import { Choice, TextField } from '../../ui/controls.tsx';
import { todayIn } from '../../ui/format.ts';
import { wording } from './wording.ts';
import { sampleLabels, sampleNumbers } from './words.ts';

const NUMBER_TOKENS = ['type', 'area', 'department', 'year', 'year:2', 'month', 'counter:4', 'parent'];
const NAME_TOKENS = ['number', 'revision', 'title', 'date', 'version', 'ext'];

/** How documents of the type are numbered and their files named, with what the rules would give next. */
export const NumberSection = ({
  rule,
  edit,
  rules,
  problems,
}: {
  rule: TypeRule;
  edit: (change: Partial<TypeRule>) => void;
  rules: readonly NumberRule[];
  problems: readonly string[];
}) => {
  const { zone } = useMe().organisation;
  const counters = useMemo(
    () => new Map(rules.flatMap((one) => one.scopes.map((scope) => [scope.scope, scope.last] as const))),
    [rules],
  );
  const codes = rules[0]?.codes ?? { areas: [], departments: [] };
  const samples = sampleNumbers(rule, codes, counters, todayIn(zone));
  const fieldTokens = rule.fields.filter((field) => field.kind === 'choice').map((field) => `field:${field.key}`);
  const label = sampleLabels(rule.scheme).split(',')[0] ?? 'A';
  const about = (start: string) => problems.find((sentence) => sentence.startsWith(start));
  const number = samples[0]?.number ?? 'ABC 123';
  return (
    <div className="flex max-w-3xl flex-col gap-4">
      <fieldset>
        <legend className="cap">{wording.numbersComeFrom}</legend>
        <Choice
          name="source"
          checked={rule.numbering !== null}
          onChange={() => edit({ numbering: rule.numbering ?? '{type}-{counter:4}', externalPattern: null })}
          title={wording.numberingRule}
          about={wording.theNextNumberIsTakenBy}
        />
        <Choice
          name="source"
          checked={rule.numbering === null}
          onChange={() => edit({ numbering: null })}
          title={wording.external}
          about={wording.keptAsTheSupplierGaveIt}
        />
      </fieldset>
      {rule.numbering !== null ? (
        <div className="grid grid-cols-[minmax(0,1fr)_240px] gap-4">
          <div>
            <TextField
              label={wording.numberingRule}
              className="inp num !text-[13px]"
              spellCheck={false}
              maxLength={160}
              value={rule.numbering}
              error={about(wording.numberingRule)}
              onChange={(value) => edit({ numbering: value })}
            />
            <Tokens
              tokens={[...NUMBER_TOKENS, ...fieldTokens]}
              onPick={(token) => edit({ numbering: `${rule.numbering ?? ''}{${token}}` })}
            />
            <p className="mt-1.5 text-[11.5px] text-ink-3">
              {wording.textIsUsedAsItIs} <span className="num">{wording.counter3PerYear}</span>{' '}
              {wording.anewForEachYear}
            </p>
          </div>
          <Samples title={wording.nextNumbers}>
            {samples.length === 0 && <p className="text-ink-3">{wording.theRuleCannotBeReadYet}</p>}
            {samples.map((sample) => (
              <p key={sample.number} className="flex items-baseline justify-between gap-2">
                <span className="num !text-[12.5px]">{sample.number}</span>
                <span className="text-[11px] text-ink-3">{sample.where}</span>
              </p>
            ))}
          </Samples>
        </div>
      ) : (
        <TextField
          label={wording.pattern}
          optional
          className="inp num"
          spellCheck={false}
          value={rule.externalPattern ?? ''}
          error={about(wording.pattern)}
          onChange={(value) => edit({ externalPattern: value || null })}
          hint={wording.aRegularExpressionThatTheWhole}
        />
      )}
      <div className="grid grid-cols-[minmax(0,1fr)_240px] gap-4 border-t border-line pt-3.5">
        <div>
          <TextField
            label={wording.namingRule}
            className="inp num"
            spellCheck={false}
            maxLength={160}
            value={rule.naming}
            error={about(wording.namingRule)}
            onChange={(value) => edit({ naming: value })}
          />
          <Tokens
            tokens={[...NAME_TOKENS, ...fieldTokens]}
            onPick={(token) => edit({ naming: rule.naming.replace(/(\.\{ext\})?$/, `_{${token}}$1`) })}
          />
        </div>
        <Samples title={wording.aDownloadedFile}>
          <p className="num break-all whitespace-normal">
            {makeFileName(
              {
                number,
                revision: label,
                title: rule.example || rule.name || wording.title,
                extension: 'docx',
                date: todayIn(zone),
                version: '1',
                fields: Object.fromEntries(rule.fields.map((field) => [field.key, field.options?.[0]?.code ?? ''])),
              },
              rule.naming,
            )}
          </p>
        </Samples>
      </div>
      <div className="grid grid-cols-[minmax(0,1fr)_240px] gap-4 border-t border-line pt-3.5">
        <div>
          <TextField
            label={wording.filingRule}
            optional
            className="inp num"
            spellCheck={false}
            maxLength={300}
            value={rule.filing ?? ''}
            error={about(wording.filingRule)}
            onChange={(value) => edit({ filing: value || null })}
            hint={wording.anAreaThenItsFoldersSeparated}
          />
          <Tokens
            tokens={[
              'type',
              'group',
              'year',
              ...rule.fields
                .filter((field) => field.default?.from !== 'folder')
                .slice(0, 8)
                .map((field) => `field:${field.key}`),
            ]}
            onPick={(token) => edit({ filing: `${rule.filing ?? wording.area} / {${token}}` })}
          />
        </div>
        <Samples title={wording.aDocumentIsFiledIn}>
          <p className="break-words">{filedIn(rule, todayIn(zone))}</p>
        </Samples>
      </div>
    </div>
  );
};

/** Where a made-up document would be filed, each field by its first option or its name. */
const filedIn = (rule: TypeRule, day: string): string => {
  if (!rule.filing) return wording.theChosenFolder;
  const path = filingPath(rule.filing, {
    type: rule,
    year: day.slice(0, 4),
    fields: rule.fields,
    metadata: Object.fromEntries(
      rule.fields.map((field) => [field.key, field.options?.[0]?.code ?? `[${field.label}]`]),
    ),
  });
  return path.ok ? path.value.join(' / ') : wording.theRuleCannotBeReadYet;
};

const Tokens = ({ tokens, onPick }: { tokens: readonly string[]; onPick: (token: string) => void }) => (
  <div className="mt-1.5 flex flex-wrap gap-1">
    {tokens.map((token) => (
      <button
        key={token}
        type="button"
        className="btn num !h-[22px] !px-1.5 !text-[11px]"
        onClick={() => onPick(token)}
      >
        {`{${token}}`}
      </button>
    ))}
  </div>
);

const Samples = ({ title, children }: { title: string; children: React.ReactNode }) => (
  <div aria-live="polite" className="border-l-3 border-petrol bg-petrol-tint px-3 py-2">
    <span className="cap">{title}</span>
    {children}
  </div>
);
