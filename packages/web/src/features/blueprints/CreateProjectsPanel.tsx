import { api, type Blueprint } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useDeferredValue, useMemo, useState } from 'react';
import { Link } from 'react-router';
import { ask, call } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { useCommand } from '../../app/useCommand.ts';
import { CommandButton, Segments, TextArea, TextField } from '../../ui/controls.tsx';
import { count, showInstant } from '../../ui/format.ts';
import { ReadTable } from '../../ui/ReadTable.tsx';
import { Refusals } from '../../ui/states.tsx';
import { EntryPicker } from '../document/EntryPicker.tsx';
import { FolderPreview } from './FolderPreview.tsx';
import { readProjects, valuesFrom } from './values.ts';
import { wording } from './wording.ts';

/** Lays out a project, or many, from a blueprint; shows what is new and what is used again before it is done. */
export const CreateProjectsPanel = ({ blueprint }: { blueprint: Blueprint }) => {
  const me = useMe();
  const { id, placeholders } = blueprint;
  const [how, setHow] = useState<'one' | 'many'>('one');
  const [values, setValues] = useState<Record<string, string>>({});
  const [entry, setEntry] = useState('');
  const [text, setText] = useState('');
  const many = useMemo(() => readProjects(text, placeholders), [text, placeholders]);
  const shown = useDeferredValue(how === 'one' ? values : (many.projects[0] ?? {}));
  const whole = placeholders.every((key) => shown[key]?.trim());
  const trial = useQuery({
    queryKey: ['blueprints', 'tryLayOut', id, blueprint.rowVersion, shown],
    queryFn: ({ signal }) => call(api.blueprints.try, { params: { id }, body: { values: shown }, signal }),
    enabled: whole,
    placeholderData: (before) => before,
  });
  const command = useCommand(
    api.blueprints.layOut,
    (done) =>
      `${count(done.folders, 'folder', 'folders')} created${done.documents.length ? wording.documentsRegistered(done.documents.join(', ')) : ''}.`,
    () => {
      setValues({});
      setEntry('');
      setText('');
    },
  );
  const projects = how === 'one' ? (whole ? [values] : []) : many.projects;
  return (
    <section aria-label={wording.createProject} className="flex min-h-0 flex-col">
      <div className="flex flex-wrap items-center gap-3 border-b border-line px-5 py-2.5">
        <h2 className="!text-[16px]">{blueprint.name}</h2>
        <Segments
          label={wording.howMany}
          value={how}
          onChange={setHow}
          options={[
            { value: 'one', text: wording.oneProject },
            { value: 'many', text: wording.manyProjects },
          ]}
        />
        {me.organisationRights.includes('administer') && (
          <Link className="btn ml-auto" to={`?blueprint=${id}&edit=yes`}>
            {wording.editBlueprint}
          </Link>
        )}
      </div>
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_minmax(0,1fr)] gap-5 overflow-y-auto px-5 py-4">
        <form
          className="flex flex-col gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            command.mutate({ params: { id }, body: { projects } });
          }}
        >
          {how === 'one' ? (
            <>
              {blueprint.lookup && (
                <EntryPicker
                  label={wording.takeTheValuesFrom}
                  optional
                  list={blueprint.lookup}
                  value={entry}
                  onPick={(picked) => {
                    setEntry(picked?.code ?? '');
                    if (picked) setValues({ ...values, ...valuesFrom(picked, placeholders) });
                  }}
                />
              )}
              {placeholders.map((key) => (
                <TextField
                  key={key}
                  label={key}
                  required
                  maxLength={200}
                  value={values[key] ?? ''}
                  onChange={(value) => setValues({ ...values, [key]: value })}
                />
              ))}
            </>
          ) : (
            <div>
              <TextArea
                label={wording.projects}
                rows={10}
                className="inp num !whitespace-pre [tab-size:16]"
                spellCheck={false}
                placeholder={`${placeholders.join('\t')}\n`}
                value={text}
                onChange={setText}
                error={many.wrong ?? undefined}
                hint={wording.pasteATableFromASpreadsheet(
                  placeholders.join(', '),
                  count(many.projects.length, 'project', 'projects'),
                )}
              />
              <ReadTable onRead={(rows) => setText(rows.map((row) => row.join('\t')).join('\n'))} />
            </div>
          )}
          <Refusals error={command.error ?? (whole ? trial.error : null)} />
          <div>
            <CommandButton busy={command.isPending} disabled={projects.length === 0 || blueprint.retired}>
              {projects.length > 1 ? wording.createProjects(projects.length) : wording.createProject}
            </CommandButton>
          </div>
          <Projects
            blueprint={blueprint}
            again={(one) => command.mutate({ params: { id }, body: { projects: [one] } })}
          />
        </form>
        <div>
          <span className="cap">
            {how === 'many' && many.projects.length > 1 ? wording.firstProject : wording.preview}
          </span>
          {whole && trial.data ? (
            <FolderPreview folders={trial.data.folders} />
          ) : (
            <p className="mt-1 text-ink-2">{wording.enterToSeeTheFoldersThat(placeholders.join(' and '))}</p>
          )}
        </div>
      </div>
    </section>
  );
};

/** Projects that were laid out; what one lacks of the blueprint as it is now is added on request. */
const Projects = ({ blueprint, again }: { blueprint: Blueprint; again: (values: Record<string, string>) => void }) => {
  const { zone } = useMe().organisation;
  const { data } = useQuery(ask(api.blueprints.projects, { params: { id: blueprint.id } }));
  if (!data?.projects.length) return null;
  return (
    <div className="mt-3">
      <h3 className="cap mb-1">{wording.projectsCreatedFromIt}</h3>
      <ul className="border border-line bg-sheet">
        {data.projects.map((project) => (
          <li key={project.id} className="flex items-baseline gap-2 border-b border-line-2 px-3 py-1.5 last:border-0">
            <span className="min-w-0 flex-1">
              <b className="font-semibold">{Object.values(project.values).join(', ')}</b>
              <span className="block text-[11.5px] text-ink-3">
                {project.by}, {showInstant(project.at, zone)}
              </span>
              {project.lacks.length > 0 && (
                <span className="block text-ochre">{wording.isMissing(project.lacks.join(', '))}</span>
              )}
            </span>
            {project.lacks.length > 0 && (
              <button type="button" className="btn !h-6" onClick={() => again(project.values)}>
                {wording.addMissingFolders}
              </button>
            )}
          </li>
        ))}
      </ul>
    </div>
  );
};
