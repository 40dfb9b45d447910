import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { Link, useSearchParams } from 'react-router';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { count } from '../../ui/format.ts';
import { ListAndDetail } from '../../ui/ListAndDetail.tsx';
import { Empty, Failed, Loading } from '../../ui/states.tsx';
import { useLastChosen } from '../../ui/useLastChosen.ts';
import { BlueprintEditor } from './BlueprintEditor.tsx';
import { CreateProjectsPanel } from './CreateProjectsPanel.tsx';
import { wording } from './wording.ts';

/** Blueprints: how folders of a project are laid out, and the projects that were. */
export const BlueprintsPage = () => {
  const me = useMe();
  const [params] = useSearchParams();
  const { data, error, isPending, refetch } = useQuery(ask(api.blueprints.list));
  const chosen = useLastChosen('blueprint', data?.blueprints ?? [], (one) => one.id, params.get('blueprint'));
  if (isPending) return <Loading what={wording.theBlueprints} />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  const administers = me.organisationRights.includes('administer');
  const isEditing = params.has('edit') || params.get('blueprint') === 'new';
  return (
    <ListAndDetail>
      <section aria-label={wording.blueprints} className="min-h-0 overflow-y-auto border-r border-line bg-film-2">
        <div className="flex items-center justify-between border-b border-line px-3.5 py-2.5">
          <h1>{wording.blueprints}</h1>
          {administers && (
            <Link className="btn" to="?blueprint=new">
              {wording.newBlueprint}
            </Link>
          )}
        </div>
        {data.blueprints.map((one) => (
          <Link
            key={one.id}
            to={`?blueprint=${one.id}`}
            aria-current={one.id === chosen?.id ? 'page' : undefined}
            className={`block border-l-3 px-[11px] py-1.5 ${one.id === chosen?.id ? 'border-petrol bg-sheet' : 'border-transparent hover:bg-film'}`}
          >
            <span className="flex items-baseline justify-between gap-2">
              <b className={`truncate font-[600] ${one.retired ? 'text-ink-3' : ''}`}>{one.name}</b>
              <span className="text-[11px] whitespace-nowrap text-ink-3">
                {count(one.projects, 'project', 'projects')}
              </span>
            </span>
            <span className="text-[11.5px] text-ink-3">
              {wording.inFolder(one.folder)}
              {one.retired && wording.retired}
            </span>
          </Link>
        ))}
      </section>
      {isEditing && administers ? (
        <BlueprintEditor key={chosen?.id ?? 'new'} now={chosen} />
      ) : chosen ? (
        <CreateProjectsPanel key={`${chosen.id} ${chosen.rowVersion}`} blueprint={chosen} />
      ) : (
        <Empty title={wording.chooseABlueprint}>{wording.aBlueprintDefinesTheFoldersMetadata}</Empty>
      )}
    </ListAndDetail>
  );
};
