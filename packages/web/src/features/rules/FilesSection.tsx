import { Select, TextArea, TextField } from '../../ui/controls.tsx';
import { Tick } from '../../ui/Tick.tsx';
import type { Section } from './sections.tsx';
import { wording } from './wording.ts';

const sharingOf = (text: string) =>
  text
    .split('\n')
    .map((line) => line.trim())
    .filter(Boolean)
    .map((line) => {
      const [code = '', ...words] = line.split(/\s+/);
      return { code: code.slice(0, 12), text: words.join(' ').slice(0, 120) };
    });

/** Stored names, lines on renditions and prints, outside origin, sharing codes, keeping. */
export const FilesSection = ({ rule, edit }: Section) => (
  <div className="grid max-w-3xl grid-cols-2 max-md:grid-cols-1 gap-x-4 gap-y-3.5">
    <div className="col-span-2">
      <Tick checked={rule.followsNamingRule} onChange={(followsNamingRule) => edit({ followsNamingRule })}>
        {wording.storedFileNamesFollowTheNaming}
      </Tick>
    </div>
    <TextField
      label={wording.headerOfRenditionsAndPrints}
      optional
      maxLength={200}
      value={rule.head}
      onChange={(value) => edit({ head: value })}
      hint={wording.withTokensAsInFileNames}
    />
    <TextField
      label={wording.footerOfRenditionsAndPrints}
      optional
      maxLength={200}
      value={rule.foot}
      onChange={(value) => edit({ foot: value })}
    />
    <div className="col-span-2">
      <Tick checked={rule.cover} onChange={(cover) => edit({ cover })}>
        {wording.coverPageOnRenditionsTitleBlock}
      </Tick>
      <p className="mt-1 text-[11.5px] text-ink-3">{wording.headerFooterAndCoverPageAreStored}</p>
    </div>
    <div className="col-span-2 grid grid-cols-[minmax(0,1fr)_180px] items-end gap-3 border-t border-line pt-3">
      <Tick checked={rule.origin !== null} onChange={(on) => edit({ origin: on ? { checkMonths: 12 } : null })}>
        {wording.externalDocumentsSourceAndEditionAre}
      </Tick>
      {rule.origin && (
        <TextField
          label={wording.monthsBetweenSourceChecks}
          type="number"
          min={1}
          max={240}
          value={String(rule.origin.checkMonths)}
          onChange={(value) => edit({ origin: { checkMonths: Math.max(1, Math.round(Number(value))) } })}
        />
      )}
    </div>
    <TextArea
      wide
      key={rule.sharing.length}
      label={wording.statusCodesForSharing}
      optional
      rows={3}
      defaultValue={rule.sharing.map(({ code, text }) => `${code} ${text}`.trim()).join('\n')}
      onBlur={(event) => edit({ sharing: sharingOf(event.target.value) })}
      hint={wording.onePerLineCodeFirstS1}
    />
    <Select
      label={wording.revisedUnderAChangeNote}
      value={rule.changeNote}
      onChange={(value) => edit({ changeNote: value as typeof rule.changeNote })}
      options={[
        { value: 'may', text: wording.mayBe },
        { value: 'must', text: wording.mustBe },
        { value: 'never', text: wording.neverIs },
      ]}
    />
    <Select
      label={wording.beforeItsRelease}
      value={rule.changeNoteDemand}
      onChange={(value) => edit({ changeNoteDemand: value as typeof rule.changeNoteDemand })}
      options={[
        { value: 'tasks', text: wording.noteIsAgreedAndTasksAreDone },
        { value: 'agreed', text: wording.noteIsAgreed },
        { value: 'nothing', text: wording.nothingOfTheNote },
      ]}
    />
    <div className="col-span-2">
      <Tick checked={rule.isChangeNote} onChange={(isChangeNote) => edit({ isChangeNote })}>
        {wording.documentsOfThisTypeAreChangeNotes}
      </Tick>
    </div>
    <Select
      label={wording.retention}
      hint={wording.retentionIsStored}
      value={rule.keeping?.from ?? ''}
      onChange={(value) =>
        edit({
          keeping: value ? { years: rule.keeping?.years ?? 10, from: value as 'superseded' | 'withdrawn' } : null,
        })
      }
    >
      <option value="">{wording.permanent}</option>
      <option value="superseded">{wording.yearsAfterItWasSuperseded}</option>
      <option value="withdrawn">{wording.yearsAfterItWasWithdrawn}</option>
    </Select>
    {rule.keeping && (
      <TextField
        label={wording.years}
        type="number"
        min={1}
        max={200}
        value={String(rule.keeping.years)}
        onChange={(value) =>
          edit({
            keeping: {
              from: rule.keeping?.from ?? 'superseded',
              years: Math.max(1, Math.round(Number(value))),
            },
          })
        }
      />
    )}
  </div>
);
