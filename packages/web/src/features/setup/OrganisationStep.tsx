import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask } from '../../app/client.ts';
import { useCommand } from '../../app/useCommand.ts';
import { CommandButton, Select } from '../../ui/controls.tsx';
import { FileDrop } from '../../ui/FileDrop.tsx';
import { count } from '../../ui/format.ts';
import { Failed, Loading, Refusals } from '../../ui/states.tsx';
import { Tick } from '../../ui/Tick.tsx';
import { useDraft } from '../../ui/useDraft.ts';
import { NameAndCode } from '../rules/NameAndCode.tsx';
import { asItStands, type Organisation } from '../rules/organisationBody.ts';
import { wording } from './wording.ts';

const ZONES = Intl.supportedValuesOf('timeZone');

/** Name, code, calendar and logo of the organisation. */
export const OrganisationStep = () => {
  const { data, error, isPending, refetch } = useQuery(ask(api.rules.organisation));
  if (isPending) return <Loading what={wording.theFirstSteps} />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  return <OrganisationForm organisation={data} />;
};

const OrganisationForm = ({ organisation }: { organisation: Organisation }) => {
  const form = useDraft(organisation, ({ name, code, zone, week, holidays }) => ({ name, code, zone, week, holidays }));
  const { draft, edit, base } = form;
  const [logo, setLogo] = useState<React.ComponentProps<typeof FileDrop>['value']>(null);
  const command = useCommand(api.rules.changeOrganisation, wording.organisationSaved, () => {
    form.saved();
    setLogo(null);
  });
  const body = { ...asItStands(base), ...draft, ...(logo ? { logoUploadId: logo.id } : {}), reason: wording.reason };
  return (
    <form
      className="grid max-w-3xl grid-cols-2 gap-3.5 max-md:grid-cols-1"
      onSubmit={(event) => {
        event.preventDefault();
        command.mutate({ body });
      }}
    >
      <NameAndCode value={draft} onChange={edit} />
      <Select
        label={wording.timeZone}
        value={draft.zone}
        onChange={(value) => edit({ zone: value })}
        options={[...new Set([draft.zone, ...ZONES])].map((zone) => ({ value: zone, text: zone }))}
      />
      <FileDrop label={wording.logo} value={logo} onChange={setLogo} />
      <fieldset>
        <legend className="cap mb-1">{wording.workingDays}</legend>
        <div className="grid grid-cols-2 max-md:grid-cols-1 gap-0.5">
          {wording.weekdays.map((day, i) => (
            <Tick
              key={day}
              checked={draft.week.includes(i + 1)}
              onChange={(on) =>
                edit({ week: on ? [...draft.week, i + 1].sort() : draft.week.filter((one) => one !== i + 1) })
              }
            >
              {day}
            </Tick>
          ))}
        </div>
      </fieldset>
      <HolidaysOf holidays={draft.holidays} onChange={(holidays) => edit({ holidays })} />
      <div className="col-span-full flex items-center gap-3">
        <CommandButton busy={command.isPending} disabled={!form.isDirty && !logo}>
          {wording.save}
        </CommandButton>
        <Refusals error={command.error} />
      </div>
    </form>
  );
};

/** Adds the public holidays of a country and region to the calendar. */
const HolidaysOf = ({
  holidays,
  onChange,
}: {
  holidays: Organisation['holidays'];
  onChange: (holidays: Organisation['holidays']) => void;
}) => {
  const [country, setCountry] = useState('');
  const [region, setRegion] = useState('');
  const { data } = useQuery({
    ...ask(api.setup.holidays, { query: { country, region } }),
    placeholderData: (before) => before,
  });
  const known = new Set(holidays.map(({ day }) => day));
  const found = (data?.holidays ?? []).filter(({ day }) => !known.has(day));
  return (
    <div className="flex flex-col gap-2">
      <Select
        label={wording.country}
        optional
        value={country}
        onChange={(value) => {
          setCountry(value);
          setRegion('');
        }}
        hint={wording.countryHint}
        empty={'–'}
        options={data?.countries.map(({ code, name }) => ({ value: code, text: name }))}
      />
      {(data?.regions.length ?? 0) > 0 && (
        <Select
          label={wording.region}
          optional
          value={region}
          onChange={setRegion}
          empty={'–'}
          options={data?.regions.map(({ code, name }) => ({ value: code, text: name }))}
        />
      )}
      <span className="text-ink-2">{wording.holidays(count(holidays.length, 'holiday'))}</span>
      {found.length > 0 && (
        <button
          type="button"
          className="btn self-start"
          onClick={() => onChange([...holidays, ...found].sort((a, b) => (a.day < b.day ? -1 : 1)))}
        >
          {wording.takeOverHolidays(count(found.length, 'holiday'))}
        </button>
      )}
    </div>
  );
};
