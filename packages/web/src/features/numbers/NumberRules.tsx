import { api, type NumberRule } from '@kanonos/contract';
import { useState } from 'react';
import { useCommand } from '../../app/useCommand.ts';
import { TextField } from '../../ui/controls.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { ReasonField } from '../../ui/ReasonField.tsx';
import { Empty } from '../../ui/states.tsx';
import { NO_PLACE, PlaceFields } from './PlaceFields.tsx';
import { wording } from './wording.ts';
import { gapWords, givenWords, nextOf, scopeWords } from './words.ts';

/** The numbering rules of the organisation, and where each has begun to count. */
export const NumberRules = ({ rules }: { rules: readonly NumberRule[] }) => {
  const [starting, setStarting] = useState(false);
  return rules.length === 0 ? (
    <Empty title={wording.noNumberingRuleYet}>{wording.typesWithExternalNumbersNeedNone}</Empty>
  ) : (
    <div tabIndex={0} role="region" aria-label={wording.rules} className="min-h-0 flex-1 overflow-y-auto p-4">
      <div className="mb-3 flex max-w-5xl items-center justify-between gap-4">
        <p className="text-ink-2">{wording.aNumberIsTakenByThe}</p>
        <button type="button" className="btn" onClick={() => setStarting(true)}>
          {wording.setStartingNumber}
        </button>
      </div>
      <ul className="flex max-w-5xl flex-col gap-3">
        {rules.map((rule) => (
          <li key={rule.rule} className="pane">
            <div className="flex items-baseline gap-4 border-b border-line bg-film-2 px-4 py-2">
              <h2 className="num !text-[13px]">{rule.rule}</h2>
              <TypesOfRule types={rule.types} />
            </div>
            {rule.scopes.length === 0 ? (
              <p className="px-4 py-2 text-ink-3">{wording.itHasNotStartedYet}</p>
            ) : (
              <table className="w-full table-fixed">
                <colgroup>
                  <col className="w-[22%]" />
                  <col className="w-[14%]" />
                  <col className="w-[24%]" />
                  <col />
                </colgroup>
                <thead className="sr-only">
                  <tr>
                    <th>{wording.countsPer}</th>
                    <th>{wording.lastNumber}</th>
                    <th>{wording.next}</th>
                    <th>{wording.givenAndGaps}</th>
                  </tr>
                </thead>
                <tbody>
                  {rule.scopes.map((scope) => (
                    <tr key={scope.scope} className="border-b border-line-2 last:border-0">
                      <td className="num px-4 py-1">{scopeWords(rule, scope.scope)}</td>
                      <td className="px-4 py-1 text-ink-2">
                        {wording.last} <span className="num">{scope.last}</span>
                      </td>
                      <td className="px-4 py-1 text-ink-2">
                        {wording.next2} <span className="num">{nextOf(rule, scope)}</span>
                      </td>
                      <td className="px-4 py-1 text-ink-2">
                        {givenWords(scope)}
                        {scope.gaps.length > 0 && (
                          <span className="block font-semibold text-vermilion">{gapWords(scope)}</span>
                        )}
                      </td>
                    </tr>
                  ))}
                </tbody>
              </table>
            )}
          </li>
        ))}
      </ul>
      {starting && <StartDialog close={() => setStarting(false)} />}
    </div>
  );
};

const SHOWN_TYPES = 6;

/** The types that are numbered by a rule: a handful is named, the rest is a press away. */
const TypesOfRule = ({ types }: { types: NumberRule['types'] }) => {
  const [all, setAll] = useState(types.length <= SHOWN_TYPES + 2);
  const named = all ? types : types.slice(0, SHOWN_TYPES);
  return (
    <span className="text-ink-2">
      {named.map((type) => `${type.code} ${type.name}`).join(', ')}
      {!all && (
        <>
          {' '}
          {wording.and}{' '}
          <button type="button" className="link" onClick={() => setAll(true)}>
            {wording.moreTypes(types.length - SHOWN_TYPES)}
          </button>
        </>
      )}
    </span>
  );
};

const StartDialog = ({ close }: { close: () => void }) => {
  const [place, setPlace] = useState(NO_PLACE);
  const [last, setLast] = useState('');
  const [reason, setReason] = useState('');
  const command = useCommand(api.numbers.start, ({ next }) => wording.theNextOneWillBe(next), close);
  return (
    <FormDialog
      title={wording.setStartingNumber}
      about={<p>{wording.possibleOnceBeforeTheFirstNumber}</p>}
      columns
      command={command}
      button={wording.setStartingNumber}
      onSubmit={() => command.mutate({ body: { ...place, last: Number(last), reason } })}
      onClose={close}
    >
      <PlaceFields value={place} onChange={setPlace} />
      <TextField
        label={wording.lastNumberUsedBeforeKanonos}
        inputMode="numeric"
        pattern="[1-9][0-9]{0,8}"
        required
        value={last}
        onChange={setLast}
        hint={wording.onlyTheCounterSuchAs417}
      />
      <ReasonField value={reason} onChange={setReason} />
    </FormDialog>
  );
};
