import { api, type PersonRow } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { ExportMenu, listOf } from '../../ui/ExportMenu.tsx';
import { count, showDay } from '../../ui/format.ts';
import { headings } from '../../ui/headings.ts';
import { Page } from '../../ui/Page.tsx';
import { Empty, Failed, Loading } from '../../ui/states.tsx';
import { TableHead } from '../../ui/TableHead.tsx';
import { useInAddress } from '../../ui/useInAddress.ts';
import { NewPersonDialog } from './NewPersonDialog.tsx';
import { PersonDialog } from './PersonDialog.tsx';
import { wording } from './wording.ts';

const STATE: Record<PersonRow['state'], string> = {
  active: '',
  invited: wording.noPasswordSetYet,
  reset: wording.passwordReset,
  deactivated: 'deactivated',
};

/** Everyone of the organisation; who keeps people enters and changes them here. */
export const PeoplePage = () => {
  const me = useMe();
  const keeps = me.organisationRights.includes('people');
  const [find, setFind] = useInAddress('find');
  const [state, setState] = useInAddress('state');
  const [person, setPerson] = useInAddress('person');
  const [adding, setAdding] = useInAddress('new');
  const all = state === 'all';
  const { data, error, isPending, refetch } = useQuery({
    ...ask(api.people.list, { query: { find, state: all ? 'all' : 'active' } }),
    placeholderData: (before) => before,
  });
  if (isPending) return <Loading what="people" />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  return (
    <Page
      title={wording.people}
      about={wording.asOfTodayEveryMembershipHas(count(data.people.length, 'person', 'people'))}
      actions={
        <>
          <input
            aria-label={wording.findAPerson}
            placeholder={wording.nameDepartmentRoleOrGroup}
            className="inp !w-60"
            value={find}
            onChange={(event) => setFind(event.target.value)}
          />
          <label className="flex items-center gap-1.5 whitespace-nowrap">
            <input
              type="checkbox"
              className="accent-petrol"
              checked={all}
              onChange={(event) => setState(event.target.checked ? 'all' : '')}
            />
            {wording.includeDeactivated}
          </label>
          <ExportMenu
            list={listOf(wording.people, data.people, [
              [wording.name, (row) => row.name],
              [wording.department, (row) => row.department ?? (row.outside ? wording.outsideParty : '')],
              [wording.supervisor, (row) => row.supervisor?.name ?? ''],
              [wording.rolesAndGroups, (row) => [...row.roles, ...row.groups].join(', ')],
              [wording.since, (row) => row.since],
              [headings.state, (row) => STATE[row.state] || row.state],
            ])}
          />
          {keeps && (
            <button type="button" className="btn btn-pri" onClick={() => setAdding('yes')}>
              {wording.addPerson}
            </button>
          )}
        </>
      }
    >
      {data.people.length === 0 ? (
        <Empty title={wording.noPersonOrUnitWithThis} />
      ) : (
        <table className="w-full border-collapse border border-line bg-sheet">
          <TableHead
            className=""
            headings={[
              wording.name,
              wording.department,
              wording.supervisor,
              wording.rolesAndGroups,
              wording.since,
              { text: wording.actions, hidden: true },
            ]}
          />
          <tbody>
            {data.people.map((row) => (
              <tr key={row.id} className="border-b border-line-2">
                <td className="px-3 py-1.5">
                  <b className="font-semibold">{row.name}</b>
                  {keeps && <span className="num ml-2 text-ink-3">{row.signInName}</span>}
                  {row.awayUntil && (
                    <span className="block text-[12px] text-ochre">{wording.awayUntil(showDay(row.awayUntil))}</span>
                  )}
                </td>
                <td className="px-3 py-1.5">{row.department ?? (row.outside ? wording.outsideParty : '–')}</td>
                <td className="px-3 py-1.5 text-ink-2">{row.supervisor?.name ?? '–'}</td>
                <td className="px-3 py-1.5 text-ink-2">{[...row.roles, ...row.groups].join(', ') || '–'}</td>
                <td className="px-3 py-1.5 whitespace-nowrap text-ink-2">
                  {showDay(row.since)}
                  {STATE[row.state] && (
                    <span
                      className={`block text-[12px] ${row.state === 'deactivated' ? 'text-vermilion' : 'text-ochre'}`}
                    >
                      {STATE[row.state]}
                    </span>
                  )}
                </td>
                <td className="px-3 py-1.5 text-right">
                  {keeps && (
                    <button
                      type="button"
                      className="btn !h-6"
                      aria-label={wording.openRow(row.name)}
                      onClick={() => setPerson(row.id)}
                    >
                      {wording.open}
                    </button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {keeps && person && <PersonDialog id={person} close={() => setPerson('')} />}
      {keeps && adding && <NewPersonDialog close={() => setAdding('')} />}
    </Page>
  );
};
