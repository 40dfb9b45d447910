import { api } from '@kanonos/contract';
import { CONFIDENTIALITIES } from '@kanonos/core';
import { useQuery } from '@tanstack/react-query';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { Select, TextField } from '../../ui/controls.tsx';
import { PeoplePicker } from '../../ui/PersonPicker.tsx';
import { UnitPicker } from '../../ui/UnitPicker.tsx';
import type { AboutValues } from './about.ts';
import { DocumentPicker } from './DocumentPicker.tsx';
import { forbidsWords } from './sentences.ts';
import { wording } from './wording.ts';

/** Parent, sites, place, confidentiality, own review interval and titles in other languages. */
export const AboutFields = ({
  values,
  onChange,
  parentNeeded,
  typeReview,
  titles = true,
  sharing = [],
  isOutside = false,
}: {
  values: AboutValues;
  onChange: (values: AboutValues) => void;
  /** Numbers of the type extend the number of the parent. */
  parentNeeded?: boolean;
  /** The interval of review that holds when none is given here. */
  /** The interval of the type and its unit. */
  typeReview: { every: number; unit: string };
  /** Titles are signed: only while the revision is a draft. */
  titles?: boolean;
  /** Status codes for sharing that the type has. */
  sharing?: readonly { code: string; text: string }[];
  /** Documents of the type come from outside. */
  isOutside?: boolean;
}) => {
  const me = useMe();
  const units = useQuery({ ...ask(api.people.units), staleTime: 60_000 });
  const set = (change: Partial<AboutValues>) => onChange({ ...values, ...change });
  const sites = (units.data?.units ?? []).filter((unit) => unit.kind === 'site');
  return (
    <>
      <DocumentPicker
        label={wording.parent}
        optional={!parentNeeded}
        value={values.parent}
        onChange={(parent) => set({ parent })}
        hint={parentNeeded ? wording.theNumberIsDerivedFromThe : wording.theDocumentThisOneBelongsTo}
      />
      <Select
        label={wording.confidentiality}
        value={values.confidentiality}
        onChange={(value) => set({ confidentiality: value as AboutValues['confidentiality'] })}
        hint={forbidsWords(me.organisation.confidentiality[values.confidentiality])}
        options={CONFIDENTIALITIES.map((level) => ({ value: level, text: level }))}
      />
      <TextField
        label={wording.location}
        optional
        maxLength={200}
        value={values.location}
        onChange={(value) => set({ location: value })}
        hint={wording.whereThePaperOrTheItem}
      />
      <TextField
        label={wording.reviewInterval(typeReview.unit)}
        optional
        inputMode="numeric"
        pattern="\d{0,4}"
        value={values.reviewEvery}
        onChange={(value) => set({ reviewEvery: value })}
        hint={wording.emptyAsSetByTheType(typeReview.every || wording.noReview)}
      />
      {(isOutside || values.source) && (
        <>
          <TextField
            label={wording.source}
            optional
            maxLength={300}
            value={values.source}
            onChange={(value) => set({ source: value })}
            hint={wording.publisherOrAddressOfTheOriginal}
          />
          <TextField
            label={wording.editionAtTheSource}
            optional
            maxLength={80}
            value={values.edition}
            onChange={(value) => set({ edition: value })}
          />
          <PeoplePicker
            label={wording.watchedBy}
            single
            value={values.watcher}
            onChange={(watcher) => set({ watcher })}
            hint={wording.checksTheSourceRegularlyIfEmpty}
          />
        </>
      )}
      {sharing.length > 0 && (
        <Select
          label={wording.statusCodeForSharing}
          value={values.sharing}
          onChange={(value) => set({ sharing: value })}
          empty={wording.notSet}
          options={sharing.map((one) => ({ value: one.code, text: `${one.code} ${one.text}` }))}
        />
      )}
      <Select
        label={wording.storedFileNames}
        value={values.followsNamingRule}
        onChange={(value) => set({ followsNamingRule: value as AboutValues['followsNamingRule'] })}
      >
        <option value="">{wording.asSetByTheType}</option>
        <option value="yes">{wording.namedByRule}</option>
        <option value="no">{wording.keepTheirOriginalNames}</option>
      </Select>
      {sites.length > 0 && (
        <div className="col-span-2">
          <UnitPicker
            label={wording.appliesAtSites}
            units={sites.map(({ code, name }) => ({ id: code, name }))}
            value={values.sites}
            onChange={(chosen) => set({ sites: chosen })}
          />
        </div>
      )}
      {titles && <OtherTitles set={set} values={values} />}
    </>
  );
};

/** The title in other languages. */
const OtherTitles = ({ set, values }: { set: (change: Partial<AboutValues>) => void; values: AboutValues }) => (
  <fieldset className="col-span-2">
    <legend className="cap mb-1">{wording.titlesInOtherLanguages}</legend>
    {values.titles.map((row, index) => {
      const change = (next: Partial<typeof row>) =>
        set({ titles: values.titles.map((one, i) => (i === index ? { ...one, ...next } : one)) });
      return (
        // biome-ignore lint/suspicious/noArrayIndexKey: rows have no other identity while their language is typed
        <div key={index} className="mb-1 grid grid-cols-[72px_minmax(0,1fr)_auto] gap-1.5">
          <input
            className="inp num"
            aria-label={wording.languageOfTitle(index + 1)}
            placeholder="de"
            value={row.language}
            onChange={(event) => change({ language: event.target.value })}
          />
          <input
            className="inp"
            aria-label={wording.titleIndex(index + 1)}
            maxLength={250}
            value={row.title}
            onChange={(event) => change({ title: event.target.value })}
          />
          <button
            type="button"
            className="btn"
            onClick={() => set({ titles: values.titles.filter((_, i) => i !== index) })}
          >
            {wording.remove}
          </button>
        </div>
      );
    })}
    <button
      type="button"
      className="btn !h-6"
      onClick={() => set({ titles: [...values.titles, { language: '', title: '' }] })}
    >
      {wording.addTitle}
    </button>
  </fieldset>
);
