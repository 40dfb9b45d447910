import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask, call, refreshAll } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { useCommand } from '../../app/useCommand.ts';
import { CommandButton, TextArea, TextField } from '../../ui/controls.tsx';
import { count } from '../../ui/format.ts';
import { Refusals } from '../../ui/states.tsx';
import { toast } from '../../ui/toast.ts';
import { type PersonLine, readPeople } from './peopleLines.ts';
import { wording } from './wording.ts';

/** Departments, and people typed, pasted or from a CSV file, each with department and roles. */
export const PeopleStep = () => {
  const units = useQuery(ask(api.people.units));
  const people = useQuery(ask(api.people.list, { query: { state: 'all' } }));
  const departments = units.data?.units.filter(({ kind }) => kind === 'department') ?? [];
  const parts = units.data?.units.filter(({ kind }) => kind === 'role' || kind === 'group') ?? [];
  return (
    <div className="flex max-w-4xl flex-col gap-5">
      <section aria-label={wording.departments}>
        <h3 className="cap mb-1">{wording.departments}</h3>
        <p className="mb-2">
          {departments.map(({ code, name }) => `${code} ${name}`).join(' · ') || wording.nobodyYet}
        </p>
        <AddDepartment />
      </section>
      <section aria-label={wording.people}>
        <h3 className="cap mb-1">{wording.people}</h3>
        <p className="mb-2 text-ink-2">
          {wording.peopleInOrganisation(count(people.data?.people.length ?? 0, 'person', 'people'))}
          {parts.length > 0 && ` · ${wording.roles}: ${parts.map(({ code }) => code).join(', ')}`}
        </p>
        <PasteThem units={units.data?.units ?? []} />
      </section>
    </div>
  );
};

const AddDepartment = () => {
  const [code, setCode] = useState('');
  const [name, setName] = useState('');
  const command = useCommand(api.people.addUnit, wording.departmentAdded, () => {
    setCode('');
    setName('');
  });
  return (
    <form
      className="grid grid-cols-[140px_minmax(0,260px)_auto] items-end gap-2 max-md:grid-cols-1"
      onSubmit={(event) => {
        event.preventDefault();
        command.mutate({ body: { kind: 'department', code, name } });
      }}
    >
      <TextField
        label={wording.newCode}
        required
        maxLength={16}
        className="inp num"
        value={code}
        onChange={(value) => setCode(value.toUpperCase())}
      />
      <TextField label={wording.department} required value={name} onChange={setName} />
      <CommandButton busy={command.isPending}>{wording.addDepartment}</CommandButton>
      <Refusals error={command.error} />
    </form>
  );
};

const PasteThem = ({ units }: { units: Parameters<typeof readPeople>[1] }) => {
  const me = useMe();
  const [text, setText] = useState('');
  const [refused, setRefused] = useState<Record<string, string>>({});
  const [running, setRunning] = useState(false);
  const lines = readPeople(text, units);
  const ready = lines.filter(({ problems }) => problems.length === 0);
  /** One after the other: who is added leaves the list, who is refused stays in it with the reason. */
  const addAll = async () => {
    setRunning(true);
    const failed: Record<string, string> = {};
    const done = new Set<number>();
    for (const { line, problems, ...person } of ready)
      await call(api.people.add, { body: { ...person, from: me.organisation.today, supervisorId: null } }).then(
        () => done.add(line),
        (error: Error) => {
          failed[person.email] = error.message;
        },
      );
    setText((before) =>
      before
        .split('\n')
        .filter((_, i) => !done.has(i + 1))
        .join('\n'),
    );
    setRefused(failed);
    setRunning(false);
    if (done.size > 0) toast.success(wording.peopleAdded(count(done.size, 'person', 'people')));
    await refreshAll();
  };
  return (
    <div className="flex flex-col gap-2">
      <TextArea
        label={wording.pasteLabel}
        rows={5}
        className="inp num"
        value={text}
        onChange={setText}
        hint={wording.pasteHint}
      />
      <input
        type="file"
        accept=".csv,.txt,.tsv"
        aria-label={wording.pasteLabel}
        onChange={async (event) => {
          const [file] = event.target.files ?? [];
          if (file) setText(await file.text());
        }}
      />
      {lines.length > 0 && <Lines lines={lines} refused={refused} />}
      <CommandButton
        type="button"
        className="self-start"
        busy={running}
        disabled={ready.length === 0}
        onClick={() => void addAll()}
      >
        {wording.add(count(ready.length, 'person', 'people'))}
      </CommandButton>
    </div>
  );
};

const Lines = ({ lines, refused }: { lines: readonly PersonLine[]; refused: Readonly<Record<string, string>> }) => (
  <table className="w-full text-left">
    <thead>
      <tr className="cap border-b border-line">
        <th className="py-1 pr-2">{wording.lineNumber}</th>
        <th className="pr-2">{wording.name}</th>
        <th className="pr-2">{wording.signInName}</th>
        <th className="pr-2">{wording.mailAddress}</th>
        <th>{wording.state}</th>
      </tr>
    </thead>
    <tbody>
      {lines.map(({ line, name, signInName, email, problems }) => {
        const wrong = [...problems, refused[email]].filter(Boolean).join(' ');
        return (
          <tr key={line} className="border-b border-line-2">
            <td className="num py-1 pr-2 text-ink-2">{line}</td>
            <td className="pr-2">{name}</td>
            <td className="num pr-2">{signInName}</td>
            <td className="pr-2 break-all">{email}</td>
            <td className={wrong ? 'text-vermilion' : 'text-ink-2'}>{wrong || wording.toDo}</td>
          </tr>
        );
      })}
    </tbody>
  </table>
);
