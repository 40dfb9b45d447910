import { api, type Unit } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask } from '../../app/client.ts';
import { Select, TextArea, TextField } from '../../ui/controls.tsx';
import { count, showDay, todayIn } from '../../ui/format.ts';
import { PeoplePicker } from '../../ui/PersonPicker.tsx';
import { Failed, Loading } from '../../ui/states.tsx';
import { stateWords } from '../../ui/stateWords.ts';
import { Tick } from '../../ui/Tick.tsx';
import { useDraft } from '../../ui/useDraft.ts';
import { AddUnit } from './AddUnit.tsx';
import { Branding } from './Branding.tsx';
import { Editions } from './Editions.tsx';
import { EditUnit } from './EditUnit.tsx';
import { GroupRules } from './GroupRules.tsx';
import { NameAndCode } from './NameAndCode.tsx';
import { OrganisationDialog } from './OrganisationDialog.tsx';
import { OwnStates } from './OwnStates.tsx';
import type { Organisation } from './organisationBody.ts';
import { ReadRulesDialog } from './ReadRulesDialog.tsx';
import { Stamps } from './Stamps.tsx';
import { wording } from './wording.ts';

const WEEK = [
  wording.monday,
  wording.tuesday,
  wording.wednesday,
  wording.thursday,
  wording.friday,
  wording.saturday,
  wording.sunday,
];

/** What holds for the organisation as a whole: its name, calendar and units. */
export const OrganisationPage = () => {
  const { data, error, isPending, refetch } = useQuery(ask(api.rules.organisation));
  const units = useQuery(ask(api.people.units));
  const [editing, setEditing] = useState(false);
  const [looks, setLooks] = useState(false);
  const [filling, setFilling] = useState(false);
  const [stating, setStating] = useState(false);
  const [reading, setReading] = useState(false);
  if (isPending) return <Loading what={wording.theOrganisation} />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  const coming = data.holidays.filter((holiday) => holiday.day >= todayIn(data.zone));
  const kinds = [
    ['department', wording.departments],
    ['site', wording.sites],
    ['role', wording.roles],
    ['group', wording.groups],
  ] as const;
  return (
    <div className="min-h-0 flex-1 overflow-y-auto px-5 py-4">
      <div className="mb-3 flex items-end justify-between">
        <div>
          <h1>{data.name}</h1>
          <span className="text-ink-2">{wording.settingsOfTheWholeOrganisation}</span>
        </div>
        <span className="flex gap-2">
          <a className="btn" href="/api/rules/package" download={`${data.code}-configuration.json`}>
            {wording.exportConfiguration}
          </a>
          <button type="button" className="btn" onClick={() => setReading(true)}>
            {wording.importConfiguration}
          </button>
          <button type="button" className="btn" onClick={() => setLooks(true)}>
            {wording.editBrandingAndLabels}
          </button>
          <button type="button" className="btn" onClick={() => setEditing(true)}>
            {wording.change}
          </button>
        </span>
      </div>
      <div className="grid grid-cols-[minmax(0,1fr)_340px] gap-5">
        <div className="flex flex-col gap-5">
          <dl className="tb grid-cols-3 max-md:grid-cols-1">
            {[
              [
                wording.code,
                <span key="c" className="num !text-[13px]">
                  {data.code}
                </span>,
              ],
              [wording.timeZone, data.zone],
              [wording.workingDays, data.week.map((day) => WEEK[day - 1]?.slice(0, 3)).join(' ')],
              [wording.signingPeriod, wording.endsAfterMinutesWithoutActivity(data.signingIdleMinutes)],
              [wording.fallbackApprover, data.fallbackApprover?.name ?? 'nobody'],
              [wording.holidays, count(coming.length, wording.toCome, wording.toCome)],
              [wording.storedFileNames, data.followsNamingRule ? wording.namedByRule : wording.asSetByEachType],
              [
                wording.colourAndLogo,
                <span key="l" className="flex items-center gap-2">
                  {data.colour && (
                    <span aria-hidden className="h-4 w-4 border border-line" style={{ background: data.colour }} />
                  )}
                  {data.colour || wording.theDefault}
                  {data.logo && (
                    <img src="/api/organisation/logo" alt={wording.logoOfTheOrganisation} className="h-5" />
                  )}
                </span>,
              ],
              [wording.signatureMeanings, data.signatureMeanings.join(', ')],
              [
                wording.ownStates,
                <span key="s" className="flex flex-wrap items-center gap-x-2">
                  {data.ownStates
                    .map(({ name, within }) => wording.ownStateLine(name, stateWords(within).toLowerCase()))
                    .join(', ') || wording.noOwnStates}
                  <button type="button" className="btn !h-6 font-normal" onClick={() => setStating(true)}>
                    {wording.editOwnStates}
                  </button>
                </span>,
              ],
              [wording.labelsOfStates, Object.values(data.stateWords).join(', ') || wording.theDefaultOnes],
            ].map(([name, value], index) => (
              <div
                key={String(name)}
                className={`border-line ${index % 3 < 2 ? 'border-r' : ''} ${index < 6 ? 'border-b' : ''}`}
              >
                <dt className="cap">{name}</dt>
                <dd className="mt-0.5 font-semibold">{value}</dd>
              </div>
            ))}
          </dl>
          <div className="grid grid-cols-2 max-md:grid-cols-1 gap-4">
            {kinds.map(([kind, name]) => (
              <section key={kind} className="pane">
                <div className="flex items-center justify-between border-b border-line bg-film-2 px-3 py-1.5">
                  <h2>{name}</h2>
                  <span className="flex gap-1.5">
                    {kind === 'group' && (
                      <button type="button" className="btn !h-6" onClick={() => setFilling(true)}>
                        {wording.editGroupRules}
                      </button>
                    )}
                    <AddUnit kind={kind} />
                  </span>
                </div>
                <ul>
                  {units.data?.units
                    .filter((unit) => unit.kind === kind)
                    .map((unit) => (
                      <li
                        key={unit.id}
                        className="grid grid-cols-[64px_minmax(0,1fr)] border-b border-line-2 px-3 py-1 last:border-0"
                      >
                        <span className="num text-ink-2">{unit.code}</span>
                        <span className="break-words">
                          <EditUnit unit={unit} />
                          <ByRule organisation={data} units={units.data.units} groupId={unit.id} />
                        </span>
                      </li>
                    ))}
                </ul>
              </section>
            ))}
          </div>
        </div>
        <div className="flex flex-col gap-5">
          <section className="pane">
            <h2 className="border-b border-line bg-film-2 px-3 py-1.5">{wording.holidays}</h2>
            <ul className="max-h-64 overflow-y-auto">
              {coming.map((holiday) => (
                <li key={holiday.day} className="flex justify-between border-b border-line-2 px-3 py-1 last:border-0">
                  <span>{holiday.name}</span>
                  <span className="text-ink-2">{showDay(holiday.day)}</span>
                </li>
              ))}
            </ul>
          </section>
          <Stamps />
          {data.editions.length > 0 && (
            <section className="pane">
              <h2 className="border-b border-line bg-film-2 px-3 py-1.5">{wording.editions}</h2>
              <div className="px-3">
                <Editions editions={data.editions} />
              </div>
            </section>
          )}
        </div>
      </div>
      {reading && <ReadRulesDialog close={() => setReading(false)} />}
      {looks && <Branding organisation={data} close={() => setLooks(false)} />}
      {filling && <GroupRules organisation={data} units={units.data?.units ?? []} close={() => setFilling(false)} />}
      {stating && <OwnStates organisation={data} units={units.data?.units ?? []} close={() => setStating(false)} />}
      {editing && <ChangeOrganisation organisation={data} close={() => setEditing(false)} />}
    </div>
  );
};

/** What fills a group, where a rule does. */
const ByRule = ({
  organisation,
  units,
  groupId,
}: {
  organisation: Organisation;
  units: readonly Unit[];
  groupId: string;
}) => {
  const rule = organisation.groupRules.find((one) => one.groupId === groupId);
  if (!rule) return null;
  const names = units.filter((unit) => rule.unitIds.includes(unit.id)).map((unit) => unit.name);
  return <span className="text-ink-3"> {wording.membersNames(names.join(' and '))}</span>;
};

const toText = (holidays: Organisation['holidays']) => holidays.map(({ day, name }) => `${day} ${name}`).join('\n');
const fromText = (text: string): Organisation['holidays'] =>
  text
    .split('\n')
    .map((line) => line.trim())
    .filter(Boolean)
    .map((line) => ({ day: line.split(/\s/)[0] ?? '', name: line.replace(/^\S+\s*/, '') || wording.holiday }));

const linesOf = (text: string): string[] =>
  text
    .split('\n')
    .map((line) => line.trim())
    .filter(Boolean);

const ZONES = Intl.supportedValuesOf('timeZone');

const ChangeOrganisation = ({ organisation: now, close }: { organisation: Organisation; close: () => void }) => {
  const form = useDraft(now, (one) => ({
    name: one.name,
    code: one.code,
    zone: one.zone,
    week: one.week,
    holidays: one.holidays,
    minutes: String(one.signingIdleMinutes),
    meanings: one.signatureMeanings.join('\n'),
    approver: one.fallbackApprover ? [one.fallbackApprover] : [],
  }));
  const { draft, edit } = form;
  const { zone, week } = draft;
  return (
    <OrganisationDialog
      title={wording.editSettingsOfTheOrganisation}
      columns
      form={form}
      change={{
        name: draft.name,
        code: draft.code,
        zone,
        week,
        holidays: draft.holidays,
        signingIdleMinutes: Number(draft.minutes),
        signatureMeanings: linesOf(draft.meanings),
        fallbackApproverId: draft.approver[0]?.id ?? null,
      }}
      close={close}
    >
      <NameAndCode value={draft} onChange={edit} />
      <Select
        label={wording.timeZone}
        value={zone}
        onChange={(value) => edit({ zone: value })}
        hint={wording.fixedOnceADocumentIsRegistered}
      >
        {ZONES.includes(zone) ? null : <option>{zone}</option>}
        {ZONES.map((one) => (
          <option key={one}>{one}</option>
        ))}
      </Select>
      <TextField
        label={wording.minutesWithoutActivityUntilASigning}
        type="number"
        min={1}
        max={480}
        required
        value={draft.minutes}
        onChange={(value) => edit({ minutes: value })}
      />
      <fieldset>
        <legend className="cap mb-1">{wording.workingDays}</legend>
        <div className="flex flex-col gap-0.5">
          {WEEK.map((day, i) => (
            <Tick
              key={day}
              checked={week.includes(i + 1)}
              onChange={(on) => edit({ week: on ? [...week, i + 1].sort() : week.filter((one) => one !== i + 1) })}
            >
              {day}
            </Tick>
          ))}
        </div>
      </fieldset>
      <div>
        <PeoplePicker
          label={wording.fallbackApprover}
          single
          value={draft.approver}
          onChange={(approver) => edit({ approver })}
          hint={wording.assignedWhereAStepWouldFind}
        />
      </div>
      <div className="col-span-2">
        <TextArea
          label={wording.signatureMeanings}
          rows={4}
          value={draft.meanings}
          onChange={(meanings) => edit({ meanings })}
          hint={wording.signatureMeaningsHint}
        />
      </div>
      <div className="col-span-2">
        <Holidays key={form.round} holidays={draft.holidays} onChange={(holidays) => edit({ holidays })} />
      </div>
    </OrganisationDialog>
  );
};

/** Holidays as lines; typed text is left as typed. */
const Holidays = ({
  holidays,
  onChange,
}: {
  holidays: Organisation['holidays'];
  onChange: (holidays: Organisation['holidays']) => void;
}) => {
  const [text, setText] = useState(() => toText(holidays));
  return (
    <TextArea
      label={wording.holidays}
      rows={6}
      className="inp num !whitespace-pre [tab-size:14]"
      value={text}
      onChange={(value) => {
        setText(value);
        onChange(fromText(value));
      }}
      hint={wording.onePerLineTheDateThen}
    />
  );
};
