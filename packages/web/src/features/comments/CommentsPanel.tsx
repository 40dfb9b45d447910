import { Empty, Failed, Loading } from '../../ui/states.tsx';
import { useCommenting } from './Commenting.tsx';
import { ImportComments } from './ImportComments.tsx';
import { Thread } from './Thread.tsx';
import { WriteComment } from './WriteComment.tsx';
import { wording } from './wording.ts';

/** Threads on a document, with remarks of readers: written, answered, given to somebody, resolved. */
export const CommentsPanel = () => {
  const state = useCommenting();
  if (!state || state.isPending) return <Loading what={wording.theComments} />;
  if (state.error) return <Failed error={state.error} again={state.refetch} />;
  const { comments, threads, filter, setFilter } = state;
  const people = [
    ...new Map(comments.filter((one) => one.parentId === null).map((one) => [one.person.id, one.person])).values(),
  ];
  const lost = threads.filter((one) => one.place?.state === 'lost');
  const found = threads.filter((one) => one.place?.state !== 'lost');
  return (
    <div>
      {state.mayComment && <WriteComment />}
      {comments.length > 0 && (
        <div className="flex flex-wrap items-center gap-2 border-b border-line px-3 py-1.5 text-[12px]">
          <label className="flex items-center gap-1.5">
            <input
              type="checkbox"
              className="accent-petrol"
              checked={filter.open}
              onChange={(event) => setFilter({ ...filter, open: event.target.checked })}
            />
            {wording.openOnly}
          </label>
          {people.length > 1 && (
            <select
              aria-label={wording.by}
              className="inp !h-6 !w-32"
              value={filter.person}
              onChange={(event) => setFilter({ ...filter, person: event.target.value })}
            >
              <option value="">{wording.everyone}</option>
              {people.map((person) => (
                <option key={person.id} value={person.id}>
                  {wording.ofPerson(person.name)}
                </option>
              ))}
            </select>
          )}
          <ImportComments />
        </div>
      )}
      {threads.length === 0 && <Empty title={comments.length ? wording.noMatchingComments : wording.noComments} />}
      <ul>
        {found.map((one) => (
          <Thread key={one.id} comment={one} />
        ))}
      </ul>
      {lost.length > 0 && (
        <section aria-label={wording.locationLost}>
          <h3 className="cap border-y border-line bg-film-2 px-3 py-1 !text-ochre">
            {wording.locationNotFoundInThisVersion}
          </h3>
          <ul>
            {lost.map((one) => (
              <Thread key={one.id} comment={one} />
            ))}
          </ul>
        </section>
      )}
    </div>
  );
};
