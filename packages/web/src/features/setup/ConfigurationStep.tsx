import { api, type StartingConfigurationInfo } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { useCommand } from '../../app/useCommand.ts';
import { CommandButton } from '../../ui/controls.tsx';
import { count } from '../../ui/format.ts';
import { Failed, Loading, Refusals } from '../../ui/states.tsx';
import { Tick } from '../../ui/Tick.tsx';
import { wording } from './wording.ts';

type Rule = StartingConfigurationInfo['package']['types'][number]['rule'];
const stepsOf = (rule: Rule): string[] =>
  ((rule.route as { steps?: { name: string }[] }).steps ?? []).map(({ name }) => name);

/** The first number of a type under the organisation's own code; undefined for numbers from outside. */
const firstNumber = ({ code, numbering }: Rule, organisation: { code: string; today: string }) =>
  numbering
    ?.replace(/^ORG\b/, organisation.code)
    .replace('{type}', code)
    .replace('{year}', organisation.today.slice(0, 4))
    .replace(/\{counter:(\d)[^}]*\}/, (_, width: string) => '1'.padStart(Number(width), '0'));

/** Chooses one of the shipped configurations, shows it, and takes over what stays ticked. */
export const ConfigurationStep = () => {
  const { data, error, isPending, refetch } = useQuery(ask(api.setup.configurations));
  const types = useQuery(ask(api.rules.types));
  const [chosen, setChosen] = useState('');
  if (isPending) return <Loading what={wording.theConfigurations} />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  const configuration = data.configurations.find(({ id }) => id === chosen);
  return (
    <>
      {(types.data?.types.length ?? 0) > 0 && <p className="mb-3 text-ink-2">{wording.configurationInUse}</p>}
      <fieldset className="grid grid-cols-3 gap-3 max-lg:grid-cols-1">
        <legend className="sr-only">{wording.chooseAConfiguration}</legend>
        {data.configurations.map(({ id, name, about }) => (
          <label
            key={id}
            className={`pane cursor-pointer p-3 ${id === chosen ? 'outline-2 outline-petrol' : ''} focus-within:outline-2`}
          >
            <input
              type="radio"
              name="configuration"
              className="sr-only"
              checked={id === chosen}
              onChange={() => setChosen(id)}
            />
            <b className="block font-semibold">{name}</b>
            <span className="text-ink-2">{about}</span>
          </label>
        ))}
      </fieldset>
      {configuration && <Preview key={configuration.id} configuration={configuration} />}
    </>
  );
};

const Preview = ({ configuration }: { configuration: StartingConfigurationInfo }) => {
  const me = useMe();
  const { package: content, folders } = configuration;
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [join, setJoin] = useState<ReadonlySet<string>>(new Set(['role/CTRL', 'group/AUTH']));
  const command = useCommand(api.setup.apply, wording.applied);
  const kept = content.types.filter(({ rule }) => !left.has(rule.code));
  const toggle = (set: ReadonlySet<string>, key: string) => {
    const next = new Set(set);
    if (!next.delete(key)) next.add(key);
    return next;
  };
  return (
    <div className="mt-4 grid grid-cols-[minmax(0,1fr)_260px] gap-5 max-lg:grid-cols-1">
      <section aria-label={wording.types}>
        <h3 className="cap mb-1">{wording.types}</h3>
        <ul className="pane">
          {content.types.map(({ rule }) => (
            <li key={rule.code} className="border-b border-line-2 px-3 py-1.5 last:border-0">
              <Tick checked={!left.has(rule.code)} onChange={() => setLeft(toggle(left, rule.code))}>
                <b className="font-semibold">{rule.name}</b>{' '}
                <span className="num text-ink-2">{firstNumber(rule, me.organisation) ?? wording.externalNumber}</span>
              </Tick>
              <p className="pl-6 text-ink-2">{rule.help}</p>
              <p className="pl-6 text-[12px] text-ink-2">{stepsOf(rule).join(' → ') || wording.noRoute}</p>
            </li>
          ))}
        </ul>
      </section>
      <div className="flex flex-col gap-4">
        <section aria-label={wording.folders}>
          <h3 className="cap mb-1">{wording.folders}</h3>
          <ul>
            {folders.map(({ path }) => (
              <li key={path.join('/')} style={{ paddingLeft: (path.length - 1) * 14 }}>
                {path.at(-1)}
              </li>
            ))}
          </ul>
        </section>
        <fieldset>
          <legend className="cap mb-1">{wording.joinAs}</legend>
          <div className="flex flex-col gap-1.5">
            {content.units
              .filter(({ kind }) => kind === 'role' || kind === 'group')
              .map(({ kind, code, name }) => (
                <Tick
                  key={`${kind}/${code}`}
                  checked={join.has(`${kind}/${code}`)}
                  onChange={() => setJoin(toggle(join, `${kind}/${code}`))}
                >
                  {name}
                </Tick>
              ))}
          </div>
          <p className="mt-1 text-[12px] text-ink-2">{wording.joinAsHint}</p>
        </fieldset>
        <Refusals error={command.error} />
        <CommandButton
          type="button"
          busy={command.isPending}
          disabled={kept.length === 0}
          onClick={() =>
            command.mutate({
              body: { id: configuration.id, types: kept.map(({ rule }) => rule.code), join: [...join] },
            })
          }
        >
          {wording.applyConfiguration(count(kept.length, 'type'))}
        </CommandButton>
        <a
          className="btn justify-center"
          download={`${configuration.id}.json`}
          href={`data:application/json;charset=utf-8,${encodeURIComponent(JSON.stringify(content, null, 2))}`}
        >
          {wording.exportPackage}
        </a>
      </div>
    </div>
  );
};
